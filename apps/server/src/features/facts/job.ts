import type { JobDay } from '@evenround/contract/site'
import type { StoredFact } from '@evenround/contract/visit'
import { isWell, type JobState, jobFigures, jobState, nextAct, proofFor, repeatMonths } from '@evenround/core/job'
import { firstSlot, MONDAY_TO_FRIDAY, type WorkCalendar } from '@evenround/core/schedule'
import { addMonths } from '@evenround/core/units'
import type { Fact, FactKind, HoldBegun, JobPlanned } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { v7 as uuidv7 } from 'uuid'
import { Disinfection } from '../../db/entities/disinfection'
import { Firm, Person, Stop, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { dayIn, instantAt, minuteIn } from '../../time/zone'
import { calendarOf, type WorkDays } from '../times/calendar'
import { visitFacts } from './read'

/** Facts that say where a disinfection stands; its readings of other kinds do not. */
export const JOB_KINDS: readonly FactKind[] = [
  'job-planned',
  'step-done',
  'timer-started',
  'chlorine-dosed',
  'strip-read',
  'sample-taken',
  'sample-result',
  'job-day-ended',
  'hold-begun',
  'hold-lifted',
]

export const jobFacts = (scope: FirmScope, jobId: string): Promise<StoredFact[]> => visitFacts(scope, jobId, JOB_KINDS)

const stateOf = async (scope: FirmScope, jobId: string): Promise<JobState> =>
  jobState((await jobFacts(scope, jobId)).map(({ fact }) => fact))

/** Why a plan cannot be taken, at its place; null where it can. */
export async function planProblem(scope: FirmScope, fact: JobPlanned): Promise<{ path: string; message: string } | null> {
  const { plan } = fact
  const { refusals } = jobFigures(plan)
  if (refusals.includes('strength-needs-reason'))
    return { path: 'plan.strengthReason', message: say`expected a reason in writing for more than 200 mg/L` }
  if (refusals.includes('hours-too-short')) return { path: 'plan.contactHours', message: say`expected at least the hours of its school` }
  if (refusals.includes('contact-needs-reason'))
    return { path: 'plan.contactReason', message: say`expected a reason in writing for less strength × time than is usual` }
  if (refusals.length > 0) return { path: 'plan', message: say`expected a job that can begin, got: ${refusals.join(', ')}` }
  const technician = await scope.findOne(Person, { id: plan.technicianId })
  if (!technician) return { path: 'plan.technicianId', message: say`expected a person of this firm` }
  if (isWell(plan.targets) && !technician.skills.includes('wells'))
    return { path: 'plan.technicianId', message: say`expected somebody with the skill for wells, got ${technician.name}` }
  const systems = await scope.find(System, { siteId: fact.siteId })
  const strange = plan.systemIds.find((id) => systems.every((system) => system.id !== id))
  return strange === undefined ? null : { path: 'plan.systemIds', message: say`expected systems of this site` }
}

/** The job and those that were planned after it, one after another: a repeat proves what the job before it left open. */
async function jobsFrom(scope: FirmScope, jobId: string): Promise<string[]> {
  const rows = await scope.query<{ id: string }>(
    `with recursive chain as (
       select id from disinfection where firm_id = $1 and id = $2
       union select d.id from disinfection d join chain on d.after_job = chain.id where d.firm_id = $1)
     select id from chain`,
    [jobId],
  )
  return rows.map(({ id }) => id)
}

/** The jobs a job follows, the nearest first. */
export async function jobsBefore(scope: FirmScope, { afterJob }: Pick<Disinfection, 'afterJob'>): Promise<string[]> {
  const before: string[] = []
  for (let id = afterJob; id !== null && !before.includes(id); id = (await scope.findOne(Disinfection, { id }))?.afterJob ?? null)
    before.push(id)
  return before
}

/** Whether strips or a result of the hold's own job, or of one that follows it, prove it over: then whoever is there may lift it. */
export async function provenByJob(scope: FirmScope, hold: Pick<HoldBegun, 'visitId' | 'holdKind'>): Promise<boolean> {
  for (const jobId of await jobsFrom(scope, hold.visitId)) if (proofFor(await stateOf(scope, jobId), hold) !== null) return true
  return false
}

const MINUTES: Record<JobDay, number> = { dose: 150, flush: 150, sample: 20 }
const DRIVE_MINUTES = 20

interface DayOnRoad {
  day: JobDay
  on: string
  notBefore: Date | null
  notAfter: Date | null
}

/** Nobody is sent at night: what may begin later than this begins the next morning. */
const LATEST_BEGIN_MIN = 15 * 60

/** Days of the job that are known by now: the dose as planned, the flush from when the clock really began, the sample from the flush. */
function daysOf(state: JobState, timeZone: string, calendar: WorkDays, now: Date): DayOnRoad[] {
  const { plan, tide, window } = state
  if (plan === null || state.stand === 'stopped') return []
  const slot = (from: Date, to: Date, calendars: readonly WorkCalendar[]): string => {
    // Facts may arrive late: nobody is sent into the past.
    const first = minuteIn(timeZone, from < now && now < to ? now : from)
    const beginsMin = calendar.fromMin + DRIVE_MINUTES
    return (firstSlot({ from: first, to: minuteIn(timeZone, to), calendars, beginsMin, latestBeginMin: LATEST_BEGIN_MIN }) ?? first).day
  }
  const days: DayOnRoad[] = [{ day: 'dose', on: plan.day, notBefore: null, notAfter: null }]
  // Half an hour of contact is waited for at the door.
  if (tide && tide.asked.hours >= 2) {
    const from = new Date(tide.earliestEnd)
    // Chlorine is not left in the pipes over a weekend: whoever dosed comes back within the day.
    const to = new Date(from.getTime() + FLUSH_WITHIN_MS)
    days.push({ day: 'flush', on: slot(from, to, [calendar]), notBefore: from, notAfter: null })
  }
  if (window && plan.sample) {
    const [from, to] = [new Date(window.from), new Date(window.to)]
    // A laboratory takes bottles from Monday to Friday; the technician's own days come second.
    days.push({ day: 'sample', on: slot(from, to, [calendar, MONDAY_TO_FRIDAY]), notBefore: from, notAfter: to })
  }
  return days
}
const FLUSH_WITHIN_MS = 24 * 3_600_000

function keepsWindow(stop: Stop, { notBefore, notAfter }: DayOnRoad, timeZone: string): boolean {
  const begins = instantAt(timeZone, stop.day, stop.arriveMin)
  return (notBefore === null || begins >= notBefore) && notAfter !== null && begins <= notAfter
}

/** Puts a day of the job on its technician's road, or moves it as long as nobody has begun it: the window follows the actual end before it. */
async function putDay(
  scope: FirmScope,
  jobId: string,
  siteId: string,
  state: JobState,
  firm: Firm,
  wanted: DayOnRoad,
  dayBeginsMin: number,
): Promise<void> {
  const { plan } = state
  if (plan === null || state.ended.has(wanted.day)) return
  const before = await scope.findOne(Stop, { jobId, jobDay: wanted.day })
  const { notBefore, notAfter } = wanted
  // The round may have moved it: inside its window it stays where it stands.
  const stands = before && (before.day === wanted.on || (notBefore !== null && keepsWindow(before, wanted, firm.timeZone)))
  if (before && stands && before.technicianId === plan.technicianId) {
    if (before.notBefore?.getTime() !== notBefore?.getTime()) await scope.update(Stop, { id: before.id }, { notBefore, notAfter })
    return
  }
  const last = (await scope.find(Stop, { technicianId: plan.technicianId, day: wanted.on }, { orderNo: 'ASC' })).at(-1)
  const earliest = notBefore === null ? 0 : Math.ceil((notBefore.getTime() - instantAt(firm.timeZone, wanted.on, 0).getTime()) / 60_000)
  const leaveMin = Math.max(last ? last.arriveMin + last.workMin : dayBeginsMin, earliest - DRIVE_MINUTES, dayBeginsMin)
  const place = {
    technicianId: plan.technicianId,
    day: wanted.on,
    orderNo: (last?.orderNo ?? 0) + 1,
    leaveMin,
    arriveMin: leaveMin + DRIVE_MINUTES,
    notBefore,
    notAfter,
  }
  if (before) {
    await scope.update(Stop, { id: before.id }, place)
    return
  }
  const systemId = plan.systemIds[0] ?? (await scope.findOne(System, { siteId }))?.id
  if (systemId === undefined) return
  await scope.insert(Stop, {
    ...place,
    id: uuidv7(),
    siteId,
    systemId,
    workMin: MINUTES[wanted.day],
    travelMin: DRIVE_MINUTES,
    ferryAt: null,
    promised: false,
    version: 1,
    jobId,
    jobDay: wanted.day,
  })
}

/** Brings a job's row and its days on the road up to date with its facts; part of the transaction of the fact that changed them. */
export async function followJob(scope: FirmScope, fact: Pick<Fact, 'kind' | 'visitId' | 'siteId'>, now: Date): Promise<void> {
  if (!JOB_KINDS.includes(fact.kind)) return
  const jobId = fact.visitId
  if (fact.kind !== 'job-planned' && !(await scope.findOne(Disinfection, { id: jobId }))) return
  // Two facts of one job at once: the second waits, and then sees the first.
  await scope.query('select pg_advisory_xact_lock(hashtextextended($1::text || $2::text, 9))', [jobId])
  const state = await stateOf(scope, jobId)
  const firm = await scope.findOne(Firm, {})
  if (!firm) return
  const { plan } = state
  const next = nextAct(state)
  const months = plan === null ? null : repeatMonths(plan)
  const over = state.stand === 'clean' || state.stand === 'flushed'
  const provedOn = over && state.flushedAt !== null ? dayIn(firm.timeZone, new Date(state.flushedAt)) : null
  const changed = {
    stand: state.stand,
    nextAct: next?.act ?? null,
    nextFrom: next?.from ? new Date(next.from) : null,
    nextTo: next?.to ? new Date(next.to) : null,
    againOn: provedOn !== null && months !== null ? addMonths(provedOn, months) : null,
    changedAt: now,
  }
  const row =
    plan === null
      ? changed
      : { ...changed, targets: plan.targets, technicianId: plan.technicianId, doseDay: plan.day, afterJob: plan.afterJob }
  if (await scope.findOne(Disinfection, { id: jobId })) await scope.update(Disinfection, { id: jobId }, row)
  else if (plan !== null) await scope.insert(Disinfection, { ...row, id: jobId, siteId: fact.siteId })
  const calendar = await calendarOf(scope, plan?.technicianId ?? null)
  for (const day of daysOf(state, firm.timeZone, calendar, now)) await putDay(scope, jobId, fact.siteId, state, firm, day, calendar.fromMin)
  if (state.stand === 'stopped') await dropDays(scope, jobId, state)
}

/** A job that was given up leaves no day on the road. */
async function dropDays(scope: FirmScope, jobId: string, state: JobState): Promise<void> {
  for (const day of ['dose', 'flush', 'sample'] as const)
    if (!state.ended.has(day)) await scope.query('delete from stop where firm_id = $1 and job_id = $2 and job_day = $3', [jobId, day])
}

/** The days of jobs that are over: the dose once the clock runs, the others once they were ended. */
export async function endedDays(scope: FirmScope, jobIds: readonly string[]): Promise<Set<string>> {
  const rows = await scope.query<{ id: string; job_day: string }>(
    `select visit_id as id, day as job_day from fact_job_day_ended where firm_id = $1 and visit_id = any($2) and not voided
     union select id, 'dose' from disinfection where firm_id = $1 and id = any($2) and stand <> all($3)`,
    [jobIds, BEFORE_CONTACT],
  )
  return new Set(rows.map(({ id, job_day }) => `${id}/${job_day}`))
}
const BEFORE_CONTACT: readonly JobState['stand'][] = ['planned', 'preparing', 'spreading']
