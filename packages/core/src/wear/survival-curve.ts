import { fromEpochDay, toEpochDay } from '../units'
import { daysServed, modelOf } from './model'
import { LONGEST_LIFE_DAYS } from './priors'
import type { WearInput } from './types'

/**
 * What is believed of a stage's end: the chance of being good on each of some days after fitting. Nothing is assumed of today, so that it
 * does not go stale at midnight.
 */
export interface SurvivalCurve {
  /** ISO day. */
  fittedOn: string
  /** Days after fitting, rising, from 0. */
  days: number[]
  /** Chance of being good on that day, falling from 1. */
  survival: number[]
}

const POINTS = 44
const SURE = 0.999
const OVER = 1e-7

/** The day on which the chance falls to `level`, within a tenth of it. */
function dayOfLevel(level: number, of: (day: number) => number): number {
  let high = 1
  while (of(high) > level && high < LONGEST_LIFE_DAYS) high *= 2
  let low = high / 2
  for (let i = 0; i < 12; i++) {
    const middle = (low + high) / 2
    if (of(middle) > level) low = middle
    else high = middle
  }
  return high
}

/** Shares of a median life that a part of unknown age may have served before it was first seen, all alike likely. */
const SHARES_SERVED = [0.1, 0.3, 0.5, 0.7, 0.9] as const

/** The same stage, fitted so many days before it was first seen. */
const fittedEarlier = (input: WearInput, days: number): WearInput => ({
  ...input,
  stage: { ...input.stage, ageUnknown: false, fittedOn: fromEpochDay(toEpochDay(input.stage.fittedOn) - Math.round(days)) },
})

/**
 * A part of unknown age: each share of a median life it may have served is a curve of its own, given that it was good when first seen,
 * and they are averaged by the chance of having come that far.
 */
function ageless(input: WearInput): SurvivalCurve | null {
  const fresh = knownAge(fittedEarlier(input, 0))
  if (fresh === null) return null
  const median = dayOfChance(fresh, 0.5)
  const ages = SHARES_SERVED.flatMap((share) => {
    const served = Math.round(share * median)
    const curve = knownAge(fittedEarlier(input, served))
    return curve === null ? [] : [{ curve, served, seen: Math.exp(logSurvivalAt(curve, Math.max(served, 1e-6))) }]
  })
  const total = ages.reduce((sum, { seen }) => sum + seen, 0)
  const survival = fresh.days.map((day) =>
    day === 0 ? 1 : ages.reduce((sum, { curve, served }) => sum + Math.exp(Math.min(0, logSurvivalAt(curve, served + day))), 0) / total,
  )
  return { fittedOn: input.stage.fittedOn, days: fresh.days, survival: survival.map(Math.fround) }
}

/** The survival curve of a stage; null when nothing is rated. Same model and schools as `forecast`; of `today` only what was read by then. */
export const survivalCurveOf = (input: WearInput): SurvivalCurve | null =>
  input.stage.ageUnknown === true ? ageless(input) : knownAge(input)

/** Days a part of unknown age is taken to have served where one figure is wanted: half a median life. */
export function likelyServed(input: WearInput): number {
  const fresh = knownAge(fittedEarlier(input, 0))
  return fresh === null ? 0 : Math.round(0.5 * dayOfChance(fresh, 0.5))
}

function knownAge(input: WearInput): SurvivalCurve | null {
  const model = modelOf(input)
  if (model === null) return null
  const of = (day: number): number => model.survival.all(day)
  const first = dayOfLevel(SURE, of)
  const last = Math.max(first * 1.01, dayOfLevel(OVER, of))
  const ratio = (last / first) ** (1 / (POINTS - 1))
  const days = [0]
  const chances = [1]
  let before = 1
  for (let i = 0, day = first; i < POINTS; i++, day *= ratio) {
    before = Math.min(before, of(day))
    // Single precision, as a database keeps it: the same chance is read off it before and after.
    days.push(Math.fround(day))
    chances.push(Math.fround(before))
  }
  return { fittedOn: input.stage.fittedOn, days, survival: chances }
}

const logSurvival = (curve: SurvivalCurve, index: number): number => Math.log(Math.max(curve.survival[index] as number, 1e-12))

/** ln of the chance of being good `day` days after fitting; between the points the hazard is constant, after them it goes on. */
function logSurvivalAt(curve: SurvivalCurve, day: number): number {
  const { days } = curve
  let i = 1
  while (i < days.length - 1 && (days[i] as number) < day) i++
  const from = days[i - 1] as number
  const to = days[i] as number
  const start = logSurvival(curve, i - 1)
  return start + ((logSurvival(curve, i) - start) * (day - from)) / (to - from)
}

/** The day after fitting on which ln of the chance falls to `level` (below 0). */
function dayOfLogSurvival(curve: SurvivalCurve, level: number): number {
  const { days } = curve
  let i = 1
  while (i < days.length - 1 && logSurvival(curve, i) > level) i++
  const start = logSurvival(curve, i - 1)
  const fall = start - logSurvival(curve, i)
  const from = days[i - 1] as number
  return fall <= 0 ? (days[i] as number) : from + (((days[i] as number) - from) * (start - level)) / fall
}

/** Chance that the part is over `age` days after `fittedOn`, 0 to 1; nothing is before it has served a day. */
export const failureProbabilityAtAge = (curve: SurvivalCurve, age: number): number =>
  age <= 0 ? 0 : 1 - Math.exp(Math.min(0, logSurvivalAt(curve, age)))

/**
 * Days past its end that a part changed `age` days after `fittedOn` has stood, as expected: the chance of having ended, summed over its
 * days (the integral of 1 − S from 0 to `age`, at the middle of each day).
 */
export function daysPastEnd(curve: SurvivalCurve, age: number): number {
  let sum = 0
  for (let day = 0; day < age; day++) sum += failureProbabilityAtAge(curve, day + 0.5) * Math.min(1, age - day)
  return sum
}

/** Chance that the part has ended by `today`, 0 to 1, nothing assumed of its state. */
export const failureProbability = (curve: SurvivalCurve, today: string): number =>
  today < curve.fittedOn ? 0 : failureProbabilityAtAge(curve, daysServed(curve.fittedOn, today))

/** Days after fitting by which the chance of having ended reaches `p` (0 to 1), nothing assumed of today. */
export const dayOfChance = (curve: SurvivalCurve, p: number): number => Math.max(0, dayOfLogSurvival(curve, Math.log(1 - p)))

export interface SurvivalReading {
  /** Days after fitting. */
  p10: number
  p50: number
  p90: number
  /** Share of life left at the median, 0 to 1. */
  remaining: number
}

/** The window, nothing assumed of today, and what is left of it. */
export function readSurvivalCurve(curve: SurvivalCurve, today: string): SurvivalReading {
  const age = Math.max(0, toEpochDay(today) - toEpochDay(curve.fittedOn))
  const [p10, p50, p90] = [0.1, 0.5, 0.9].map((p) => dayOfChance(curve, p)) as [number, number, number]
  return { p10, p50, p90, remaining: p50 > 0 ? Math.min(1, Math.max(0, (p50 - age) / p50)) : 0 }
}
