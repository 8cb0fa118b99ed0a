import { driveMinutes, sailingOf, type Travel, USUAL_WINDING } from '@evenround/core/round/roads'
import { FURTHEST_DAYS, isWorkingDay } from '@evenround/core/schedule'
import { type Action, actionsFor, FAMILIES, type Family, familyTrain, type Task, visitMinutes } from '@evenround/core/train'
import { addDays } from '@evenround/core/units'
import { Stop, StopTask } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { ISLAND_PLACES, islandTravel } from '../features/travel/islands'
import { timeOfDay } from '../time/zone'
import { demoId } from './ids'
import { HOURS, WORK } from './times'
import { DEFAULT_SCHOOLS, DEMO_SITES, DEMO_STOPS, type DemoStop } from './world'

const FIRST_LEAVE_MIN = 485

const hoursOf = (site: string) => HOURS.find(([key]) => key === site) ?? [site, [], []]

/** The day a stop stands on: today, or the first day from its own on which the place is open and people work. */
function dayOf({ site, inDays }: DemoStop, today: string): string {
  if (inDays === 0) return today
  const [, , closed] = hoursOf(site)
  const open = { weekdays: [1, 2, 3, 4, 5].filter((weekday) => !closed.includes(weekday)), off: [] }
  for (let step = inDays; step < FURTHEST_DAYS; step++) if (isWorkingDay(open, addDays(today, step))) return addDays(today, step)
  throw new RangeError(`the demo's ${site} is never open`)
}

const placeOf = (site: string): string => {
  const { island, village } = DEMO_SITES.find(({ key }) => key === site) ?? {}
  const place = ISLAND_PLACES.find((one) => one.island === island && one.name === village)
  if (!place) throw new RangeError(`the map does not know where ${site} is`)
  return place.id
}

/** When work can begin: as soon as somebody is there, inside the hours the place is open. */
function beginsAt(site: string, arriveMin: number, workMin: number): number {
  const [, open] = hoursOf(site)
  const fitting = open.find(([, to]) => Math.max(arriveMin, 0) + workMin <= to)
  return fitting ? Math.max(arriveMin, fitting[0]) : arriveMin
}

/** The latest departure that is there by `startMin`: nobody waits at a shut door for what can be waited for at home. */
function leaveFor(travel: Travel, from: string, to: string, readyMin: number, startMin: number): number {
  for (let leave = startMin; leave > readyMin; leave--) if (leave + driveMinutes(travel, from, to, leave) <= startMin) return leave
  return readyMin
}

const familyOf = (site: string): Family => FAMILIES[DEMO_SITES.find(({ key }) => key === site)?.family ?? 'under-sink-2']

const tasksOf = ({ site, positions }: DemoStop): Task[] =>
  positions.map((position) => ({
    stage: demoId('stage', site, position),
    action: actionsFor(familyOf(site).stages[position - 1] as Family['stages'][number])[0] as Action,
  }))

/** What a visit takes by its run sheet, getting in with it: the same as a plan of the firm would say. */
export function workMinutes(site: string, tasks: readonly Task[]): number {
  const family = familyOf(site)
  const train = familyTrain(
    family,
    family.stages.map((_, index) => demoId('stage', site, index + 1)),
  )
  const time = visitMinutes(train, tasks, DEFAULT_SCHOOLS)
  return Math.round(ACCESS_MIN + (time?.handsOnMin ?? 0) + (time?.waitingMin ?? 0))
}
/** As the firm's terms have it. */
const ACCESS_MIN = 8

/** Puts the demo's stops on the road: each day's one after another, by the roads and ferries of that hour. */
export async function writeStops(scope: FirmScope, today: string): Promise<void> {
  const travel = await islandTravel.between(ISLAND_PLACES, { winding: USUAL_WINDING, crossings: [], road: null })
  const ends = new Map<string, { place: string; at: number; order: number }>()
  for (const planned of DEMO_STOPS) {
    const day = dayOf(planned, today)
    const line = `${planned.by}/${day}`
    const base = WORK.find(({ by }) => by === planned.by)?.base ?? ''
    const before = ends.get(line) ?? { place: base, at: FIRST_LEAVE_MIN, order: 0 }
    const place = placeOf(planned.site)
    const tasks = tasksOf(planned)
    const workMin = workMinutes(planned.site, tasks)
    const arriveMin = beginsAt(planned.site, before.at + driveMinutes(travel, before.place, place, before.at), workMin)
    const leaveMin = leaveFor(travel, before.place, place, before.at, arriveMin)
    const sails = sailingOf(travel, before.place, place, leaveMin)
    const id = demoId('stop', planned.site, planned.inDays)
    await scope.insert(Stop, {
      id,
      siteId: demoId('site', planned.site),
      systemId: demoId('system', planned.site),
      technicianId: demoId('person', planned.by),
      day,
      orderNo: before.order + 1,
      leaveMin,
      arriveMin,
      workMin,
      travelMin: driveMinutes(travel, before.place, place, leaveMin),
      ferryAt: sails === null ? null : timeOfDay(sails),
      promised: planned.promised === true,
      version: 1,
    })
    await scope.insert(
      StopTask,
      tasks.map(({ stage, action }) => ({ stopId: id, stageId: stage, action })),
    )
    ends.set(line, { place, at: arriveMin + workMin, order: before.order + 1 })
  }
}
