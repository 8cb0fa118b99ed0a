import { atLeast } from '../units'

/** Free chlorine read with a strip, `minute` minutes after the clock began. */
export interface StripPoint {
  minute: number
  mgL: number
}
export interface ContactInput {
  /** Two or more, minutes strictly rising. */
  strips: readonly StripPoint[]
  targetMgL: number
  minimumHours: number
  /** Least at the end. Default 10 mg/L. */
  floorMgL?: number
  /** As it was before the dose; unknown where it is left out. */
  ph?: number | undefined
  waterC?: number | undefined
}
export type ContactVerdict = 'pass' | 'extend' | 'redose'
export interface ContactResult {
  achievedMgMinL: number
  requiredMgMinL: number
  /** Of the last two strips; negative when rising, null when either is 0. */
  decayPerHour: number | null
  verdict: ContactVerdict
  /** Minutes more, from the last strip; null unless extended. */
  extendMinutes: number | null
  /** To be added, mg/L; null unless dosed again. */
  redoseMgL: number | null
  /** Twice the contact and twice the time were asked for. */
  slowWater: boolean
}

export const FLOOR_MGL = 10
/** A loss of half over the time is allowed. */
const ALLOWED_SHARE = 0.5

const SLOW_ABOVE_PH = 8
const SLOW_BELOW_C = 5
const SLOW_FACTOR = 2

/**
 * How many times the usual contact this water asks for: chlorine works slowly in alkaline water, where most of it is in its weak form,
 * and in cold water. What is not known is not held against it.
 */
export const slowFactor = ({ ph, waterC }: Pick<ContactInput, 'ph' | 'waterC'>): number =>
  (ph !== undefined && ph > SLOW_ABOVE_PH) || (waterC !== undefined && waterC < SLOW_BELOW_C) ? SLOW_FACTOR : 1

/** Contact asked for, mg·min/L. */
export const requiredContact = (targetMgL: number, minimumHours: number): number => targetMgL * minimumHours * 60 * ALLOWED_SHARE

/** Contact between two strips, mg·min/L: (C1 − C2)/k, C·Δt when equal, 0 where either is 0. */
export function between(one: StripPoint, two: StripPoint): number {
  const minutes = two.minute - one.minute
  if (one.mgL <= 0 || two.mgL <= 0) return 0
  const k = Math.log(one.mgL / two.mgL) / minutes
  // Nearly equal strips would lose all figures in (C1 − C2)/k.
  return Math.abs(k * minutes) < 1e-9 ? one.mgL * minutes : (one.mgL - two.mgL) / k
}

/** Decay between two strips, per minute; null when either is 0. */
export const decayOf = (one: StripPoint, two: StripPoint): number | null =>
  one.mgL > 0 && two.mgL > 0 ? Math.log(one.mgL / two.mgL) / (two.minute - one.minute) : null

/** Minutes in which contact D is made up from C at decay k; null when it never is. */
function makeUp(d: number, c: number, k: number): number | null {
  if (d <= 0) return 0
  if (c <= 0) return null
  if (k === 0) return d / c
  const share = (k * d) / c
  return share < 1 ? -Math.log1p(-share) / k : null
}

/**
 * Judges the contact that strips show: achieved is the integral of concentration over time, log-linear between strips.
 * Passes when it reaches half of target × time, the minimum hours have gone by and the last strip is at the floor or over it; else
 * says how many minutes more at the last decay, or how much to dose again. More chlorine never replaces time. In slow water (above
 * pH 8 or below 5 °C) twice the time, and with it twice the contact, is asked for. Unrounded.
 * Throws `RangeError` for fewer than two strips or minutes that do not rise.
 */
export function contact({ strips, targetMgL, minimumHours, floorMgL = FLOOR_MGL, ph, waterC }: ContactInput): ContactResult {
  const factor = slowFactor({ ph, waterC })
  const hours = minimumHours * factor
  const last = strips.at(-1)
  const before = strips.at(-2)
  if (!last || !before) throw new RangeError('two strips are needed')
  let achieved = 0
  for (let index = 1; index < strips.length; index++) {
    const [one, two] = [strips[index - 1] as StripPoint, strips[index] as StripPoint]
    if (two.minute <= one.minute) throw new RangeError(`minutes must rise, got ${one.minute} then ${two.minute}`)
    achieved += between(one, two)
  }
  const required = requiredContact(targetMgL, hours)
  const k = decayOf(before, last)
  const overTime = atLeast(last.minute, hours * 60)
  const missing = overTime ? 0 : hours * 60 - last.minute
  const result = { achievedMgMinL: achieved, requiredMgMinL: required, decayPerHour: k === null ? null : k * 60, slowWater: factor > 1 }
  const enough = atLeast(achieved, required)
  const over = atLeast(last.mgL, floorMgL)
  if (enough && over && overTime) return { ...result, verdict: 'pass', extendMinutes: null, redoseMgL: null }
  const contactMinutes = k === null ? null : makeUp(enough ? 0 : required - achieved, last.mgL, k)
  if (contactMinutes !== null && k !== null && over) {
    const t = Math.max(missing, contactMinutes)
    if (atLeast(last.mgL * Math.exp(-k * t), floorMgL)) return { ...result, verdict: 'extend', extendMinutes: t, redoseMgL: null }
  }
  return { ...result, verdict: 'redose', extendMinutes: null, redoseMgL: last.mgL < targetMgL ? targetMgL - last.mgL : targetMgL }
}
