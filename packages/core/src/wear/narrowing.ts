import { daysBetween } from '../units'
import { LIMITS } from './channels'
import { forecast } from './forecast'
import { PRIORS, START, sigmaOfCv } from './priors'
import type { Cause, WearForecast, WearInput, WearReading } from './types'
import { usageOf } from './usage'

/** A reading a technician could take today, by the words the screens know it by. */
export type ReadingKind = 'counter' | 'pressure-pair' | 'tds-pair' | 'feed-tds' | 'permeate' | 'chlorine-after' | 'intensity'

export interface Narrowing {
  reading: ReadingKind
  /** Days between the 10 % and the 90 % day that are to be expected after it. */
  windowDaysAfter: number
}

/** Points of the present curve at which a reading is imagined, and their weights. */
const POINTS = [
  { at: 'p10', weight: 0.3, z: -1.2816 },
  { at: 'p50', weight: 0.4, z: 0 },
  { at: 'p90', weight: 0.3, z: 1.2816 },
] as const

const latest = (input: WearInput, has: (reading: WearReading) => boolean): WearReading | undefined =>
  input.readings
    .filter(has)
    .reduce<WearReading | undefined>((last, one) => (last === undefined || one.on >= last.on ? one : last), undefined)

/** A reading so many times as far on its way as to its limit is as far past it as instruments go. */
const FURTHEST = 2

/** On the way from `start` to `limit` (a straight line of the logarithm) and past it, where a cause stands today that ends on `end`. */
function onTheWay(input: WearInput, end: string, start: number, limit: number): number {
  const { fittedOn } = input.stage
  const share = daysBetween(fittedOn, input.today) / Math.max(1, daysBetween(fittedOn, end))
  return start * (limit / start) ** Math.min(FURTHEST, share)
}

const first = (input: WearInput, of: (reading: WearReading) => number | undefined, otherwise: number): number => {
  for (const reading of input.readings) {
    const value = of(reading)
    if (value !== undefined && value > 0) return value
  }
  return otherwise
}

interface Candidate {
  reading: ReadingKind
  cause: Cause
  /** What would be read today if the cause ended on `end` (or the litres stood at `z` of their spread). */
  imagine: (end: string, z: number) => WearReading
}

/** Readings that bear on the causes that take part. */
function candidates(input: WearInput): Candidate[] {
  const limits = { ...LIMITS, ...input.stage.limits }
  const on = input.today
  const feed = first(input, ({ feedTdsMgL }) => feedTdsMgL, PRIORS.feedTdsMgL)
  const counter = (_: string, z: number): WearReading => {
    const { litresPerDay, sigma } = usageOf(input)
    const last = latest(input, ({ counterL }) => counterL !== undefined)
    const from = last?.on ?? input.stage.fittedOn
    return { on, counterL: (last?.counterL ?? 0) + litresPerDay * Math.exp(z * sigma) * daysBetween(from, on) }
  }
  const passageStart = first(
    input,
    ({ feedTdsMgL, productTdsMgL }) => (feedTdsMgL && productTdsMgL ? productTdsMgL / feedTdsMgL : undefined),
    Math.exp(START.passage.mean),
  )
  const cleanKpa = first(
    input,
    ({ inKpa, outKpa }) => (inKpa !== undefined && outKpa !== undefined ? inKpa - outKpa : undefined),
    Math.exp(START.dropKpa.mean),
  )
  const permeate = first(input, ({ productLMin }) => productLMin, 0.2)
  return [
    { reading: 'counter', cause: 'throughput', imagine: counter },
    { reading: 'counter', cause: 'resin', imagine: counter },
    {
      reading: 'feed-tds',
      cause: 'resin',
      imagine: (_, z) => ({ on, feedTdsMgL: feed * Math.exp(z * sigmaOfCv(PRIORS.feedReadingCv)) }),
    },
    {
      reading: 'pressure-pair',
      cause: 'pressure',
      imagine: (end) => ({ on, outKpa: 300, inKpa: 300 + onTheWay(input, end, cleanKpa, cleanKpa + limits.overCleanKpa) }),
    },
    {
      reading: 'tds-pair',
      cause: 'passage',
      imagine: (end) => {
        const limit = limits.passage ?? passageStart * limits.passageRatio
        return { on, feedTdsMgL: feed, productTdsMgL: feed * onTheWay(input, end, passageStart, limit) }
      },
    },
    {
      reading: 'permeate',
      cause: 'production',
      imagine: (end) => ({ on, productLMin: onTheWay(input, end, permeate, permeate * limits.permeateShare), waterC: 25 }),
    },
    {
      reading: 'chlorine-after',
      cause: 'breakthrough',
      imagine: (end) => ({ on, chlorineAfterMgL: onTheWay(input, end, Math.exp(START.chlorineMgL.mean), limits.chlorineMgL) }),
    },
    {
      reading: 'intensity',
      cause: 'intensity',
      imagine: (end) => ({ on, intensityPercent: onTheWay(input, end, 100, limits.intensityPercent) }),
    },
  ]
}

/**
 * What one more reading today would do to the window: each kind that bears on a cause taking part is imagined at the 10 %, 50 % and
 * 90 % points of what is believed now, the forecast recomputed, and the windows averaged. Shortest expected window first; kinds that
 * would not narrow it are left out. Costs three forecasts a kind, so it is asked for and not part of every forecast.
 */
export function narrowing(input: WearInput, now: WearForecast): Narrowing[] {
  const window = daysBetween(now.p10, now.p90)
  const best = new Map<ReadingKind, number>()
  for (const { reading, cause, imagine } of candidates(input)) {
    const believed = now.causes.find((one) => one.cause === cause)
    if (believed === undefined || best.has(reading)) continue
    let days = 0
    for (const { at, weight, z } of POINTS) {
      const after = forecast({ ...input, readings: [...input.readings, imagine(believed[at], z)] })
      days += weight * (after.ok ? daysBetween(after.p10, after.p90) : window)
    }
    if (days < window) best.set(reading, days)
  }
  return [...best].map(([reading, windowDaysAfter]) => ({ reading, windowDaysAfter })).sort((a, b) => a.windowDaysAfter - b.windowDaysAfter)
}
