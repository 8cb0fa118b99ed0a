import type { FollowsWhy } from '@evenround/contract/site'
import { type DayMinute, firstSlot, workingDaysAfter } from '@evenround/core/schedule'
import { type Action, bedsByVisit, CARBON_SOAK_HOURS, SOAK_MOST_HOURS, soakHoursOf, stageOf, type Train } from '@evenround/core/train'
import { addDays } from '@evenround/core/units'
import { type VisitFinished, workOf } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { FACT_TABLES, type FactRow } from '../../db/entities/facts'
import { Firm, Stop, StopTask, TrainVersion } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { dayIn, minuteIn } from '../../time/zone'
import { counting } from '../records/counting'
import { factRows } from '../records/rows'
import { calendarOf, type WorkDays } from '../times/calendar'
import { visitsOfStops } from './read'

interface Task {
  stage: string
  action: Action
}
interface FollowUp {
  why: FollowsWhy
  tasks: Task[]
  /** Earliest and latest instant; null where any working day does. */
  notBefore: Date | null
  notAfter: Date | null
  workMin: number
  /** Working days from the visit, where nothing else says when. */
  inDays: number
}

const HOUR_MS = 3_600_000
/** A second visit to a bed: trickle, backwash, run clear, readings. */
const RUN_BED_MINUTES = 75
/** The bed beside it emptied, filled and left to soak at the same visit. */
const REFILL_BED_MINUTES = 60
/** What was not done is put back on the road: the next working day, or once a part can be there. */
const AGAIN_IN: Record<Exclude<VisitFinished['outcome'], 'done'>, number> = {
  'partly-done': 1,
  'not-right': 1,
  'nobody-home': 1,
  'part-missing': 3,
}
/** To look for what keeps the water from being right: mark, tubes, seals, a longer rinse. */
const LOOK_AGAIN_MINUTES = 45
/** Stops are planned by the round; one that follows is put at the end of a day, this far from the stop before. */
const DRIVE_MINUTES = 20
const LATEST_BEGIN_MIN = 15 * 60

interface Soaked {
  at: Date
  stageId: string | null
}

/** What was left to soak in its tank at this visit, latest first; what soaked in a vessel was fitted the same day. */
const soakedAt = (scope: FirmScope, visitId: string): Promise<Soaked[]> =>
  scope.query<Soaked>(
    `select f.at, f.stage_id as "stageId" from fact_step_done f where f.firm_id = $1 and f.visit_id = $2 and f.verb = 'soak'
     and f.step_key not like '%>vessel' and ${counting('fact_step_done')} order by f.at desc`,
    [visitId],
  )

/** The train a visit was made on. */
const trainOf = async (scope: FirmScope, { systemId, trainVersion }: FactRow<'visit-begun'>): Promise<Train | undefined> =>
  (await scope.findOne(TrainVersion, { systemId, version: trainVersion }))?.train

/** Hours that these beds soak. */
function hoursToSoak(train: Train | undefined, beds: readonly Task[]): number {
  const hours = beds.map((task) => {
    const stage = train && stageOf(train, task.stage)
    return (stage && soakHoursOf({ stage, task })) || CARBON_SOAK_HOURS
  })
  return Math.max(...hours)
}

/** What a finished visit leaves to be done, if anything. */
async function followUpOf(
  scope: FirmScope,
  fact: VisitFinished,
  begun: FactRow<'visit-begun'>,
  stop: Stop | null,
): Promise<FollowUp | null> {
  const changes = await factRows(scope, 'work-changed', 'f.visit_id = $2', [fact.visitId])
  const tasks = workOf(begun.tasks, changes)
  const soaked = await soakedAt(scope, fact.visitId)
  const beds = tasks.filter(({ stage }) => soaked.some(({ stageId }) => stageId === stage))
  const [last] = soaked
  if (last && beds.length > 0) {
    const since = last.at.getTime()
    const train = await trainOf(scope, begun)
    // Lines side by side: the next bed is filled when the first one runs again.
    const turns = train ? bedsByVisit(train, tasks).slice(1).flat() : []
    const next = tasks.filter((task) => turns.includes(task.stage) && !beds.includes(task))
    return {
      why: 'soak',
      tasks: [...beds, ...next],
      notBefore: new Date(since + hoursToSoak(train, beds) * HOUR_MS),
      notAfter: new Date(since + SOAK_MOST_HOURS * HOUR_MS),
      workMin: RUN_BED_MINUTES + next.length * REFILL_BED_MINUTES,
      inDays: 0,
    }
  }
  if (fact.outcome === 'done') return null
  if (fact.outcome === 'not-right') {
    const about = tasks.filter(({ stage }) => fact.notRight.includes(stage))
    const again = about.length > 0 ? about : tasks
    return { why: 'not-right', tasks: again, notBefore: null, notAfter: null, workMin: LOOK_AGAIN_MINUTES, inDays: AGAIN_IN['not-right'] }
  }
  const fitted = new Set(
    (await scope.find(FACT_TABLES['part-fitted'], { visitId: fact.visitId })).filter(({ voided }) => !voided).map(({ stageId }) => stageId),
  )
  const open = (work: readonly Task[]): Task[] => work.filter(({ stage }) => !fitted.has(stage))
  // Where all that was open was left, the visit was stopped: what it came for is to be done on another day.
  const came = workOf(
    begun.tasks,
    changes.filter(({ action }) => action !== null),
  )
  const left = open(tasks).length > 0 ? open(tasks) : open(came)
  if (left.length === 0) return null
  const share = left.length / Math.max(1, came.length)
  const workMin = Math.max(20, Math.round((stop?.workMin ?? 60) * share))
  return { why: fact.outcome, tasks: left, notBefore: null, notAfter: null, workMin, inDays: AGAIN_IN[fact.outcome] }
}

/** The first working day of the technician the follow-up may be done on, and the minute it may begin at. */
function slotOf(timeZone: string, { notBefore, notAfter, inDays }: FollowUp, finished: Date, calendar: WorkDays): DayMinute {
  const day = dayIn(timeZone, finished)
  const from =
    notBefore === null ? { day: workingDaysAfter(calendar, day, inDays) ?? addDays(day, inDays), minute: 0 } : minuteIn(timeZone, notBefore)
  const to = notAfter === null ? null : minuteIn(timeZone, notAfter)
  const slot = firstSlot({ from, to, calendars: [calendar], beginsMin: calendar.fromMin, latestBeginMin: LATEST_BEGIN_MIN })
  // Somebody who never works again: the planner sees it on its day and gives it to another.
  return slot ?? { day: from.day, minute: calendar.fromMin }
}

interface Room {
  day: string
  leaveMin: number
  last: Stop | undefined
}
/** So many days are looked through for one that is not full. */
const LOOKED_THROUGH = 10

/** The first day from a slot on whose stops leave room before evening; where it has to be soon the slot's own. */
async function roomFrom(scope: FirmScope, technicianId: string, slot: DayMinute, calendar: WorkDays, soon: boolean): Promise<Room> {
  const on = async ({ day, minute }: DayMinute): Promise<Room> => {
    const last = (await scope.find(Stop, { technicianId, day }, { orderNo: 'ASC' })).at(-1)
    return { day, leaveMin: Math.max(minute - DRIVE_MINUTES, last ? last.arriveMin + last.workMin : calendar.fromMin), last }
  }
  const first = await on(slot)
  let room = first
  for (let step = 1; room.leaveMin > LATEST_BEGIN_MIN && !soon && step <= LOOKED_THROUGH; step++) {
    const day = workingDaysAfter(calendar, slot.day, step)
    if (day === null) return first
    room = await on({ day, minute: calendar.fromMin })
  }
  return room.leaveMin > LATEST_BEGIN_MIN ? first : room
}

/**
 * Puts what a finished visit leaves to be done on the road again, once: after the soak of a new bed from when it really began, or what was
 * not done, at the end of the same technician's day. The round may move it; its window it keeps.
 */
export async function putFollowUp(scope: FirmScope, fact: VisitFinished, personId: string): Promise<void> {
  const standing = await scope.findOne(Stop, { followsVisit: fact.visitId })
  // A corrected ending may leave nothing to come back for: what nobody has begun is taken off the road.
  if (standing && fact.supersedes !== null && standing.followsWhy !== 'soak' && standing.followsWhy !== fact.outcome) {
    if ((await visitsOfStops(scope, [standing.id])).has(standing.id)) return
    await scope.query('delete from stop_task where firm_id = $1 and stop_id = $2', [standing.id])
    await scope.query('delete from stop where firm_id = $1 and id = $2', [standing.id])
  } else if (standing) return
  const begun = await scope.findOne(FACT_TABLES['visit-begun'], { visitId: fact.visitId })
  const firm = await scope.findOne(Firm, {})
  if (!begun || !firm) return
  const stop = begun.stopId === null ? null : await scope.findOne(Stop, { id: begun.stopId })
  const follow = await followUpOf(scope, fact, begun, stop)
  if (follow === null) return
  const technicianId = stop?.technicianId ?? personId
  const calendar = await calendarOf(scope, technicianId)
  const slot = slotOf(firm.timeZone, follow, new Date(fact.at), calendar)
  const { day, leaveMin, last } = await roomFrom(scope, technicianId, slot, calendar, follow.notAfter !== null)
  const id = uuidv7()
  await scope.insert(Stop, {
    id,
    siteId: fact.siteId,
    systemId: begun.systemId,
    technicianId,
    day,
    orderNo: (last?.orderNo ?? 0) + 1,
    leaveMin,
    arriveMin: leaveMin + DRIVE_MINUTES,
    workMin: follow.workMin,
    travelMin: DRIVE_MINUTES,
    ferryAt: null,
    promised: false,
    version: 1,
    followsVisit: fact.visitId,
    followsWhy: follow.why,
    notBefore: follow.notBefore,
    notAfter: follow.notAfter,
  })
  await scope.insert(
    StopTask,
    follow.tasks.map(({ stage, action }) => ({ stopId: id, stageId: stage, action })),
  )
}
