import { onlyBy } from '@evenround/contract/round-set'
import type { RoundVisitDto } from '@evenround/contract/rounds'
import type { Action } from '@evenround/core/train'
import { addDays } from '@evenround/core/units'
import type { Stop } from '../../db/entities/master'
import { firstFrom, type RoundStage } from './dues'
import type { AskedVisit } from './first-visits'
import { ABOUT_DAYS, dayIndex, type SiteContext, siteSide, skillsFor, withMarks } from './visits'

/** Work that is wanted whatever is due: nothing of it is pulled forward. */
const tasksOf = (
  stages: readonly RoundStage[],
  tasks: readonly { stageId: string; action: Action }[],
): RoundVisitDto['stops'][number]['tasks'] =>
  tasks.flatMap(({ stageId, action }) => {
    const stage = stages.find((one) => one.stageId === stageId)
    if (!stage) return []
    const { position, media, partNumber } = stage
    return [{ stageId, position, action, media, partNumber, dueOn: null, pulledDays: 0, lostMin: 0 }]
  })

/** A stop that goes on from something: a day of a disinfection, or what an earlier visit left. It keeps its own window and technician. */
export function tiedVisit(
  context: SiteContext,
  stop: Stop,
  minuteOf: (instant: Date) => { day: string; minute: number },
): RoundVisitDto | null {
  const { days, stages, existing } = context
  const standing = days.indexOf(stop.day)
  if (standing < 0) return null
  const from = stop.notBefore ? minuteOf(stop.notBefore) : null
  const to = stop.notAfter ? minuteOf(stop.notAfter) : null
  const last = days.length - 1
  const earliest = from ? days.findIndex((day) => day > from.day || (day === from.day && from.minute < LATEST_BEGIN_MIN)) : standing
  const latest = to ? dayIndex(days)(to.day) : Math.min(last, standing + ABOUT_DAYS)
  const isJob = stop.jobId !== null
  const tasks = existing.tasks.get(stop.id) ?? []
  const visit: RoundVisitDto = {
    ...siteSide(context),
    id: stop.id,
    kind: isJob ? 'job' : 'follow',
    serviceMin: stop.workMin,
    dueDay: standing,
    windowDays: isJob ? [standing, standing] : [Math.min(Math.max(0, earliest), standing), Math.max(latest, standing)],
    latePerDay: 20,
    earlyPerDay: 0,
    skills: [onlyBy(stop.technicianId)],
    loadKg: 2,
    pinnedDay: isJob ? standing : null,
    promisedDay: standing,
    promised: false,
    promise: null,
    stops: [
      {
        stopId: stop.id,
        systemId: stop.systemId,
        systemName: stages.find(({ systemId }) => systemId === stop.systemId)?.systemName ?? '',
        workMin: stop.workMin,
        jobDay: stop.jobDay,
        tasks: tasksOf(stages, tasks),
      },
    ],
  }
  const opens = isJob && from && from.day === stop.day ? from.minute : null
  return opens === null ? visit : { ...visit, open: [[opens, 24 * 60]] }
}
const LATEST_BEGIN_MIN = 15 * 60

/** What somebody's waiting costs, minutes a working day: a new customer waits more patiently than one who asked. */
export const waitingPerDay = (isFirst: boolean): number => (isFirst ? 3 : 30)

/** The days of a first visit that lie within a week of the one the year has it in (`week`, its Monday); all of them where it has none. */
function aboutTheWeek({ fromDay, toDay }: AskedVisit, week: string | undefined): [string, string] {
  if (week === undefined || week > toDay || addDays(week, 6) < fromDay) return [fromDay, toDay]
  const [from, to] = [addDays(week, -7), addDays(week, 13)]
  return [fromDay > from ? fromDay : from, toDay < to ? toDay : to]
}

/** A visit somebody asked for, or a first one, within its days; a first one about the week the year has it in. Null where that is after these days. */
export function askedVisit(context: SiteContext, extra: AskedVisit, stop: Stop | null): RoundVisitDto | null {
  const { days, stages, existing, site } = context
  const index = dayIndex(days)
  const [fromDay, toDay] = extra.isFirst ? aboutTheWeek(extra, context.year?.weeksOf.get(extra.id)?.[0]) : [extra.fromDay, extra.toDay]
  const from = Math.max(0, firstFrom(index, fromDay))
  if (from >= days.length) return null
  const standing = stop ? days.indexOf(stop.day) : -1
  const visit: RoundVisitDto = {
    ...siteSide(context),
    id: extra.id,
    kind: extra.isFirst ? 'first' : 'extra',
    serviceMin: extra.workMin,
    dueDay: from,
    windowDays: [from, Math.max(from, Math.min(days.length - 1, index(toDay)))],
    latePerDay: waitingPerDay(extra.isFirst),
    earlyPerDay: 0,
    skills: skillsFor(site),
    loadKg: 2,
    pinnedDay: null,
    promisedDay: standing >= 0 ? standing : null,
    promised: false,
    promise: null,
    stops: [
      {
        stopId: extra.id,
        systemId: extra.systemId,
        systemName: stages.find(({ systemId }) => systemId === extra.systemId)?.systemName ?? '',
        workMin: extra.workMin,
        jobDay: null,
        tasks: tasksOf(stages, extra.tasks),
      },
    ],
  }
  return withMarks(visit, existing.marks, days)
}
