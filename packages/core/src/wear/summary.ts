import type { Medium } from '../catalogue/names'
import { fromEpochDay, toEpochDay } from '../units'
import { type Belief, beliefOf, dayOfChance } from './belief'
import { forecast } from './forecast'
import { type DueCosts, riskDay } from './risk-day'
import type { Cause, WearInput } from './types'

/**
 * What a day past the end costs, in days of life: complaint, the next stage fouled, water nobody should drink. At 4 a stage is changed
 * when one in four like it would be over. Ours, to be edited by the firm one day.
 */
export const LATE_DAYS_WORTH: Record<Medium, number> = {
  sediment: 4,
  'carbon-block': 4,
  'fluoride-media': 4,
  membrane: 3,
  'post-carbon': 2,
  remineraliser: 2,
  'deionising-resin': 5,
  'carbon-tank': 3,
  'fridge-internal': 2,
  'fridge-inline': 2,
  'uv-lamp': 8,
  'uv-sleeve': 4,
  softener: 2,
  'air-filter': 2,
}
const HARMLESS: readonly Medium[] = ['post-carbon', 'remineraliser', 'fridge-internal', 'fridge-inline', 'air-filter']

/** Costs of a stage's change in shares of itself, for a part of this median life in days. */
export const dueCosts = (media: Medium, medianDays: number): DueCosts => ({
  change: 1,
  latePerDay: LATE_DAYS_WORTH[media] / Math.max(1, medianDays),
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
  const day = (p: number): string => fromEpochDay(fitted + Math.floor(dayOfChance(belief, p)))
  return {
    belief,
    ...riskDay(belief, dueCosts(input.stage.media, dayOfChance(belief, 0.5))),
    p10: day(0.1),
    p50: day(0.5),
    p90: day(0.9),
    governing: told.governing,
  }
}
