import { addDays } from '@evenround/core/units'
import type { HandedYear } from '../year/handed'
import type { Occurrence } from './dues'

/** A quarter keeps a visit within a week of the one the year has it in: enough for ways and hours, too little to borrow from the next quarter. */
const ABOUT_DAYS = 7
/** Of what is due after a quarter's last day, what is due within these days of it may be planned in it. */
const REACH_DAYS = 91

/** How far ahead dues are looked at where a year's plan may have them sooner. */
export const reachOf = (year: HandedYear | null, until: string): string => (year === null ? until : addDays(until, REACH_DAYS))

/**
 * The dues of a stage as the year's plan has them: those it has in this quarter, each within a week of its week there and never outside of
 * its own window; those it has later are left to later. What the year does not know, and what is overdue, stands as it is.
 */
export function byTheYear(
  dues: readonly Occurrence[],
  stageId: string,
  year: HandedYear | null,
  { today, until }: { today: string; until: string },
): Occurrence[] {
  const weeks = [...(year?.weeksOf.get(stageId) ?? [])]
  return dues.flatMap((one) => {
    const { dueOn, windowFrom, windowTo } = one
    const stays = dueOn <= until ? [one] : []
    if (windowTo <= today) return stays
    const within = weeks.filter((week) => week <= windowTo && addDays(week, 6) >= windowFrom)
    const far = (week: string): number => Math.abs(Date.parse(week) - Date.parse(dueOn))
    const [week] = within.sort((a, b) => far(a) - far(b))
    if (week === undefined) return stays
    weeks.splice(0, weeks.indexOf(week) + 1)
    if (week > until) return []
    const [from, to] = [addDays(week, -ABOUT_DAYS), addDays(week, 6 + ABOUT_DAYS)]
    return [{ ...one, windowFrom: windowFrom > from ? windowFrom : from, windowTo: windowTo < to ? windowTo : to }]
  })
}
