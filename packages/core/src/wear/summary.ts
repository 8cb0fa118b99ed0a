import type { Medium } from '../catalogue/names'
import { fromEpochDay, toEpochDay } from '../units'
import { type Belief, beliefOf, dayOfChance } from './belief'
import { type DueCosts, dueOf } from './due'
import { forecast } from './forecast'
import type { Cause, WearInput } from './types'

/**
 * What a day past the end costs, as a share of the change: complaint, the next stage fouled, water nobody should drink.
 * Ours, to be edited by the firm one day; `bin/bench wear` shows what such shares do.
 */
const LATE_SHARE_PER_DAY: Record<Medium, number> = {
  sediment: 0.04,
  'carbon-block': 0.04,
  'fluoride-media': 0.04,
  membrane: 0.03,
  'post-carbon': 0.02,
  remineraliser: 0.02,
  'deionising-resin': 0.06,
  'carbon-tank': 0.02,
  'fridge-internal': 0.02,
  'fridge-inline': 0.02,
  'uv-lamp': 0.2,
  'uv-sleeve': 0.1,
  softener: 0.02,
  'air-filter': 0.02,
}
const HARMLESS: readonly Medium[] = ['post-carbon', 'remineraliser', 'fridge-internal', 'fridge-inline', 'air-filter']

/** Costs of a stage's change in shares of itself. */
export const dueCosts = (media: Medium): DueCosts => ({
  change: 1,
  latePerDay: LATE_SHARE_PER_DAY[media],
  harmless: HARMLESS.includes(media),
})

/** What is stored of a stage's forecast: the belief, the plan's day and window. */
export interface StageSummary {
  belief: Belief
  dueOn: string
  windowFrom: string
  windowTo: string
  /** Days by which one part in ten, one in two and nine in ten are done, nothing assumed of today. */
  p10: string
  p50: string
  p90: string
  governing: Cause
}

/** Summary of a stage as of `input.today`; null when nothing rates its part. A `today` before the fitting is taken as the fitting day. */
export function summarise(input: WearInput): StageSummary | null {
  const asOf = input.today < input.stage.fittedOn ? { ...input, today: input.stage.fittedOn } : input
  const belief = beliefOf(asOf)
  const told = forecast(asOf)
  if (belief === null || !told.ok) return null
  const fitted = toEpochDay(belief.fittedOn)
  const day = (p: number): string => fromEpochDay(fitted + Math.floor(dayOfChance(belief, p, 0)))
  return {
    belief,
    ...dueOf(belief, dueCosts(input.stage.media)),
    p10: day(0.1),
    p50: day(0.5),
    p90: day(0.9),
    governing: told.governing,
  }
}
