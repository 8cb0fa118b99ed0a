import type { StopDto, TodayDto } from '@evenround/contract/site'
import type { Action } from '@evenround/core/train'
import { many, say } from '@evenround/core/words'
import { doneTo } from '../../parts/visit/action-words'
import { whatForWords } from '../../parts/visit/what-for-words'
import type { DayLineStop } from '../../ui/day-line'
import { duration, timeOfDay } from '../../ui/format'

export type StopState = 'done' | 'next' | 'later'

/** Finished stops are done, the first of the others is next. */
export function stopStates(stops: readonly StopDto[]): Map<string, StopState> {
  const next = stops.find(({ visit }) => !visit?.finished)
  return new Map(stops.map((stop) => [stop.id, stop.visit?.finished ? 'done' : stop === next ? 'next' : 'later']))
}

export const dayLineStops = (today: TodayDto): DayLineStop[] => {
  const states = stopStates(today.stops)
  return today.stops.map((stop) => ({ ...stop, state: states.get(stop.id) ?? 'later' }))
}

export interface DaySums {
  stops: string
  driving: string
  work: string
  home: string | null
  slack: string | null
  over: string | null
}

/** The day in figures: driving, work, home, and what is left of the day or runs over it. */
export function daySums(today: TodayDto): DaySums {
  const { stops, homeMin, toMin } = today
  const done = Math.max(0, ...stops.map(({ arriveMin, workMin }) => arriveMin + workMin))
  const wayHome = homeMin === null ? 0 : Math.max(0, homeMin - done)
  const driving = stops.reduce((sum, { travelMin }) => sum + travelMin, 0) + wayHome
  const work = stops.reduce((sum, { workMin }) => sum + workMin, 0)
  const slack = homeMin === null ? null : toMin - homeMin
  return {
    stops: many(stops.length, 'stop', 'stops'),
    driving: say`${duration(driving)} driving${stops.some(({ wayEstimated }) => wayEstimated) ? say`, estimated` : ''}`,
    work: say`${duration(work)} work`,
    home: homeMin === null ? null : say`home ${timeOfDay(homeMin)}`,
    slack: slack !== null && slack >= 0 ? say`${duration(slack)} slack` : null,
    over: slack !== null && slack < 0 ? say`${duration(-slack)} over the day` : null,
  }
}

/** Parts that today's remaining stops want from the van, with how many. */
export function partsForDay(stops: readonly StopDto[]): { partNumber: string; count: number }[] {
  const counts = new Map<string, number>()
  for (const { visit, tasks, system } of stops) {
    if (visit?.finished) continue
    for (const { stageId, action } of tasks) {
      const part = system.stages.find(({ id }) => id === stageId)?.nextPart
      if (part && action === 'change') counts.set(part.partNumber, (counts.get(part.partNumber) ?? 0) + 1)
    }
  }
  return [...counts].map(([partNumber, count]) => ({ partNumber, count })).sort((a, b) => (a.partNumber < b.partNumber ? -1 : 1))
}

/** "Change 1, 2 and 5", "Wash 1"; where nothing is due, what somebody comes for. */
export function taskWords(stop: StopDto): string {
  if (stop.tasks.length === 0) return whatForWords(stop)
  const place = (stageId: string): number => stop.system.stages.find(({ id }) => id === stageId)?.position ?? 0
  const byAction = new Map<Action, number[]>()
  for (const { stageId, action } of stop.tasks) byAction.set(action, [...(byAction.get(action) ?? []), place(stageId)])
  const list = (numbers: number[]): string =>
    numbers.length < 2 ? numbers.join('') : say`${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1) ?? ''}`
  return [...byAction].map(([action, numbers]) => doneTo(action, list(numbers))).join(' · ')
}

/** Sites whose descaler would ride with today's chlorine: a sleeve is cleaned on the day of a dose. */
export function acidWithChlorine(stops: readonly StopDto[]): string[] {
  if (!stops.some(({ job }) => job?.day === 'dose')) return []
  return stops.filter(({ tasks }) => tasks.some(({ action }) => action === 'clean')).map(({ site }) => site.name)
}
