import type { StopDto, TodayDto } from '@evenround/contract/site'
import { isLate } from '../../parts/wear/words'
import { behindPlan, STILL_THE_DAY_MIN, WORTH_TELLING_MIN } from './behind'
import { stopStates } from './view'

/** How far behind the day is, and what could be done with the rest of it. */
export interface Lateness {
  behindMin: number
  homeMin: number
  /** Minutes past the end of the day; 0 within it. */
  overMin: number
  /** Promised stops that would begin after their window, by name. */
  broken: string[]
  /** Of the stops still to come the one that can wait best; null where none may be put off. */
  canWait: { id: string; siteName: string; until: string | null; savesMin: number } | null
}

/** Against the plan; null while the day keeps, or where nothing of it is left. */
export function lateness(today: TodayDto, nowMin: number): Lateness | null {
  const states = stopStates(today.stops)
  const next = today.stops.find(({ id }) => states.get(id) === 'next')
  if (!next || today.homeMin === null || nowMin > today.toMin + STILL_THE_DAY_MIN) return null
  const begun = next.visit !== null && !next.visit.finished
  const behindMin = behindPlan(next, begun, nowMin)
  const homeMin = today.homeMin + behindMin
  const overMin = Math.max(0, homeMin - today.toMin)
  const left = today.stops.filter(({ id }) => states.get(id) !== 'done')
  const broken = left
    .filter(({ promise, arriveMin }) => promise !== null && arriveMin + behindMin > promise[1])
    .map(({ site }) => site.name)
  if (behindMin < WORTH_TELLING_MIN || (overMin === 0 && broken.length === 0)) return null
  return { behindMin, homeMin, overMin, broken, canWait: bestToWait(left.filter((stop) => stop !== next || !begun)) }
}

/** The stop whose most urgent work has the longest time left. */
function bestToWait(left: readonly StopDto[]): Lateness['canWait'] {
  const free = left.filter(({ promised, job, follows }) => !promised && job === null && follows === null)
  // What is spent or overdue cannot wait, however far its window reaches.
  const until = (stop: StopDto): string | null => {
    const dues = stop.tasks.flatMap(({ stageId }) => stop.system.stages.find(({ id }) => id === stageId)?.due ?? [])
    return dues.some(isLate) ? null : (dues.map(({ windowTo }) => windowTo).sort()[0] ?? null)
  }
  const [best] = [...free].sort((a, b) => (until(b) ?? '').localeCompare(until(a) ?? '') || b.order - a.order)
  return best ? { id: best.id, siteName: best.site.name, until: until(best), savesMin: best.travelMin + best.workMin } : null
}
