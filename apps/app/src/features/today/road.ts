import type { RoadDayDto, RoadStopDto } from '@evenround/contract/office'
import type { DayLineStop } from '../../ui/day-line'

/** Less than this nobody needs to be told of. */
const WORTH_TELLING_MIN = 10
/** So long after its end the day is over, not late. */
const STILL_THE_DAY_MIN = 120

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

/** A stop that is begun ends now at the earliest, one that is not is left for now at the earliest: what follows moves by as much. */
export function standingOf({ stops, toMin, homeMin: planned }: RoadDayDto, nowMin: number): Standing {
  const at = stops.find(({ state }) => state === 'begun') ?? stops.find(({ state }) => state === 'planned') ?? null
  if (!at || nowMin > toMin + STILL_THE_DAY_MIN) return { at, behindMin: 0, homeMin: planned, broken: [] }
  const behind = Math.max(0, at.state === 'begun' ? nowMin - (at.arriveMin + at.workMin) : nowMin - at.leaveMin)
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
