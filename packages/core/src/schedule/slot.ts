import { addDays } from '../units'
import { commonDayFrom, type WorkCalendar } from './calendar'

/** A moment in the firm's zone. */
export interface DayMinute {
  /** ISO day. */
  day: string
  /** Minutes after midnight. */
  minute: number
}

interface Wanted {
  /** Nothing can begin before. */
  from: DayMinute
  /** Nothing may begin after; null where it may wait. */
  to: DayMinute | null
  /** Whose days they are, the most binding last: each is kept where the window allows. */
  calendars: readonly WorkCalendar[]
  /** Minutes after midnight between which a visit may begin. */
  beginsMin: number
  latestBeginMin: number
}

/** What may begin too late for a day begins the next morning. */
const morningOf = ({ from, beginsMin, latestBeginMin }: Wanted): DayMinute =>
  from.minute <= latestBeginMin
    ? { day: from.day, minute: Math.max(beginsMin, from.minute) }
    : { day: addDays(from.day, 1), minute: beginsMin }

/**
 * The first moment at which a visit may begin that waits for something: on a working day where its window has one. A window that ends
 * before anybody works is worked all the same (chlorine in the pipes does not keep a weekend): calendars give way from the first on.
 * Null where there is no end and no working day either.
 */
export function firstSlot(wanted: Wanted): DayMinute | null {
  const { from, to, calendars, beginsMin } = wanted
  const earliest = morningOf(wanted)
  const at = (day: string): DayMinute => ({ day, minute: day === from.day ? Math.max(beginsMin, from.minute) : beginsMin })
  if (to === null) {
    const day = commonDayFrom(calendars, earliest.day)
    return day === null ? null : at(day)
  }
  for (let left = 0; left < calendars.length; left++) {
    const day = commonDayFrom(calendars.slice(left), earliest.day)
    if (day !== null && (day < to.day || (day === to.day && at(day).minute <= to.minute))) return at(day)
  }
  // Nobody works within it: as early as it can be, and never after its end.
  const late = earliest.day > to.day || (earliest.day === to.day && earliest.minute > to.minute)
  return late ? { day: from.day, minute: from.minute } : earliest
}
