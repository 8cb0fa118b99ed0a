import { isoWeekday, type ShownDimension, type ShownUnits, toShown, unitOf } from '@evenround/core/units'
import { localeNow, numberText, plainNumber, say } from '@evenround/core/words'
import { localDecimal } from './locale'

/** How days, times and figures are written on screens: the firm's zone decides the day, the language of the device the writing. */

/** Making a formatter takes tens of milliseconds on a slow phone: each is made once, when it is first wanted. */
const made = new Map<string, Intl.DateTimeFormat>()
function formatter(timeZone: string, options: Intl.DateTimeFormatOptions, language = localeNow()): Intl.DateTimeFormat {
  const key = JSON.stringify([language, timeZone, options])
  const known = made.get(key) ?? new Intl.DateTimeFormat(language, { timeZone, ...options })
  made.set(key, known)
  return known
}

/** A calendar day has no zone: it is named in the one it is read in. */
const named = (day: string, part: Intl.DateTimeFormatOptions): string => formatter('UTC', part).format(new Date(`${day}T00:00Z`))
const monthOf = (day: string): string => named(day, { month: 'long' })
const dateOf = (day: string): number => Number(day.slice(8, 10))
/** "6 Mar". */
export const dayWithMonth = (day: string): string => say`${dateOf(day)} ${monthOf(day).slice(0, 3)}`

/** The days of a week from Monday on, as they are called, and by their first letters. */
const weekday = (iso: number, style: 'long' | 'short'): string => named(`2024-01-0${iso}`, { weekday: style })
const ISO_DAYS = [1, 2, 3, 4, 5, 6, 7]
export const weekdayNames = (): string[] => ISO_DAYS.map((iso) => weekday(iso, 'long'))
export const weekdayLetters = (): string[] => ISO_DAYS.map((iso) => weekday(iso, 'short'))
/** The twelve months by their first three letters. */
export const monthLetters = (): string[] =>
  Array.from({ length: 12 }, (_, index) => monthOf(`2024-${String(index + 1).padStart(2, '0')}-01`).slice(0, 3))

/** "6 March". */
export const plainDay = (day: string): string => say`${dateOf(day)} ${monthOf(day)}`
/** "Friday 6 March". */
export const longDay = (day: string): string => `${weekday(isoWeekday(day), 'long')} ${plainDay(day)}`

/** "6 Mar", with the year when it is not the year of `today`. */
export const shortDay = (day: string, today: string): string =>
  day.slice(0, 4) === today.slice(0, 4) ? dayWithMonth(day) : `${dayWithMonth(day)} ${day.slice(0, 4)}`

/** "24 Feb–19 Mar", the year once at the end where it differs from today's. */
export function daySpan(from: string, to: string, today: string): string {
  const sameYear = from.slice(0, 4) === to.slice(0, 4)
  return `${sameYear ? dayWithMonth(from) : shortDay(from, today)}–${shortDay(to, today)}`
}

const DAY_MIN = 1440
/** 485 → "08:05"; past midnight "00:10 next day": no clock shows 24:10. */
export function timeOfDay(minutes: number): string {
  const own = ((minutes % DAY_MIN) + DAY_MIN) % DAY_MIN
  const text = `${String(Math.floor(own / 60)).padStart(2, '0')}:${String(Math.floor(own % 60)).padStart(2, '0')}`
  return minutes >= DAY_MIN ? say`${text} next day` : text
}

/** 125 → "2 h 05", 45 → "45 min". */
export function duration(minutes: number): string {
  const whole = Math.round(minutes)
  if (whole < 60) return say`${whole} min`
  return say`${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')}`
}

/** An instant as "25 Nov 2026, 09:41" in the firm's zone. */
export const instantText = (instant: string, timeZone: string): string =>
  formatter(timeZone, { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' }).format(new Date(instant))

/** Minutes after midnight of an instant in a zone. */
export function minuteOfInstant(instant: string, timeZone: string): number {
  const [hours, minutes] = formatter(timeZone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }, 'en-GB')
    .format(new Date(instant))
    .split(':')
    .map(Number)
  return (hours ?? 0) * 60 + (minutes ?? 0)
}

/** The calendar day of an instant in a zone, ISO. */
export const dayOfInstant = (instant: string, timeZone: string): string =>
  formatter(timeZone, { year: 'numeric', month: '2-digit', day: '2-digit' }, 'sv-SE').format(new Date(instant))

/** Up to one decimal below a hundred, none above. */
export const figure = (value: number): string => plainNumber(Math.abs(value) < 100 ? Math.round(value * 10) / 10 : Math.round(value))

export const percent = (share: number): string => `${plainNumber(Math.round(share * 1000) / 10)} %`

export const money = (minor: number, currency: string): string =>
  numberText(minor / 100, { style: 'currency', currency, maximumFractionDigits: undefined })

/** A figure with its thousands apart: "74,000", "37.9", "2.5". */
const apart = (value: number): string => (Math.abs(value) < 1000 ? figure(value) : numberText(Math.round(value)))

/** "45 psi", "1,200 L": a value of the core in the firm's units. */
export const quantity = (value: number, dimension: ShownDimension, units: ShownUnits): string =>
  `${apart(toShown(value, dimension, units))} ${unitOf(dimension, units).text}`

/** Sentences are written in mg/L; where the trade says ppm they say that: the figures are the same. */
export function inTrade(text: string, units: ShownUnits): string {
  const { text: unit } = unitOf('concentration', units)
  return unit === 'mg/L' ? text : text.replaceAll(/mg(·h|·min)?\/L/g, (_, time: string | undefined) => `${unit}${time ?? ''}`)
}

/** The number alone, for a field that has its unit beside it. */
export const bare = (value: number, dimension: ShownDimension, units: ShownUnits): string =>
  String(Math.round(toShown(value, dimension, units) * 1000) / 1000).replace('.', localDecimal())
