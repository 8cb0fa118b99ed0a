import { isoWeekday } from '@evenround/core/units'
import { dayWithMonth, weekdayLetters, weekdayNames } from '../../ui/format'

/** "Thu 26 Nov". */
export const weekdayWord = (day: string): string => `${weekdayLetters()[isoWeekday(day) - 1]} ${dayWithMonth(day)}`
/** "Thursday". */
export const weekdayLong = (day: string): string => weekdayNames()[isoWeekday(day) - 1] ?? ''

/** ISO week number of a day. */
export function weekNumber(day: string): number {
  const thursday = new Date(`${day}T12:00:00Z`)
  thursday.setUTCDate(thursday.getUTCDate() + 4 - isoWeekday(day))
  const start = Date.UTC(thursday.getUTCFullYear(), 0, 1)
  return Math.floor((thursday.getTime() - start) / (7 * 86_400_000)) + 1
}
