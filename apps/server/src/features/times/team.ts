import type { RoundSet } from '@evenround/contract/rounds'
import { addDays, isoWeekday } from '@evenround/core/units'
import { Person } from '../../db/entities/master'
import { DayOffRow, WorkTimeRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'

/** What holds for somebody whose times nobody set yet. */
export const USUAL_TIMES = { weekdays: [1, 2, 3, 4, 5], fromMin: 8 * 60, toMin: 16 * 60, overtimeMin: 60 } as const
export const WEEKS_AHEAD = 13

const within = ({ fromDay, toDay }: DayOffRow, day: string): boolean => fromDay <= day && day <= toDay

export interface Team {
  days: string[]
  technicians: Omit<RoundSet['technicians'][number], 'levelMin'>[]
  /** Who works today. */
  atWork: ReadonlySet<string>
}

/** Who is on the road, and on which of the coming weeks' days: from the day after today. */
export async function teamOf(scope: FirmScope, today: string, weeksAhead = WEEKS_AHEAD): Promise<Team> {
  const people = (await scope.find(Person, { active: true }, { name: 'ASC' })).filter(({ role }) => role !== 'viewer')
  const times = new Map((await scope.find(WorkTimeRow)).map((row) => [row.id, row]))
  const off = await scope.find(DayOffRow)
  const onRoad = people.flatMap((person) => {
    const own = times.get(person.id)
    return own?.base ? [{ person, own, base: own.base }] : []
  })
  // Somebody with stops on a day works on it, whatever the week says: they were put there on purpose.
  const standing = new Set(
    (
      await scope.query<{ technician_id: string; day: string }>(
        'select distinct technician_id, day from stop where firm_id = $1 and day > $2',
        [today],
      )
    ).map(({ technician_id, day }) => `${technician_id}/${day}`),
  )
  const expected = (personId: string, weekdays: readonly number[], day: string): boolean =>
    weekdays.includes(isoWeekday(day)) || standing.has(`${personId}/${day}`)
  const isOff = (personId: string | null, day: string): boolean => off.some((one) => one.personId === personId && within(one, day))
  const all = Array.from({ length: weeksAhead * 7 }, (_, index) => addDays(today, index + 1))
  // A day that one person is off stays a day of the round: windows are counted in days, and would shift under everybody's visits.
  const days = all.filter((day) => !isOff(null, day) && onRoad.some(({ person, own }) => expected(person.id, own.weekdays, day)))
  const works = (personId: string, weekdays: readonly number[], day: string): boolean =>
    expected(personId, weekdays, day) && !isOff(personId, day)
  return {
    days,
    technicians: onRoad.map(({ person, own, base }) => ({
      id: person.id,
      name: person.name,
      van: person.van,
      base,
      fromMin: own.fromMin,
      toMin: own.toMin,
      overtimeMin: own.overtimeMin,
      skills: person.skills,
      daysOff: days.flatMap((day, index) => (works(person.id, own.weekdays, day) ? [] : [index])),
      vanKg: own.vanKg,
    })),
    // Whoever stands on today's road works today, weekend or not, unless the day is taken off by name.
    atWork: new Set(people.filter(({ id }) => !isOff(id, today)).map(({ id }) => id)),
  }
}
