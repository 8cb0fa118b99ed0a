import { FLOOR_MGL, STRENGTH_CEILING_MGL, topUp } from '@evenround/core/disinfection'
import { minutesBetween, type Tide } from '@evenround/core/job'
import { numberText, say } from '@evenround/core/words'
import { duration, figure } from '../../ui/format'

/** The water that stands there, and what one mL or g of the product holds, mg. */
export interface Dosing {
  totalL: number
  available: number
}
export interface ContactView {
  tone: 'good' | 'look' | 'danger'
  title: string
  text: string
  /** What a strip under the target asks for, mL or g of the product; null where nothing is to be added. */
  redose: number | null
  mayEnd: boolean
}

const thousands = (value: number): string => numberText(Math.round(value))

/** What the strips so far say of the contact, in a sentence with its numbers, and what to do. */
export function contactView(
  tide: Tide,
  now: string,
  dosing: Dosing,
  clock: (instant: string) => string,
  nameOf: (place: string) => string = (place) => place,
): ContactView {
  const { hours } = tide.asked
  const { result, points } = tide
  const last = points.at(-1)
  const waited = minutesBetween(tide.from, now)
  if (tide.unread !== null)
    return {
      tone: 'look',
      title: say`Read a strip at ${nameOf(tide.unread)}`,
      text: say`It began weakest of all, at ${figure(last?.mgL ?? 0)} mg/L, and nobody has read it since. What other outlets show does not speak for it.`,
      redose: null,
      mayEnd: false,
    }
  if (tide.earlyAt !== null)
    return {
      tone: 'look',
      title: now >= tide.earlyAt ? say`Read a strip now` : say`Read a strip at ${clock(tide.earlyAt)}`,
      text: say`Sulphide or ammonia is in this water and eats chlorine fast: a strip after half an hour says whether enough is left, before the night is lost.`,
      redose: null,
      mayEnd: false,
    }
  if (result === null || !last) {
    return {
      tone: 'look',
      title: waited >= hours * 60 ? say`Read a strip: its time is over` : say`Waiting`,
      text: say`The weakest outlet began at ${figure(last?.mgL ?? 0)} mg/L. A strip at the end decides; one in between tells how fast it falls.`,
      redose: null,
      mayEnd: false,
    }
  }
  const share = say`${thousands(result.achievedMgMinL)} of ${thousands(tide.asked.mgMinL)} mg·min/L are in.`
  if (result.verdict === 'pass')
    return {
      tone: 'good',
      title: say`Contact is enough`,
      text: say`${share} The last strip, ${figure(last.mgL)} mg/L, is at the floor of ${FLOOR_MGL} or over it.`,
      redose: null,
      mayEnd: true,
    }
  if (result.verdict === 'extend') {
    const until = new Date(Date.parse(last.at) + (result.extendMinutes ?? 0) * 60_000).toISOString()
    const left = last.mgL * Math.exp((-(result.decayPerHour ?? 0) / 60) * (result.extendMinutes ?? 0))
    const early = last.minute < hours * 60
    return {
      tone: early ? 'good' : 'look',
      title: early ? say`On course` : say`Wait ${duration(result.extendMinutes ?? 0)} longer`,
      text: say`${share} At ${clock(until)} about ${figure(left)} mg/L will be left, over the floor of ${FLOOR_MGL}. Read a strip then.`,
      redose: null,
      mayEnd: false,
    }
  }
  const added = result.redoseMgL ?? 0
  const { inAllMgL, allowed, amount } = topUp(last.mgL, added, dosing.totalL, dosing.available)
  if (!allowed)
    return {
      tone: 'danger',
      title: say`It will not last: flush it and begin again`,
      text: say`${share} Another ${figure(added)} mg/L would bring the water to ${figure(inAllMgL)} mg/L, over ${STRENGTH_CEILING_MGL} in all. Flush until strips are clear, then dose anew.`,
      redose: null,
      mayEnd: false,
    }
  return {
    tone: 'danger',
    title: say`It will not last: dose again`,
    text: say`${share} At this pace it falls under ${FLOOR_MGL} mg/L before its time. ${figure(added)} mg/L are to be added, and every outlet run again.`,
    redose: amount,
    mayEnd: false,
  }
}
