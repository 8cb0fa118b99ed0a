// Who works when: weekends, holidays and holidays of their own are known ahead; sickness is not.
import { type Rng, seeded } from '@evenround/core/simulate'
import type { Site } from './firm'

const DAY_MIN = 480
const [SICK_CHANCE, SICK_DAYS] = [1 / 90, [1, 4]] as const

export interface Calendar {
  technicians: number
  /** Of a working day, as it is known ahead. */
  worksPlanned: (person: number, day: number) => boolean
  /** As it turns out. */
  works: (person: number, day: number) => boolean
}

const isWorkday = (day: number): boolean => ((day % 7) + 7) % 7 < 5
/** Three weeks a year in which nobody works, and five weeks in which one does not, by turns. */
const FIRM_CLOSED_WEEKS = [29, 51, 0]

export function calendarOf(seed: number, technicians: number, days: number): Calendar {
  const rng: Rng = seeded(seed ^ 0x5eed)
  const sick = Array.from({ length: technicians }, () => {
    const off = new Set<number>()
    for (let day = 0; day < days; day++)
      if (rng.chance(SICK_CHANCE)) for (let more = 0; more < Math.floor(rng.between(...SICK_DAYS)); more++) off.add(day + more)
    return off
  })
  const worksPlanned = (person: number, day: number): boolean => {
    const week = Math.floor(day / 7) % 52
    const own = [(person * 9 + 6) % 50, (person * 9 + 20) % 50, (person * 9 + 33) % 50]
    return isWorkday(day) && !FIRM_CLOSED_WEEKS.includes(week) && !own.includes(week)
  }
  return { technicians, worksPlanned, works: (person, day) => worksPlanned(person, day) && !sick[person]?.has(day) }
}

/** Minutes there are in a week, counted from the first, as known ahead. */
export function hoursOfWeek({ technicians, worksPlanned }: Calendar, week: number): number {
  let minutes = 0
  for (let person = 0; person < technicians; person++)
    for (let day = 0; day < 7; day++) if (worksPlanned(person, week * 7 + day)) minutes += DAY_MIN
  return minutes
}

/** Closed for the season throughout a week: nobody lets anybody in. */
export const isShut = ({ truth }: Site, week: number): boolean =>
  truth.closed.some(({ from, to, share }) => share === 0 && from <= week * 7 && week * 7 + 5 <= to)
