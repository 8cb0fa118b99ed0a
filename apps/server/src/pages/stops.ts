import type { StopDto } from '@evenround/contract/site'
import { In } from 'typeorm'
import { Site, type Stop, StopTask } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { endedDays } from '../features/facts/job'
import { holdsOn, visitsOfStops } from '../features/facts/read'
import { factRows } from '../features/records/rows'
import { siteDto } from '../features/site/routes'
import { minutesBook } from '../features/times/minutes'
import { systemsOf } from './systems'

/** Stops with everything a technician needs at the door: site, train, forecasts, tasks, holds, and the visit if begun. */
export async function stopDtos(scope: FirmScope, stops: readonly Stop[], today: string, now: Date): Promise<StopDto[]> {
  if (stops.length === 0) return []
  const stopIds = stops.map(({ id }) => id)
  const siteIds = stops.map(({ siteId }) => siteId)
  const jobIds = stops.flatMap(({ jobId }) => jobId ?? [])
  const [sites, systems, tasks, holds, visits, left, minutes, ended] = await Promise.all([
    scope.find(Site, { id: In(siteIds) }),
    systemsOf(
      scope,
      siteIds.map((id) => ({ id })),
      today,
    ),
    scope.find(StopTask, { stopId: In(stopIds) }),
    holdsOn(scope, siteIds, now),
    visitsOfStops(scope, stopIds),
    leftBy(scope, stops),
    stops.some(({ jobId }) => jobId === null) ? minutesBook(scope) : null,
    endedDays(scope, jobIds),
  ])
  return stops.flatMap((stop) => {
    const site = sites.find(({ id }) => id === stop.siteId)
    const system = systems.find(({ id }) => id === stop.systemId)
    if (!site || !system) return []
    const { id, day, orderNo, technicianId, leaveMin, arriveMin, workMin, travelMin, wayEstimated, ferryAt, promised } = stop
    const place = (stageId: string): number => system.stages.findIndex((stage) => stage.id === stageId)
    const own = tasks.filter(({ stopId }) => stopId === id).sort((a, b) => place(a.stageId) - place(b.stageId))
    return [
      {
        id,
        day,
        order: orderNo,
        technicianId,
        leaveMin,
        arriveMin,
        workMin,
        travelMin,
        ...(wayEstimated && travelMin > 0 ? { wayEstimated } : {}),
        ferryAt,
        promised,
        promise: stop.promiseFrom !== null && stop.promiseTo !== null ? [stop.promiseFrom, stop.promiseTo] : null,
        site: siteDto(site),
        system,
        tasks: own.map(({ stageId, action }) => ({ stageId, action })),
        time:
          stop.jobId === null && minutes !== null
            ? minutes.of(
                system.train,
                own.map(({ stageId, action }) => ({ stage: stageId, action })),
                technicianId,
              )
            : null,
        holds: holds.get(site.id) ?? [],
        visit: stop.jobId === null ? (visits.get(id) ?? null) : { id: stop.jobId, finished: ended.has(`${stop.jobId}/${stop.jobDay}`) },
        follows: followsOf(stop, left),
        job: jobOf(stop),
      },
    ]
  })
}

const jobOf = ({ jobId, jobDay, notBefore, notAfter }: Stop): StopDto['job'] =>
  jobId === null || jobDay === null
    ? null
    : { id: jobId, day: jobDay, notBefore: notBefore?.toISOString() ?? null, notAfter: notAfter?.toISOString() ?? null }

function followsOf({ followsVisit, followsWhy, notBefore, notAfter }: Stop, left: ReadonlyMap<string, string[]>): StopDto['follows'] {
  if (followsVisit === null || followsWhy === null) return null
  return {
    visitId: followsVisit,
    leftStanding: left.get(followsVisit) ?? [],
    why: followsWhy,
    notBefore: notBefore?.toISOString() ?? null,
    notAfter: notAfter?.toISOString() ?? null,
  }
}

/** What visits that others go on from left otherwise than in service. */
async function leftBy(scope: FirmScope, stops: readonly Stop[]): Promise<Map<string, string[]>> {
  const visits = stops.flatMap(({ followsVisit }) => followsVisit ?? [])
  if (visits.length === 0) return new Map()
  const rows = await factRows(scope, 'visit-finished', 'f.visit_id = any($2)', [visits])
  return new Map(rows.map(({ visitId, leftStanding }) => [visitId, leftStanding]))
}

/** When the van is back after the last stop; where no plan says, the way home is taken to be as long as the way out. */
export function homeMin(
  stops: readonly (Pick<Stop, 'arriveMin' | 'workMin' | 'travelMin' | 'orderNo'> & { homeMin?: number | null })[],
): number | null {
  const ordered = [...stops].sort((a, b) => a.orderNo - b.orderNo)
  const last = ordered.at(-1)
  const first = ordered[0]
  if (!last || !first) return null
  // Hours may overlap where somebody put a stop in by hand: nobody is home before all of them are done.
  const done = Math.max(...ordered.map(({ arriveMin, workMin }) => arriveMin + workMin))
  return done + Math.max(0, last.homeMin ?? first.travelMin)
}
