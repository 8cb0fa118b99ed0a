import type { UnscheduledStop } from '@evenround/contract/unscheduled'
import { Firm, Stop, StopTask, System, TrainVersion } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import type { Who } from '../../http/env'
import { notFound } from '../../http/errors'
import { dayIn, instantAt } from '../../time/zone'
import { soundTasks } from '../facts/sound-tasks'
import { minutesBook, minutesThere } from '../times/minutes'
import { siteAccess } from '../times/store'

const DAY_MS = 86_400_000
/** No device is without a connection for longer than this, nor ahead of the server. */
const LONGEST_WITHOUT_MS = 14 * DAY_MS
const madeAt = (at: Date, sentAt: Date): Date => (at > sentAt || sentAt.getTime() - at.getTime() > LONGEST_WITHOUT_MS ? sentAt : at)

/** A stop nobody planned, put on the person's own day: somebody called, or stood at the door. Sent twice it is one stop. */
export async function putUnscheduled(
  scope: FirmScope,
  who: Who,
  { id, systemId, tasks, at }: UnscheduledStop,
  sentAt: Date,
): Promise<{ id: string }> {
  const now = at === undefined ? sentAt : madeAt(new Date(at), sentAt)
  const system = await scope.findOne(System, { id: systemId })
  const firm = await scope.findOne(Firm, {})
  const stored = system && (await scope.findOne(TrainVersion, { systemId, version: system.trainVersion }))
  if (!system || !firm || !stored) throw notFound('system')
  if (await scope.findOne(Stop, { id })) return { id }
  soundTasks(stored.train, tasks)
  const day = dayIn(firm.timeZone, now)
  const last = (await scope.find(Stop, { technicianId: who.personId, day }, { orderNo: 'ASC' })).at(-1)
  const minute = Math.floor((now.getTime() - instantAt(firm.timeZone, day, 0).getTime()) / 60_000)
  const arriveMin = Math.min(23 * 60, Math.max(minute, last ? last.arriveMin + last.workMin : 0))
  const book = await minutesBook(scope)
  await scope.insert(Stop, {
    id,
    siteId: system.siteId,
    systemId,
    technicianId: who.personId,
    day,
    orderNo: (last?.orderNo ?? 0) + 1,
    leaveMin: arriveMin,
    arriveMin,
    workMin: minutesThere(
      book.of(
        stored.train,
        tasks.map(({ stageId, action }) => ({ stage: stageId, action })),
      ),
      (await siteAccess(scope, system.siteId)) ?? firm.roundTerms.accessMin,
    ),
    travelMin: 0,
    ferryAt: null,
    promised: false,
    version: 1,
  })
  await scope.insert(
    StopTask,
    tasks.map(({ stageId, action }) => ({ stopId: id, stageId, action })),
  )
  return { id }
}
