import type { Discharge } from '../disinfection/plan'

/** Ours never stands over what holds where the work is done. */
export const FIRST = 'Local codes, product labels and licensed practice come first; many places want a licensed person for wells.'
export const HAZARDS = 'Strong chlorine: eyes, skin, clothes, lungs. Never with acids, ammonia or another chlorine product.'
export const GRANULES = 'Calcium hypochlorite is an oxidiser: dry, away from oil, dissolved before use, never with liquid products.'
export const NEVER_ENTER = 'Never enter a well, a pit or a tank: the air in it can kill. Never alone at an open shaft or hatch.'
export const WELL_POWER =
  'Mains and water: power locked off with the cap off; where it must be on, wires secured, a residual-current device, dry hands.'
export const BACK_CAUTION = 'Backflow protection between hose, well, tank and mains; no hose is left in.'
export const DISCHARGE_CAUTION: Readonly<Record<Discharge, string>> = {
  sewer: 'Sanitary sewer only through an air gap and with permission.',
  'hard-surface': 'A hard surface that drains nowhere living: no lawn, stream or storm drain.',
  neutralised: 'Neutralise dilute water only, strip it, then let it go where rules allow.',
}
