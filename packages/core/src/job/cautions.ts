import type { Discharge } from '../disinfection/plan'
import { caution } from '../words'

/** Ours never stands over what holds where the work is done. */
export const FIRST = () =>
  caution`Local codes, product labels and licensed practice come first; many places want a licensed person for wells.`
export const HAZARDS = () => caution`Strong chlorine: eyes, skin, clothes, lungs. Never with acids, ammonia or another chlorine product.`
export const GRANULES = () =>
  caution`Calcium hypochlorite is an oxidiser: dry, away from oil, dissolved before use, never with liquid products.`
export const NEVER_ENTER = () =>
  caution`Never enter a well, a pit or a tank: the air in it can kill. Never alone at an open shaft or hatch.`
export const WELL_POWER = (): string =>
  caution`Mains and water: power locked off with the cap off; where it must be on, wires secured, a residual-current device, dry hands.`
export const BACK_CAUTION = () => caution`Backflow protection between hose, well, tank and mains; no hose is left in.`
export const DISCHARGE_CAUTION: Readonly<Record<Discharge, string>> = {
  get sewer() {
    return caution`Sanitary sewer only through an air gap and with permission.`
  },
  get 'hard-surface'() {
    return caution`A hard surface that drains nowhere living: no lawn, stream or storm drain.`
  },
  get neutralised() {
    return caution`Neutralise dilute water only, strip it, then let it go where rules allow.`
  },
}
