import { isoWeekday } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { plainDay } from '../../ui/format'

const SHORT = [say`Mon`, say`Tue`, say`Wed`, say`Thu`, say`Fri`, say`Sat`, say`Sun`] as const
const LONG = [say`Monday`, say`Tuesday`, say`Wednesday`, say`Thursday`, say`Friday`, say`Saturday`, say`Sunday`] as const

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
