import { addDays } from '@evenround/core/units'
import type { Occurrence } from './dues'
import type { HandedYear } from './year-in-force'

/** A quarter keeps a visit within a week of the one the year has it in: enough for ways and hours, too little to borrow from the next quarter. */
const ABOUT_DAYS = 7
/** Of what is due after a quarter's last day, what is due within these days of it may be planned in it. */
const REACH_DAYS = 91

/** How far ahead dues are looked at where a year's plan may have them sooner. */
export const reachOf = (year: HandedYear | null, until: string): string => (year === null ? until : addDays(until, REACH_DAYS))

/**
 * The dues of a stage as the year's plan has them, one for each of its weeks from now on: the first within a week of its week, never after
 * its window and before it only as far as the year may give up some of its time; later ones, which come round from when the one before is
 * really done, within a week of theirs. What it has after this quarter is left to later. What the year does not know, and what is overdue,
 * stands as it is.
 */
export function byTheYear(
  dues: readonly Occurrence[],
  stageId: string,
  year: HandedYear | null,
  { today, until }: { today: string; until: string },
): Occurrence[] {
  const weeks = (year?.weeksOf.get(stageId) ?? []).filter((week) => addDays(week, 6) > today)
  return dues.flatMap((one, times) => {
    const week = weeks[times]
    const { dueOn, windowFrom, windowTo } = one
    // A contract's own window is a promise; else the year may have it sooner, at its price.
    const soonest = one.stage.due?.soonestOn ?? windowFrom
    const reached = week !== undefined && week <= windowTo && addDays(week, 6) >= soonest
    if (times === 0 && (windowTo <= today || !reached)) return dueOn <= until ? [one] : []
    if (week === undefined) return weeks.length === 0 && dueOn <= until ? [one] : []
    if (week > until) return []
    const [from, to] = [addDays(week, -ABOUT_DAYS), addDays(week, 6 + ABOUT_DAYS)]
    if (times === 0) {
      const ownFrom = addDays(week, 6) < windowFrom ? soonest : windowFrom
      return [{ ...one, windowFrom: ownFrom > from ? ownFrom : from, windowTo: windowTo < to ? windowTo : to }]
    }
    return [{ ...one, dueOn: dueOn < from ? from : dueOn > to ? to : dueOn, windowFrom: from, windowTo: to }]
  })
}
