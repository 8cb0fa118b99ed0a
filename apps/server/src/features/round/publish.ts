import { inputOfSet } from '@evenround/contract/round-set'
import type { RoundSet, SetPlan } from '@evenround/contract/rounds'
import type { RoundChange } from '@evenround/contract/site'
import { legsOf } from '@evenround/core/round'
import { sailingOf, travelOn } from '@evenround/core/round/roads'
import { In } from 'typeorm'
import { Stop, StopTask } from '../../db/entities/master'
import { RoundPublication, RoundSetRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { timeOfDay } from '../../time/zone'
import { visitsOfStops } from '../facts/read'
import type { Draft } from './draft'

/** What a plan says of a stop; what it goes on from it keeps. */
type PlannedStop = Pick<
  Stop,
  | 'id'
  | 'siteId'
  | 'systemId'
  | 'technicianId'
  | 'day'
  | 'orderNo'
  | 'leaveMin'
  | 'arriveMin'
  | 'workMin'
  | 'travelMin'
  | 'wayEstimated'
  | 'ferryAt'
  | 'promised'
  | 'homeMin'
  | 'publication'
  | 'visitKey'
  | 'promiseFrom'
  | 'promiseTo'
>

/** The stops a plan puts on the road: one for each system of a visit, the drive before the first. */
export function stopsOfPlan(
  set: RoundSet,
  plan: SetPlan,
  number: number,
): { stop: PlannedStop; tasks: { stageId: string; action: StopTask['action'] }[] }[] {
  const legsOn = legsOf(inputOfSet(set))
  const visitOf = new Map(set.visits.map((visit) => [visit.id, visit]))
  return plan.days.flatMap((line) => {
    const legs = legsOn(line)
    let orderNo = 0
    return line.stops.flatMap(({ visit: visitId, startMin }, index) => {
      const visit = visitOf.get(visitId)
      const leg = legs[index]
      if (!visit || !leg) return []
      const sails = sailingOf(travelOn(set.travel, set.days[line.day] ?? set.today), leg.from, leg.to, leg.departMin)
      const home = index === line.stops.length - 1 ? legs.at(-1) : undefined
      let at = startMin
      return visit.stops.map((own, n) => {
        const arriveMin = Math.round(at)
        at += own.workMin
        const first = n === 0
        orderNo += 1
        return {
          stop: {
            id: own.stopId,
            siteId: visit.siteId,
            systemId: own.systemId,
            technicianId: line.technician,
            day: set.days[line.day] ?? '',
            orderNo,
            leaveMin: first ? Math.round(leg.departMin) : arriveMin,
            arriveMin,
            workMin: own.workMin,
            travelMin: first ? Math.round(leg.travelMin) : 0,
            wayEstimated: set.travel.estimated === true,
            ferryAt: first && sails !== null ? timeOfDay(sails) : null,
            promised: visit.promised,
            homeMin: n === visit.stops.length - 1 && home ? Math.round(home.departMin + home.travelMin - at) : null,
            publication: number,
            visitKey: visit.id,
            promiseFrom: visit.promise?.[0] ?? null,
            promiseTo: visit.promise?.[1] ?? null,
          },
          tasks: own.tasks.map(({ stageId, action }) => ({ stageId, action })),
        }
      })
    })
  })
}

/** Numbers the plan in the making and puts it on the road. What somebody has begun stays where it is, and so does what is tied to a job. */
export async function publish(scope: FirmScope, draft: Draft, personId: string, now: Date): Promise<number> {
  const { set, row } = draft
  const [last] = await scope.query<{ number: number | null }>('select max(number) as number from round_publication where firm_id = $1')
  const number = (last?.number ?? 0) + 1
  const before = number > 1 ? await publicationOf(scope, number - 1) : null
  const changes = changesBetween(before && { set: before.set, plan: before.row.plan }, { set, plan: row.plan })
  await scope.insert(RoundPublication, { number, setId: set.id, plan: row.plan, changes, publishedBy: personId, publishedAt: now })
  const planned = stopsOfPlan(set, row.plan, number)
  const ids = planned.map(({ stop }) => stop.id)
  const known = new Map((await scope.find(Stop, { id: In(ids) })).map((stop) => [stop.id, stop]))
  const begun = await visitsOfStops(scope, [...known.keys()])
  const fresh = planned.filter(({ stop }) => !known.has(stop.id))
  for (const { stop, tasks } of planned) {
    const before = known.get(stop.id)
    if (!before || begun.has(stop.id)) continue
    const tied = before.jobId !== null || before.followsVisit !== null
    const { id, ...place } = stop
    await scope.update(Stop, { id }, { ...place, version: before.version + 1 })
    if (tied) continue
    await scope.query('delete from stop_task where firm_id = $1 and stop_id = $2', [id])
    await scope.insert(
      StopTask,
      tasks.map((task) => ({ ...task, stopId: id })),
    )
  }
  await scope.insertMany(
    Stop,
    fresh.map(({ stop }) => ({ ...stop, version: 1 })),
  )
  await scope.insertMany(
    StopTask,
    fresh.flatMap(({ stop, tasks }) => tasks.map((task) => ({ ...task, stopId: stop.id }))),
  )
  await takeOffRoad(scope, set, new Set(ids))
  return number
}

/** Stops of the coming days that the plan has no more: their work stands in other visits, or is named as unplanned. */
async function takeOffRoad(scope: FirmScope, set: RoundSet, planned: ReadonlySet<string>): Promise<void> {
  const rows = await scope.query<{ id: string }>(
    'select id from stop where firm_id = $1 and day > $2 and job_id is null and follows_visit is null',
    [set.today],
  )
  const begun = await visitsOfStops(
    scope,
    rows.map(({ id }) => id),
  )
  const gone = rows.map(({ id }) => id).filter((id) => !planned.has(id) && !begun.has(id))
  await scope.query('delete from stop_task where firm_id = $1 and stop_id = any($2)', [gone])
  await scope.query('delete from stop where firm_id = $1 and id = any($2)', [gone])
}

type Placed = Map<string, { siteName: string; day: string; technician: string }>

function placed(set: RoundSet, plan: SetPlan): Placed {
  const names = new Map(set.technicians.map(({ id, name }) => [id, name]))
  const sites = new Map(set.visits.map(({ id, siteName }) => [id, siteName]))
  return new Map(
    plan.days.flatMap(({ technician, day, stops }) =>
      stops.map(({ visit }) => [
        visit,
        { siteName: sites.get(visit) ?? '', day: set.days[day] ?? '', technician: names.get(technician) ?? '' },
      ]),
    ),
  )
}

/** What two plans have on different days or with different people; of the days both know. */
export function changesBetween(before: { set: RoundSet; plan: SetPlan } | null, after: { set: RoundSet; plan: SetPlan }): RoundChange[] {
  const was = before ? placed(before.set, before.plan) : new Map()
  const now = placed(after.set, after.plan)
  const beyond = before?.set.days.at(-1) ?? ''
  const ids = [...new Set([...was.keys(), ...now.keys()])]
  return ids.flatMap((visitId): RoundChange[] => {
    const [old, fresh] = [was.get(visitId) ?? null, now.get(visitId) ?? null]
    if (old?.day === fresh?.day && old?.technician === fresh?.technician) return []
    // Days that are over, or that the earlier plan did not reach, are no change.
    if (!fresh && old.day <= after.set.today) return []
    if (!old && before && fresh && fresh.day > beyond) return []
    const place = (one: { day: string; technician: string } | null) => (one ? { day: one.day, technician: one.technician } : null)
    return [{ visitId, siteName: (fresh ?? old)?.siteName ?? '', was: place(old), now: place(fresh) }]
  })
}

/** A publication with the set it was made from; null where there is none of the number. */
export async function publicationOf(scope: FirmScope, number: number): Promise<{ row: RoundPublication; set: RoundSet } | null> {
  const row = await scope.findOne(RoundPublication, { number })
  const set = row ? await scope.findOne(RoundSetRow, { id: row.setId }) : null
  return row && set ? { row, set: set.set } : null
}
