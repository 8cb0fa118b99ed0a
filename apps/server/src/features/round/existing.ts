import type { RoundSet } from '@evenround/contract/rounds'
import { In } from 'typeorm'
import { Stop, StopTask } from '../../db/entities/master'
import { RoundDraft, RoundExtra, RoundMarkRow, RoundSetRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { visitsOfStops } from '../facts/read'
import { type AskedVisit, firstVisits } from './first-visits'

/** A visit as an earlier plan, or the road as it stands, knows it: what is planned anew keeps its name. */
export interface EarlierVisit {
  id: string
  siteId: string
  stops: { stopId: string; systemId: string }[]
  stageIds: ReadonlySet<string>
  /** Where the road has it. */
  day: string | null
  technicianId: string | null
  /** Somebody gave the customer their word before there were marks. */
  promised: boolean
}

export interface Existing {
  earlier: EarlierVisit[]
  /** Stops of jobs and of visits that went before: they come with windows of their own. */
  tied: Stop[]
  /** Stages that are seen to otherwise: on today's road, by a stop that follows, by a visit somebody asked for. */
  elsewhere: ReadonlySet<string>
  tasks: ReadonlyMap<string, StopTask[]>
  marks: RoundMarkRow[]
  /** Visits somebody asked for, or first ones, that nobody has begun, and where the road has them. */
  extras: AskedVisit[]
  extraStops: ReadonlyMap<string, Stop>
  set: RoundSet | null
}

/** So long ago a stop that nobody came to is no plan any more. */
const FORGOTTEN_DAYS = 60

/** What stands on the road and in the plan in the making, as far as nobody has begun it. */
export async function existingOf(scope: FirmScope, today: string, atWork: ReadonlySet<string>): Promise<Existing> {
  const stops = await scope.query<{ id: string }>(
    `select id from stop where firm_id = $1 and day >= ($2::date - ${FORGOTTEN_DAYS})::text`,
    [today],
  )
  const all = await scope.find(Stop, { id: In(stops.map(({ id }) => id)) }, { day: 'ASC', orderNo: 'ASC' })
  const begun = await visitsOfStops(
    scope,
    all.map(({ id }) => id),
  )
  const open = all.filter(({ id }) => !begun.has(id))
  const tasks = new Map<string, StopTask[]>()
  for (const task of await scope.find(StopTask, { stopId: In(open.map(({ id }) => id)) }))
    tasks.set(task.stopId, [...(tasks.get(task.stopId) ?? []), task])
  const staysToday = (stop: Stop): boolean => stop.day === today && atWork.has(stop.technicianId)
  const isTied = ({ jobId, followsVisit }: Stop): boolean => jobId !== null || followsVisit !== null
  const draft = await scope.findOne(RoundDraft, {})
  const row = draft ? await scope.findOne(RoundSetRow, { id: draft.setId }) : null
  const wished = await scope.find(RoundExtra)
  const spoken = new Set([
    ...wished.filter(({ toDay }) => toDay > today).map(({ systemId }) => systemId),
    ...open.filter(({ id, systemId, day }) => id !== systemId && day >= today).map(({ systemId }) => systemId),
  ])
  const asked = [...wished.map((one): AskedVisit => ({ ...one, isFirst: false })), ...(await firstVisits(scope, today, spoken))]
  const askedOf = new Map(asked.map((one) => [one.id, one]))
  // A first visit to which nobody came is still to be made.
  const isToCome = ({ id, day }: Stop): boolean => day > today || (day < today && askedOf.get(id)?.isFirst === true)
  const extraStops = new Map(open.filter((stop) => askedOf.has(stop.id) && isToCome(stop)).map((stop) => [stop.id, stop]))
  const done = new Set(all.filter(({ id }) => askedOf.has(id) && !extraStops.has(id)).map(({ id }) => id))
  const extras = asked.filter(({ id }) => !done.has(id))
  const free = open.filter((stop) => !isTied(stop) && !staysToday(stop) && !askedOf.has(stop.id))
  const tied = open.filter((stop) => isTied(stop) && stop.day > today)
  return {
    earlier: earlierVisits(free, tasks, row?.set ?? null),
    tied,
    elsewhere: new Set([
      ...[...open.filter(staysToday), ...tied].flatMap(({ id }) => (tasks.get(id) ?? []).map(({ stageId }) => stageId)),
      ...extras.flatMap((extra) => extra.tasks.map(({ stageId }) => stageId)),
    ]),
    tasks,
    marks: await scope.find(RoundMarkRow, {}, { madeAt: 'ASC' }),
    extras,
    extraStops,
    set: row?.set ?? null,
  }
}

function earlierVisits(stops: readonly Stop[], tasks: Existing['tasks'], set: RoundSet | null): EarlierVisit[] {
  const byKey = new Map<string, Stop[]>()
  for (const stop of stops) {
    const key = stop.visitKey ?? stop.id
    byKey.set(key, [...(byKey.get(key) ?? []), stop])
  }
  const onRoad = [...byKey].map(([id, own]): EarlierVisit => {
    const [first] = own as [Stop]
    return {
      id,
      siteId: first.siteId,
      stops: own.map(({ id: stopId, systemId }) => ({ stopId, systemId })),
      stageIds: new Set(own.flatMap(({ id: stopId }) => (tasks.get(stopId) ?? []).map(({ stageId }) => stageId))),
      day: first.day,
      technicianId: first.technicianId,
      promised: own.some(({ promised }) => promised),
    }
  })
  const known = new Set(onRoad.map(({ id }) => id))
  const planned = (set?.visits ?? [])
    .filter(({ id, kind }) => !known.has(id) && kind !== 'job' && kind !== 'follow' && kind !== 'extra' && kind !== 'first')
    .map(
      ({ id, siteId, stops: own }): EarlierVisit => ({
        id,
        siteId,
        stops: own.map(({ stopId, systemId }) => ({ stopId, systemId })),
        stageIds: new Set(own.flatMap(({ tasks: all }) => all.map(({ stageId }) => stageId))),
        day: null,
        technicianId: null,
        promised: false,
      }),
    )
  return [...onRoad, ...planned]
}
