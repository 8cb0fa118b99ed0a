import { isoWeekday } from '@evenround/core/units'
import { plainDay } from '../../ui/format'

const SHORT = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const
const LONG = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const

/** "Thu 26 Nov". */
export const weekdayWord = (day: string): string => `${SHORT[isoWeekday(day) - 1]} ${plainDay(day).replace(/^(\d+ \w{3}).*$/, '$1')}`
/** "Thursday". */
export const weekdayLong = (day: string): string => LONG[isoWeekday(day) - 1] ?? ''

/** ISO week number of a day. */
export function weekNumber(day: string): number {
  const thursday = new Date(`${day}T12:00:00Z`)
  thursday.setUTCDate(thursday.getUTCDate() + 4 - isoWeekday(day))
  const start = Date.UTC(thursday.getUTCFullYear(), 0, 1)
  return Math.floor((thursday.getTime() - start) / (7 * 86_400_000)) + 1
}
