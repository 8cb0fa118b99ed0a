/**
 * Working days as ISO dates (`2026-03-06`), free of any zone: which day an instant falls on is decided
 * by the caller, in the firm's zone. Arithmetic is on the proleptic Gregorian calendar through UTC midnights.
 */

const ZERO = 48

/** Digits `from` to `to` of `text` as a number, −1 when one of them is not a digit. */
function digits(text: string, from: number, to: number): number {
  let value = 0
  for (let i = from; i < to; i++) {
    const digit = text.charCodeAt(i) - ZERO
    if (digit < 0 || digit > 9) return -1
    value = value * 10 + digit
  }
  return value
}

const isLeap = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0
const MONTH_DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
const daysIn = (year: number, month: number): number => (month === 2 && isLeap(year) ? 29 : (MONTH_DAYS[month - 1] ?? 0))

/** Days since 1970-01-01, null for anything but a real day. Counting years from March puts the leap day last. */
function parseDay(day: string): number | null {
  if (day.length !== 10 || day[4] !== '-' || day[7] !== '-') return null
  const year = digits(day, 0, 4)
  const month = digits(day, 5, 7)
  const date = digits(day, 8, 10)
  if (year < 0 || date < 1 || date > daysIn(year, month)) return null
  const fromMarch = month > 2 ? year : year - 1
  const dayOfMarchYear = Math.floor((153 * ((month + 9) % 12) + 2) / 5) + date - 1
  return 365 * fromMarch + Math.floor(fromMarch / 4) - Math.floor(fromMarch / 100) + Math.floor(fromMarch / 400) + dayOfMarchYear - 719_468
}

const pad = (value: number, width: number): string => String(value).padStart(width, '0')
/** "00" to "31": days are written more often than anything else. */
const TWO = Array.from({ length: 32 }, (_, value) => pad(value, 2))

/** Whole days since 1970-01-01. Throws `RangeError` for anything but a real day written `YYYY-MM-DD`. */
export function toEpochDay(day: string): number {
  const epochDay = parseDay(day)
  if (epochDay === null) throw new RangeError(`no such day: ${day} (days are written YYYY-MM-DD)`)
  return epochDay
}

/** The ISO day of a whole number of days since 1970-01-01; kept within years 0000 to 9999. */
export function fromEpochDay(epochDay: number): string {
  const sinceMarch0 = epochDay + 719_468
  const era = Math.floor(sinceMarch0 / 146_097)
  const inEra = sinceMarch0 - era * 146_097
  const yearOfEra = Math.floor((inEra - Math.floor(inEra / 1460) + Math.floor(inEra / 36_524) - Math.floor(inEra / 146_096)) / 365)
  const dayOfYearFromMarch = inEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100))
  const marchMonth = Math.floor((5 * dayOfYearFromMarch + 2) / 153)
  const date = dayOfYearFromMarch - Math.floor((153 * marchMonth + 2) / 5) + 1
  const month = marchMonth < 10 ? marchMonth + 3 : marchMonth - 9
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0)
  return `${year > 999 ? year : pad(year, 4)}-${TWO[month]}-${TWO[date]}`
}

/** True for a real calendar day written `YYYY-MM-DD` (29 February only in leap years). */
export const isIsoDay = (text: string): boolean => parseDay(text) !== null

/** The day `days` whole days after `day`; a fraction is dropped towards the earlier day. */
export function addDays(day: string, days: number): string {
  return fromEpochDay(toEpochDay(day) + Math.floor(days))
}

/** The same date so many months on; the last of the month where that month is shorter. */
export function addMonths(day: string, months: number): string {
  toEpochDay(day)
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number)
  const at = year * 12 + month - 1 + months
  const [newYear, newMonth] = [Math.floor(at / 12), (at % 12) + 1]
  return `${pad(newYear, 4)}-${pad(newMonth, 2)}-${pad(Math.min(date, daysIn(newYear, newMonth)), 2)}`
}

/** First and last day of the month a day lies in. */
export function monthOf(day: string): { from: string; to: string } {
  const from = `${day.slice(0, 8)}01`
  return { from, to: addDays(addMonths(from, 1), -1) }
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
