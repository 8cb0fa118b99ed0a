import type { Medium, StandardMedium } from '../catalogue/names'
import { isOwn } from '../catalogue/own-kinds'
import { fromEpochDay, toEpochDay } from '../units'
import { type Due, type DueRule, dueOf } from './due'
import { forecast } from './forecast'
import { dayOfChance, type SurvivalCurve, survivalCurveOf } from './survival-curve'
import type { Cause, WearInput } from './types'

/**
 * What a day past the end costs, in days of life: complaint, the next stage fouled, water nobody should drink. Ours, until the firm says
 * otherwise for a medium.
 */
const LATE_DAYS_WORTH: Record<StandardMedium, number> = {
  sediment: 4,
  'carbon-block': 4,
  'sediment-carbon': 4,
  'fluoride-media': 4,
  membrane: 3,
  ultrafiltration: 8,
  'post-carbon': 2,
  remineraliser: 2,
  'deionising-resin': 5,
  'carbon-tank': 3,
  'iron-bed': 4,
  'ph-bed': 2,
  'fridge-internal': 2,
  'fridge-inline': 2,
  'uv-lamp': 8,
  'uv-sleeve': 4,
  softener: 2,
  'chlorine-feed': 6,
  'air-filter': 2,
}

/** The same for a medium by its name; what the firm named itself is taken for a part that others stand behind. */
export const usualLateDays = (media: Medium): number => (isOwn(media) ? LATE_DAYS_WORTH['carbon-block'] : LATE_DAYS_WORTH[media])

/** What is stored of a stage's forecast: the survival curve, and the day to change by the rule in force. */
export interface StageSummary {
  curve: SurvivalCurve
  due: Due
  /** Days by which one part in ten, one in two and nine in ten are done, nothing assumed of today. */
  p10: string
  p50: string
  p90: string
  governing: Cause
}

/** A stage and the rule of its day to change. */
export interface RuledStage {
  input: WearInput
  rule: DueRule
}

/** Summary of a stage as of `input.today`; null when nothing rates its part. A `today` before the fitting is taken as the fitting day. */
export function summarise({ input, rule }: RuledStage): StageSummary | null {
  const asOf = input.today < input.stage.fittedOn ? { ...input, today: input.stage.fittedOn } : input
  const curve = survivalCurveOf(asOf)
  const told = forecast(asOf)
  const due = dueOf(asOf, rule)
  if (curve === null || !told.ok || due === null) return null
  const fitted = toEpochDay(curve.fittedOn)
  const day = (p: number): string => fromEpochDay(fitted + Math.floor(dayOfChance(curve, p)))
  return { curve, due, p10: day(0.1), p50: day(0.5), p90: day(0.9), governing: told.governing }
}

/** The state of a stored day to change on a later day, nothing learned meanwhile. */
export function stateOn({ due, windowFrom, spentOn }: Pick<Due, 'due' | 'windowFrom' | 'spentOn'>, today: string): Due['state'] {
  if (spentOn <= today) return 'spent'
  if (due < today) return 'overdue'
  return windowFrom <= today ? 'any-day' : 'good'
}
