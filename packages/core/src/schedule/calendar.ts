import { addDays, isoWeekday } from '../units'

/** The days on which somebody works, or a place is open: weekdays, without the days off. */
export interface WorkCalendar {
  /** ISO weekdays, 1 is Monday. */
  weekdays: readonly number[]
  /** Holidays, days off, closed seasons; ISO days, both ends included. */
  off: readonly { fromDay: string; toDay: string }[]
}

/** Monday to Friday without holidays: laboratories, suppliers, and a person whose times nobody set yet. */
export const MONDAY_TO_FRIDAY: WorkCalendar = { weekdays: [1, 2, 3, 4, 5], off: [] }

/** How far ahead a working day is looked for, days: over a year, so that a place open in one season is found. */
export const FURTHEST_DAYS = 400

/** Whether an ISO day is a working day. */
export const isWorkingDay = ({ weekdays, off }: WorkCalendar, day: string): boolean =>
  weekdays.includes(isoWeekday(day)) && !off.some(({ fromDay, toDay }) => fromDay <= day && day <= toDay)

/** The first day at or after an ISO day that is a working day of every calendar; null where none lies within `FURTHEST_DAYS`. */
export function commonDayFrom(calendars: readonly WorkCalendar[], from: string): string | null {
  for (let step = 0; step <= FURTHEST_DAYS; step++) {
    const day = addDays(from, step)
    if (calendars.every((calendar) => isWorkingDay(calendar, day))) return day
  }
  return null
}

/** The first working day at or after an ISO day; null where none lies within `FURTHEST_DAYS`. */
export const workingDayFrom = (calendar: WorkCalendar, from: string): string | null => commonDayFrom([calendar], from)

/** The working day `count` working days after an ISO day (count ≥ 1); null where there are not so many within `FURTHEST_DAYS` each. */
export function workingDaysAfter(calendar: WorkCalendar, day: string, count: number): string | null {
  let at: string | null = day
  for (let left = count; left > 0 && at !== null; left--) at = workingDayFrom(calendar, addDays(at, 1))
  return at
}

/** The working day `count` working days before an ISO day (count ≥ 0); null where there are not so many within `FURTHEST_DAYS`. */
export function workingDaysBefore(calendar: WorkCalendar, day: string, count: number): string | null {
  let left = count
  for (let step = 1; left > 0; step++) {
    if (step > FURTHEST_DAYS) return null
    if (isWorkingDay(calendar, addDays(day, -step))) left--
    if (left === 0) return addDays(day, -step)
  }
  return day
}
