import { DateTime } from 'luxon'

const MINUTE_MS = 60_000
const MINUTES_A_DAY = 1440
const DAY_MS = 86_400_000
/** Some sixty years of a zone; more than that is asked for by nobody but a list with wrong dates. */
const MOST_DAYS = 20_000

/** Looked up in the zone's rules. */
const dayByRules = (timeZone: string, instant: Date): string => {
  const day = DateTime.fromJSDate(instant, { zone: timeZone }).toISODate()
  if (day === null) throw new RangeError(`no such time zone: ${timeZone}`)
  return day
}

/** Looked up in the zone's rules; hours the clock leaves out come after those it has. */
const instantByRules = (timeZone: string, day: string, minutes: number): Date =>
  DateTime.fromISO(day, { zone: timeZone })
    .set({ hour: Math.floor(minutes / 60), minute: Math.floor(minutes % 60) })
    .toJSDate()

/** Midnights of plain days, which last 24 hours, by zone and day; NaN for the others. */
const midnights = new Map<string, number>()

function plainMidnight(timeZone: string, day: string): number {
  const key = `${timeZone} ${day}`
  let known = midnights.get(key)
  if (known === undefined) {
    const midnight = DateTime.fromISO(day, { zone: timeZone })
    const next = midnight.plus({ days: 1 })
    // Where the clock goes forward at midnight the day begins at one o'clock.
    const isPlain = midnight.hour === 0 && midnight.offset === next.offset && next.toMillis() - midnight.toMillis() === DAY_MS
    known = isPlain ? midnight.toMillis() : Number.NaN
    if (midnights.size >= MOST_DAYS) midnights.clear()
    midnights.set(key, known)
  }
  return known
}

/** The instant at `minutes` after midnight of a day in this zone; wall-clock minutes, so that 08:00 stays 08:00 over a clock change. */
export function instantAt(timeZone: string, day: string, minutes: number): Date {
  const midnight = minutes >= 0 && minutes < MINUTES_A_DAY ? plainMidnight(timeZone, day) : Number.NaN
  return Number.isNaN(midnight) ? instantByRules(timeZone, day, minutes) : new Date(midnight + Math.floor(minutes) * MINUTE_MS)
}

/** An instant as a day and minutes after its midnight in this zone, rounded up to the next whole minute. */
export function minuteIn(timeZone: string, instant: Date): { day: string; minute: number } {
  const day = dayIn(timeZone, instant)
  return { day, minute: Math.ceil((instant.getTime() - instantAt(timeZone, day, 0).getTime()) / MINUTE_MS) }
}

/** 485 → "08:05": whole minutes after midnight as they are written in files and on the road. */
export const timeOfDay = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`

/** Each day of UTC holds one midnight of the zone, which is looked up once. For instants of the same few years it is a hundred times faster. */
function dayReader(timeZone: string): (instant: Date) => string {
  const known = new Map<number, { before: string; midnightMs: number; after: string }>()
  return (instant) => {
    const ms = instant.getTime()
    const utcDay = Math.floor(ms / DAY_MS)
    let found = known.get(utcDay)
    if (found === undefined) {
      const before = dayByRules(timeZone, new Date(utcDay * DAY_MS))
      const midnight = DateTime.fromISO(before, { zone: timeZone }).plus({ days: 1 }).startOf('day')
      found = { before, midnightMs: midnight.toMillis(), after: dayByRules(timeZone, midnight.toJSDate()) }
      if (known.size >= MOST_DAYS) known.clear()
      known.set(utcDay, found)
    }
    return ms < found.midnightMs ? found.before : found.after
  }
}

const readers = new Map<string, (instant: Date) => string>()

/** The calendar day an instant falls on in this zone. */
export function dayIn(timeZone: string, instant: Date): string {
  let read = readers.get(timeZone)
  if (read === undefined) {
    read = dayReader(timeZone)
    readers.set(timeZone, read)
  }
  return read(instant)
}
