import { DateTime } from 'luxon'

/** The calendar day an instant falls on in this zone. */
export const dayIn = (timeZone: string, instant: Date): string => {
  const day = DateTime.fromJSDate(instant, { zone: timeZone }).toISODate()
  if (day === null) throw new RangeError(`no such time zone: ${timeZone}`)
  return day
}

/** The instant at `minutes` after midnight of a day in this zone; wall-clock minutes, so that 08:00 stays 08:00 over a clock change. */
export const instantAt = (timeZone: string, day: string, minutes: number): Date =>
  DateTime.fromISO(day, { zone: timeZone })
    .set({ hour: Math.floor(minutes / 60), minute: Math.floor(minutes % 60) })
    .toJSDate()
