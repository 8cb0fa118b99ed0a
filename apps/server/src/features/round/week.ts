import { sumsByPerson, yearOf } from '@evenround/contract/round-sums'
import type { RoundWeek } from '@evenround/contract/rounds'
import { travelAmong } from '@evenround/core/round/roads'
import { addDays, weekStart } from '@evenround/core/units'
import type { FirmScope } from '../../db/scope'
import type { Draft } from './draft'
import { roundState } from './page'

/** Of what has no day this many stand on the first look; the rest comes with the whole set. */
const UNPLANNED_SHOWN = 40

/** One week of the round, with what the whole comes to; the first week of the plan where none is named. */
export async function roundWeek(scope: FirmScope, draft: Draft, asked: string | undefined, timeZone: string): Promise<RoundWeek> {
  const { set, row } = draft
  const week = asked === undefined ? weekStart(set.days[0] ?? set.today) : weekStart(asked)
  const last = addDays(week, 6)
  const within = (day: number): boolean => {
    const iso = set.days[day] ?? ''
    return iso >= week && iso <= last
  }
  const days = row.plan.days.filter(({ day }) => within(day))
  const unplanned = row.plan.unplanned.slice(0, UNPLANNED_SHOWN)
  const shown = new Set([...days.flatMap(({ stops }) => stops.map(({ visit }) => visit)), ...unplanned.map(({ visit }) => visit)])
  const visits = set.visits.filter(({ id }) => shown.has(id))
  // A large firm's travel times are most of its set; a week is drawn with those between its own places.
  const places = new Set([...set.technicians.map(({ base }) => base), ...visits.map(({ place }) => place)])
  const travel = travelAmong(set.travel, [...places])
  const { setId: _, draft: made, marks, published, ...state } = await roundState(scope, draft, timeZone)
  const whose = ['all', ...set.technicians.map(({ id }) => id)]
  return {
    ...state,
    week,
    set: { ...set, visits, travel, leftOut: set.leftOut.slice(0, UNPLANNED_SHOWN) },
    draft: { ...made, plan: { ...row.plan, days, unplanned } },
    marks: marks.filter(({ visitId }) => shown.has(visitId)),
    published: published.filter(({ visit }) => shown.has(visit)),
    year: Object.fromEntries(whose.map((who) => [who, yearOf(set, row.plan, who)])),
    sums: Object.fromEntries(sumsByPerson(set, row.plan)),
  }
}
