import { toEpochDay } from '../units'
import { say } from '../words'
import { at, type Exposure, exposureOf, type Stretch, through } from './exposure'
import { usualLitresPerDay } from './factors'
import { PRIORS, sigmaOfCv } from './priors'
import { type Seen, seenReadings } from './seen'
import { type Look, type Total, totalsOf } from './totals'
import type { WearInput, WearReading } from './types'

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
  /** The same without what got past the stage before: litres drawn over the rate. */
  usual: Exposure
  evidence: string
  /** ln of the chance of what was counted, up to a constant. */
  logEvidence: number
}

const COUNTER_VARIANCE = 0.005 ** 2
const COUNTER_STEP_L = 1
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

/** A rate so far (on the log scale, a factor of five) over all the others and over what is expected is a slip, not a habit. */
const SLIP = Math.log(5)

/**
 * Totals without slips (the screen asks about them when they are entered). One or two are believed as they stand: only others can
 * convict a figure, so that more litres never mean a longer life.
 */
function believable(totals: readonly Total[], logRate: (one: Total) => number, expected: number, doubted: Set<number>): readonly Total[] {
  if (totals.length < 3) return totals
  const rates = totals.map(logRate).sort((a, b) => a - b)
  const most = Math.max(rates[rates.length >> 1] as number, expected) + SLIP
  return totals.filter((one) => {
    if (logRate(one) <= most) return true
    doubted.add(one.index)
    return false
  })
}

function counterReadingsOf(seen: readonly Seen[], of: (reading: WearReading) => number | undefined): Look[] {
  const looks: Look[] = []
  for (const { reading, index, day } of seen) {
    const value = of(reading)
    if (value !== undefined && day > 0) looks.push({ day, value, index })
  }
  return looks
}

/** Hours lit since the fitting, by day; resets counted on, slips named. */
export const lampTotals = (seen: readonly Seen[], doubted: Set<number>): Total[] =>
  totalsOf(
    counterReadingsOf(seen, ({ lampHours }) => lampHours),
    doubted,
  )

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
export function usageOf(input: WearInput, seen = seenReadings(input), doubted = new Set<number>()): Usage {
  const fitted = toEpochDay(input.stage.fittedOn)
  const priorLitresPerDay = usualLitresPerDay(input.stage)
  const warps = carryOverStretches(input, fitted)
  const plain = exposureOf(occupancyStretches(input, fitted))
  const rates = pastRates(input)
  const marks = believable(
    totalsOf(
      counterReadingsOf(seen, ({ counterL }) => counterL),
      doubted,
    ),
    ({ day, total }) => Math.log(Math.max(total, COUNTER_STEP_L) / Math.max(at(plain, day), 0.5)),
    Math.log(Math.max(priorLitresPerDay, 1e-6)),
    doubted,
  )
  const priorPrecision = 1 / sigmaOfCv(input.spread?.usageCv ?? PRIORS.usageCv) ** 2
  let precision = priorPrecision
  let weighted = priorPrecision * Math.log(Math.max(priorLitresPerDay, 1e-6))
  let logEvidence = 0
  let evidence =
    input.stage.site.litresPerDay === undefined ? say`${input.stage.site.people} people, no counter` : say`the site’s own figure`
  const observe = (log: number, variance: number): void => {
    const expected = variance + 1 / precision
    logEvidence -= 0.5 * Math.log(expected) + (0.5 * (log - weighted / precision) ** 2) / expected
    precision += 1 / variance
    weighted += log / variance
  }
  for (const { log, variance } of rates) {
    observe(log, variance)
    evidence = say`litres of the part before`
  }
  const last = marks[marks.length - 1]
  const counted = last === undefined ? 0 : at(plain, last.day)
  if (last !== undefined && counted > 0) {
    // Nothing drawn is a figure too: less than the counter's own step, as far as anybody can tell.
    const litres = Math.max(last.total, COUNTER_STEP_L)
    observe(Math.log(litres / counted), COUNTER_VARIANCE + (COUNTER_STEP_L / litres) ** 2 + weeklyVariance(counted))
    evidence = say`counter at ${Math.round(last.total)} L after ${last.day} days`
  }
  const litresPerDay = Math.exp(weighted / precision)
  const usual = through(
    plain,
    marks.map(({ day, total }) => ({ day, value: total / litresPerDay })),
  )
  const sigma = Math.sqrt(1 / precision + weeklyVariance(90))
  const exposure = warps.length === 0 ? usual : warped(usual, warps)
  return { priorLitresPerDay, litresPerDay, sigma, exposure, usual, evidence, logEvidence }
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
