import { isOwn, type Medium, type StandardMedium } from '../../catalogue'
import type { Action } from '../../train'

/** Work at one stage beside what its system wants once (closing, relieving, measuring), minutes. Ours, from the length of its run sheet. */
const ACTION_MIN: Record<Action, number> = { change: 8, wash: 14, clean: 22, refill: 95 }
const SLOW_CHANGE_MIN: Partial<Record<Medium, number>> = { membrane: 18, 'uv-lamp': 14, 'deionising-resin': 12 }
const REFILL_MIN: Partial<Record<Medium, number>> = { softener: 8, 'chlorine-feed': 15, 'ph-bed': 45, 'deionising-resin': 20 }

/** What the stage's part and its bag or box weigh in the van, kg. */
const PART_KG: Record<StandardMedium, number> = {
  sediment: 0.8,
  'carbon-block': 1.2,
  'sediment-carbon': 1.2,
  'fluoride-media': 1.4,
  membrane: 0.6,
  ultrafiltration: 0.5,
  'post-carbon': 0.4,
  remineraliser: 0.9,
  'deionising-resin': 1.8,
  'carbon-tank': 32,
  'iron-bed': 40,
  'ph-bed': 20,
  'fridge-internal': 0.4,
  'fridge-inline': 0.4,
  'uv-lamp': 0.5,
  'uv-sleeve': 0.4,
  softener: 30,
  'chlorine-feed': 5,
  'air-filter': 0.1,
}

/** Minutes of work at a stage. */
export const taskMinutes = (action: Action, media: Medium): number =>
  (action === 'change' ? SLOW_CHANGE_MIN[media] : action === 'refill' ? REFILL_MIN[media] : undefined) ?? ACTION_MIN[action]

/** What the firm named itself is taken for a cartridge. */
const partKg = (media: Medium): number => (isOwn(media) ? PART_KG['carbon-block'] : PART_KG[media])

/** Kilograms a task puts into the van: nothing where the element is washed or the sleeve cleaned. */
export const taskKg = (action: Action, media: Medium): number => (action === 'change' || action === 'refill' ? partKg(media) : 0)
