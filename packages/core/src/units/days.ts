/**
 * Working days as ISO dates (`2026-03-06`), free of any zone: which day an instant falls on is decided
 * by the caller, in the firm's zone. Arithmetic is on the proleptic Gregorian calendar through UTC midnights.
 */

const MS_PER_DAY = 86_400_000
const ISO_DAY = /^(\d{4})-(\d{2})-(\d{2})$/

function toEpochDay(day: string): number {
  const found = ISO_DAY.exec(day)
  if (!found) throw new RangeError(`day must be YYYY-MM-DD, got ${day}`)
  const ms = Date.UTC(Number(found[1]), Number(found[2]) - 1, Number(found[3]))
  if (new Date(ms).toISOString().slice(0, 10) !== day) throw new RangeError(`no such day: ${day}`)
  return ms / MS_PER_DAY
}

const fromEpochDay = (epochDay: number): string => new Date(epochDay * MS_PER_DAY).toISOString().slice(0, 10)

/** True for a real calendar day written `YYYY-MM-DD` (29 February only in leap years). */
export function isIsoDay(text: string): boolean {
  const found = ISO_DAY.exec(text)
  if (!found) return false
  const ms = Date.UTC(Number(found[1]), Number(found[2]) - 1, Number(found[3]))
  return new Date(ms).toISOString().slice(0, 10) === text
}

/** The day `days` whole days after `day`; a fraction is dropped towards the earlier day. */
export function addDays(day: string, days: number): string {
  return fromEpochDay(toEpochDay(day) + Math.floor(days))
}

/** Whole days from `from` to `to`; negative when `to` is earlier. */
export function daysBetween(from: string, to: string): number {
  return toEpochDay(to) - toEpochDay(from)
}

/** ISO weekday, 1 Monday to 7 Sunday. */
export function isoWeekday(day: string): number {
  const sinceMonday = (toEpochDay(day) + 3) % 7
  return (sinceMonday < 0 ? sinceMonday + 7 : sinceMonday) + 1
}

/** The Monday on or before `day`. */
export function weekStart(day: string): string {
  return addDays(day, 1 - isoWeekday(day))
}

/** 1 on 1 January, 365 or 366 on 31 December. */
export function dayOfYear(day: string): number {
  return daysBetween(`${day.slice(0, 4)}-01-01`, day) + 1
}
