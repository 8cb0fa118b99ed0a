import { seeded } from './rng'

/** What a TDS meter's probe is in, and what it carries from before. */
export interface Dip {
  /** True TDS of this water, mg/L at 25 °C. */
  waterMgL: number
  /** TDS of the water the probe was in before; it takes seconds to be washed out. */
  carriedMgL: number
  waterC: number
  /** How far the meter is off, as a factor: it drifts between calibrations. */
  drift: number
  seed: number
}

export interface TdsDisplay {
  /** As shown, three digits. */
  display: number
  /** The small mark: the value is ten times what is shown. */
  timesTen: boolean
}

/** The probe is rinsed and warmed through by this many seconds. */
const SETTLES_S = 3.5
/** Of the last sample this share stays in the bristles of a probe nobody rinsed. */
const CARRIED = 0.06
const NOISE = 0.0012
const THREE_DIGITS = 999

/** What a hand-held three-digit meter shows so many seconds after it was dipped; the same dip always shows the same. */
export function tdsMeterAt({ waterMgL, carriedMgL, drift, seed }: Dip, seconds: number): TdsDisplay {
  const left = Math.exp(-Math.max(0, seconds) / SETTLES_S)
  const noise = 1 + NOISE * seeded(seed + Math.floor(seconds * 2)).normal()
  const value = Math.max(
    0,
    (waterMgL + (carriedMgL - waterMgL) * CARRIED * left + (carriedMgL - waterMgL) * 0.5 * left * left) * drift * noise,
  )
  return value > THREE_DIGITS ? { display: Math.round(value / 10), timesTen: true } : { display: Math.round(value), timesTen: false }
}

/** Drift of a meter so many days after it was last set by a solution: a slow walk of a few per cent. */
export const meterDrift = (seed: number, daysSinceSet: number): number =>
  1 + 0.00018 * daysSinceSet * (seeded(seed).uniform() < 0.5 ? -1 : 1)

/** A day's water by the hour: morning and evening at a house. */
const BY_HOUR = [1, 0.5, 0.4, 0.4, 0.5, 1.5, 5, 8, 7, 5, 4, 4, 5, 4, 3.5, 4, 5, 7, 8, 7, 5, 4, 3, 2] as const
const HOURS_SUM = BY_HOUR.reduce((sum, share) => sum + share, 0)
const DAY_MS = 86_400_000
const HOUR_MS = 3_600_000

export interface PulseCounter {
  seed: number
  startMs: number
  /** What it showed then. */
  startL: number
  litresPerDay: number
  litresPerPulse: number
  /** Places before the counter begins again at nothing. */
  places: number
}

/** What a pulse counter shows at an instant: whole pulses, days that differ, hours of a house. Only a function of time, so that a repeat is a repeat. */
export function pulseCounterAt({ seed, startMs, startL, litresPerDay, litresPerPulse, places }: PulseCounter, atMs: number): number {
  const span = Math.max(0, atMs - startMs)
  const days = Math.floor(span / DAY_MS)
  const drawn = (day: number): number => litresPerDay * seeded(seed + 31 * day).spread(0.3)
  let litres = 0
  for (let day = 0; day < days; day++) litres += drawn(day)
  const within = span - days * DAY_MS
  const hour = Math.floor(within / HOUR_MS)
  const share = BY_HOUR.slice(0, hour).reduce((sum, part) => sum + part, 0) + (BY_HOUR[hour] ?? 0) * ((within % HOUR_MS) / HOUR_MS)
  litres += drawn(days) * (share / HOURS_SUM)
  const pulses = Math.floor(litres / litresPerPulse)
  return (startL + pulses * litresPerPulse) % 10 ** places
}

export interface LampController {
  startMs: number
  startHours: number
  /** Intensity of new at a full rated life, %; it falls about straight. */
  lostPercentPerHour: number
  seed: number
}

/** What a lamp's controller shows: hours lit, and the sensor's intensity behind a wiped sleeve. */
export function lampControllerAt(
  { startMs, startHours, lostPercentPerHour, seed }: LampController,
  atMs: number,
): { hours: number; intensityPercent: number } {
  const hours = startHours + Math.max(0, atMs - startMs) / HOUR_MS
  const noise = 1 + 0.01 * seeded(seed + Math.floor(hours)).normal()
  return { hours: Math.floor(hours), intensityPercent: Math.round(Math.max(0, (100 - lostPercentPerHour * hours) * noise)) }
}

/** A photometer reads no chlorine above this without thinning the sample, mg/L. */
export const PHOTOMETER_MOST_MG_L = 8
const PHOTOMETER_STEP = 0.01

/** What a chlorine photometer shows for a sample: hundredths of a mg/L, a few per cent and a hundredth off, `over` above its range. */
export function photometerOf(trueMgL: number, seed: number): { mgL: number; over: boolean } {
  const rng = seeded(seed)
  const read = Math.max(0, trueMgL * (1 + 0.03 * rng.normal()) + 0.006 * rng.normal())
  const over = read > PHOTOMETER_MOST_MG_L
  return { mgL: over ? PHOTOMETER_MOST_MG_L : Math.round(read / PHOTOMETER_STEP) * PHOTOMETER_STEP, over }
}
