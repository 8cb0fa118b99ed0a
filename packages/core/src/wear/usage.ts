import { toEpochDay } from '../units'
import { at, type Exposure, exposureOf, type Stretch, through } from './exposure'
import { usualLitresPerDay } from './factors'
import { PRIORS, sigmaOfCv } from './priors'
import type { WearInput } from './types'

/** What is known of the litres: the rate in usual use, and the exposure in days of usual use that the counters agree with. */
export interface Usage {
  /** Median of the rate the prior expects, litres per day of usual use. */
  priorLitresPerDay: number
  /** Median of what is believed now. */
  litresPerDay: number
  /** Standard deviation of its logarithm. */
  sigma: number
  /** Days of usual use since fitting, warped by what got past the stage before. */
  exposure: Exposure
  evidence: string
  /** ln of the chance of what was counted, up to a constant. */
  logEvidence: number
}

const COUNTER_VARIANCE = 0.005 ** 2
const DRIFT_VARIANCE = PRIORS.yearlyUsageCv ** 2
const weeklyVariance = (days: number): number => (PRIORS.weeklyUsageCv ** 2 * 7) / Math.max(days, 7)

/** Weeks away and weeks with guests, as stretches of the exposure that counts days of usual use. */
function occupancyStretches(input: WearInput, fitted: number): Stretch[] {
  const stretches: Stretch[] = []
  for (const { from, to, share } of input.occupancy ?? []) {
    const end = toEpochDay(to) - fitted
    if (end > 0) stretches.push({ from: toEpochDay(from) - fitted, to: end, rate: share })
  }
  return stretches
}

/** What dirt from the stage before does: the rest shrinks to a share, so every exposure runs faster by its inverse. */
export function carryOverStretches(input: WearInput, fitted: number): Stretch[] {
  return (input.stage.carryOver ?? []).map(({ on, share }) => ({
    from: toEpochDay(on) - fitted,
    to: Number.POSITIVE_INFINITY,
    rate: 1 / share,
  }))
}

/** Days of usual use between two epoch days, by the occupancy alone. */
function usualDays(input: WearInput, from: number, to: number): number {
  let days = to - from
  for (const one of input.occupancy ?? []) {
    const overlap = Math.min(to, toEpochDay(one.to)) - Math.max(from, toEpochDay(one.from))
    if (overlap > 0) days -= overlap * (1 - one.share)
  }
  return Math.max(days, 0)
}

interface Mark {
  day: number
  litres: number
}

/** A rate this far (on the log scale, a factor of five) from the others and from what is expected is a slip, not a habit. */
const SLIP = Math.log(5)

/** Counter readings in order of days. */
function counterMarks(input: WearInput, fitted: number): Mark[] {
  const marks: Mark[] = []
  for (const { on, counterL } of input.readings) {
    const day = toEpochDay(on) - fitted
    if (counterL !== undefined && day > 0) marks.push({ day, litres: counterL })
  }
  if (marks.length > 1) marks.sort((a, b) => a.day - b.day || a.litres - b.litres)
  return marks
}

/**
 * The marks without slips and without those that contradict the others (the screen asks about both when they are entered).
 * A single counter is believed as it stands: only others can convict it, so that more litres never mean a longer life.
 */
function believable(marks: readonly Mark[], logRate: (mark: Mark) => number, expected: number): readonly Mark[] {
  if (marks.length < 2) return marks
  const rates = marks.map(logRate)
  if (marks.length === 2) rates.push(expected)
  rates.sort((a, b) => a - b)
  const centre = rates[rates.length >> 1] as number
  const off = (mark: Mark): number => Math.abs(logRate(mark) - centre)
  const kept: Mark[] = []
  for (const mark of marks) {
    if (marks.length > 2 && off(mark) > SLIP) continue
    // Of two that contradict each other the likelier stays, and may contradict the one before as well.
    let before = kept[kept.length - 1]
    while (before !== undefined && before.litres > mark.litres && off(mark) < off(before)) {
      kept.pop()
      before = kept[kept.length - 1]
    }
    if (before === undefined || before.litres <= mark.litres) kept.push(mark)
  }
  return kept
}

/** Litres the part before drew, as an observation of the rate. */
function pastRates(input: WearInput): { log: number; variance: number }[] {
  const rates: { log: number; variance: number }[] = []
  for (const { fittedOn, removedOn, litres } of input.past) {
    if (litres === undefined || litres <= 0) continue
    const days = usualDays(input, toEpochDay(fittedOn), toEpochDay(removedOn))
    if (days >= 7) rates.push({ log: Math.log(litres / days), variance: weeklyVariance(days) + DRIFT_VARIANCE })
  }
  return rates
}

/**
 * Normal prior and normal observations on the logarithm of the rate (conjugate): people's usual use, the counter since fitting,
 * the litres of past parts. Sources: `PRIORS`; the weekly scatter averages out with the days counted.
 */
export function usageOf(input: WearInput): Usage {
  const fitted = toEpochDay(input.stage.fittedOn)
  const priorLitresPerDay = usualLitresPerDay(input.stage)
  const warps = carryOverStretches(input, fitted)
  const plain = exposureOf(occupancyStretches(input, fitted))
  const rates = pastRates(input)
  const marks = believable(
    counterMarks(input, fitted),
    ({ day, litres }) => Math.log(Math.max(litres, 1e-6) / Math.max(at(plain, day), 0.5)),
    Math.log(Math.max(priorLitresPerDay, 1e-6)),
  )
  const priorPrecision = 1 / sigmaOfCv(input.spread?.usageCv ?? PRIORS.usageCv) ** 2
  let precision = priorPrecision
  let weighted = priorPrecision * Math.log(Math.max(priorLitresPerDay, 1e-6))
  let logEvidence = 0
  let evidence = input.stage.site.litresPerDay === undefined ? `${input.stage.site.people} people, no counter` : 'the site’s own figure'
  const observe = (log: number, variance: number): void => {
    const expected = variance + 1 / precision
    logEvidence -= 0.5 * Math.log(expected) + (0.5 * (log - weighted / precision) ** 2) / expected
    precision += 1 / variance
    weighted += log / variance
  }
  for (const { log, variance } of rates) {
    observe(log, variance)
    evidence = 'litres of the part before'
  }
  const last = marks[marks.length - 1]
  const counted = last === undefined ? 0 : at(plain, last.day)
  if (last !== undefined && last.litres > 0 && counted > 0) {
    observe(Math.log(last.litres / counted), COUNTER_VARIANCE + weeklyVariance(counted))
    evidence = `counter at ${Math.round(last.litres)} L after ${last.day} days`
  }
  const litresPerDay = Math.exp(weighted / precision)
  const bent = through(
    plain,
    marks.map(({ day, litres }) => ({ day, value: litres / litresPerDay })),
  )
  const sigma = Math.sqrt(1 / precision + weeklyVariance(90))
  return { priorLitresPerDay, litresPerDay, sigma, exposure: warps.length === 0 ? bent : warped(bent, warps), evidence, logEvidence }
}

/** Runs an exposure faster from the day on which dirt came through. */
function warped(exposure: Exposure, warps: readonly Stretch[]): Exposure {
  const cuts = new Set(exposure.days)
  for (const { from } of warps) cuts.add(Math.max(from, 0))
  const days = [...cuts].sort((a, b) => a - b)
  const rate = (day: number): number => warps.reduce((product, one) => (one.from <= day ? product * one.rate : product), 1)
  const values = [0]
  for (let i = 1; i < days.length; i++) {
    const start = days[i - 1] as number
    values.push((values[i - 1] as number) + (at(exposure, days[i] as number) - at(exposure, start)) * rate(start))
  }
  return { days, values, slope: exposure.slope * rate(days[days.length - 1] as number) }
}
