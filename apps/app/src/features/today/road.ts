import type { RoadDayDto, RoadStopDto } from '@evenround/contract/office'
import type { DayLineStop } from '../../ui/day-line'
import { behindPlan, STILL_THE_DAY_MIN, WORTH_TELLING_MIN } from './behind'

/** Where somebody's day stands against its plan. */
export interface Standing {
  /** The stop they are at or drive to; null where all are done. */
  at: RoadStopDto | null
  /** 0 while the day keeps. */
  behindMin: number
  homeMin: number | null
  /** Promised stops that would begin after their window. */
  broken: string[]
}

/** How far behind they are, and what follows moved by as much. */
export function standingOf({ stops, toMin, homeMin: planned }: RoadDayDto, nowMin: number): Standing {
  const at = stops.find(({ state }) => state === 'begun') ?? stops.find(({ state }) => state === 'planned') ?? null
  if (!at || nowMin > toMin + STILL_THE_DAY_MIN) return { at, behindMin: 0, homeMin: planned, broken: [] }
  const behind = behindPlan(at, at.state === 'begun', nowMin)
  const behindMin = behind < WORTH_TELLING_MIN ? 0 : behind
  const broken = stops
    .filter(({ state, promise, arriveMin }) => state === 'planned' && promise !== null && arriveMin + behindMin > promise[1])
    .map(({ siteName }) => siteName)
  return { at, behindMin, homeMin: planned === null ? null : planned + behindMin, broken }
}

/** The day as its line draws it. */
export const roadLine = ({ stops }: RoadDayDto, at: RoadStopDto | null): DayLineStop[] =>
  stops.map((stop) => ({
    ...stop,
    ferryAt: null,
    promised: stop.promise !== null,
    state: stop.state === 'done' ? 'done' : stop === at ? 'next' : 'later',
  }))
