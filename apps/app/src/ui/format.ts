/** How days, times and figures are written on screens; the firm's zone decides the day, the language is the program's. */
const LANGUAGE = 'en-GB'

const dayDate = (day: string): Date => new Date(`${day}T00:00:00Z`)
const inUtc = (options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(LANGUAGE, { timeZone: 'UTC', ...options })

const LONG = inUtc({ weekday: 'long', day: 'numeric', month: 'long' })
const SHORT = inUtc({ day: 'numeric', month: 'short' })
const SHORT_YEAR = inUtc({ day: 'numeric', month: 'short', year: 'numeric' })
const PLAIN = inUtc({ day: 'numeric', month: 'long' })

/** "Thursday 6 March". */
export const longDay = (day: string): string => LONG.format(dayDate(day)).replace(',', '')
/** "6 March". */
export const plainDay = (day: string): string => PLAIN.format(dayDate(day))

/** "6 Mar", with the year when it is not the year of `today`. */
export function shortDay(day: string, today: string): string {
  return day.slice(0, 4) === today.slice(0, 4) ? SHORT.format(dayDate(day)) : SHORT_YEAR.format(dayDate(day))
}

/** "24 Feb–19 Mar", the year once at the end where it differs from today's. */
export function daySpan(from: string, to: string, today: string): string {
  const sameYear = from.slice(0, 4) === to.slice(0, 4)
  return `${sameYear ? SHORT.format(dayDate(from)) : shortDay(from, today)}–${shortDay(to, today)}`
}

/** 485 → "08:05". */
export const clockOf = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(Math.floor(minutes % 60)).padStart(2, '0')}`

/** 125 → "2 h 05", 45 → "45 min". */
export function duration(minutes: number): string {
  const whole = Math.round(minutes)
  if (whole < 60) return `${whole} min`
  return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')}`
}

/** An instant as "25 Nov 2026, 09:41" in the firm's zone. */
export const instantText = (instant: string, timeZone: string): string =>
  new Intl.DateTimeFormat(LANGUAGE, {
    timeZone,
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  }).format(new Date(instant))

/** The calendar day of an instant in a zone, ISO. */
export const dayOfInstant = (instant: string, timeZone: string): string =>
  new Intl.DateTimeFormat('sv-SE', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(new Date(instant))

/** Up to one decimal below a hundred, none above. */
export const figure = (value: number): string => (Math.abs(value) < 100 ? String(Math.round(value * 10) / 10) : String(Math.round(value)))

export const percent = (share: number): string => `${Math.round(share * 1000) / 10} %`

export const money = (minor: number, currency: string): string =>
  new Intl.NumberFormat(LANGUAGE, { style: 'currency', currency }).format(minor / 100)
