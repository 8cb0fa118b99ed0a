import type { Medium } from '../../catalogue'
import type { Action } from '../../train'

/** Work at one stage beside what its system wants once (closing, relieving, measuring), minutes. Ours, from the length of its run sheet. */
const ACTION_MIN: Record<Action, number> = { change: 8, wash: 14, clean: 22, refill: 95 }
const SLOW_CHANGE_MIN: Partial<Record<Medium, number>> = { membrane: 18, 'uv-lamp': 14, 'deionising-resin': 12 }

/** What the stage's part and its bag or box weigh in the van, kg. */
const PART_KG: Record<Medium, number> = {
  sediment: 0.8,
  'carbon-block': 1.2,
  'fluoride-media': 1.4,
  membrane: 0.6,
  'post-carbon': 0.4,
  remineraliser: 0.9,
  'deionising-resin': 1.8,
  'carbon-tank': 32,
  'fridge-internal': 0.4,
  'fridge-inline': 0.4,
  'uv-lamp': 0.5,
  'uv-sleeve': 0.4,
  softener: 30,
  'air-filter': 0.1,
}

/** Minutes of work at a stage. */
export const taskMinutes = (action: Action, media: Medium): number =>
  action === 'change' ? (SLOW_CHANGE_MIN[media] ?? ACTION_MIN.change) : ACTION_MIN[action]

/** Kilograms a task puts into the van: nothing where the element is washed or the sleeve cleaned. */
export const taskKg = (action: Action, media: Medium): number => (action === 'change' || action === 'refill' ? PART_KG[media] : 0)
