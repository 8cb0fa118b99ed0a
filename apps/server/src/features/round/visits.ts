import type { RoundTerms, RoundVisitDto } from '@evenround/contract/rounds'
import { type DueStage, type Group, groupStages } from '@evenround/core/round/group'
import { addDays } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import type { Site } from '../../db/entities/master'
import type { RoundMarkRow, SiteHoursRow } from '../../db/entities/round'
import { type MinutesBook, minutesThere } from '../times/minutes'
import { byTheYear, reachOf } from './by-year'
import { asDueStage, occurrences, type RoundStage } from './dues'
import type { EarlierVisit, Existing } from './existing'
import type { HandedYear } from './year-in-force'

/** What making a site's visits needs to know. */
export interface SiteContext {
  site: Site
  place: string
  /** What one more drive there costs, minutes. */
  driveMin: number
  hours: SiteHoursRow | null
  /** Days of the round on which the place is shut. */
  shut: number[]
  stages: readonly RoundStage[]
  terms: RoundTerms
  days: readonly string[]
  today: string
  existing: Existing
  /** The plan of the year in force. */
  year: HandedYear | null
  minutes: MinutesBook
  newId: () => string
}

/** What is overdue is wanted within four weeks, however long ago its window ended; where germs are the risk, within two. Its price pulls it forward. */
const OVERDUE_WITHIN = 19
const OVERDUE_DEAR_WITHIN = 9
const DEAR = 5
/** A task somebody put on a stop although nothing makes it due keeps about its day. */
export const ABOUT_DAYS = 5

/** Index of the last day at or before an ISO day; days before the first come out as 0 or less. */
export const dayIndex =
  (days: readonly string[]) =>
  (day: string): number => {
    const at = days.findIndex((one) => one > day)
    if (at > 0) return at - 1
    if (at < 0) return days.length - 1 + (day > (days.at(-1) ?? '') ? 1 : 0)
    return -1
  }

/** Of a mark of a visit the last of its kind holds. */
const markOf = (marks: readonly RoundMarkRow[], visitId: string, ...kinds: RoundMarkRow['kind'][]): RoundMarkRow | null =>
  marks.findLast((mark) => mark.visitId === visitId && kinds.includes(mark.kind)) ?? null

/** The stages due, with what must stay together, and what is on the road although nothing makes it due. */
function dueStages(context: SiteContext): { stages: DueStage[]; of: Map<string, RoundStage> } {
  const { days, existing, site } = context
  const index = dayIndex(days)
  const last = days.length - 1
  const until = days.at(-1) ?? context.today
  const earlier = existing.earlier.filter(({ siteId }) => siteId === site.id)
  const of = new Map<string, RoundStage>()
  const stages: DueStage[] = []
  for (const stage of context.stages) {
    if (existing.elsewhere.has(stage.stageId)) continue
    const before = earlier.find(({ stageIds, day }) => day !== null && stageIds.has(stage.stageId))
    const kept = before && (before.promised || markOf(existing.marks, before.id, 'pin', 'promise') !== null)
    const dues = occurrences(stage, addDays(context.today, 1), reachOf(context.year, until))
    const wanted = byTheYear(dues, stage.stageId, context.year, { today: context.today, until }).map((one) => asDueStage(one, index))
    if (before?.day && wanted.length === 0) {
      const about = Math.max(0, index(before.day))
      wanted.push({
        ...asDueStage({ stage, times: 0, dueOn: before.day, windowFrom: before.day, windowTo: before.day }, index),
        windowDays: [Math.max(0, about - ABOUT_DAYS), Math.min(last, about + ABOUT_DAYS)],
      })
    }
    wanted.forEach((one, times) => {
      const [from, to] = one.windowDays
      const within = stage.lateWorth >= DEAR ? OVERDUE_DEAR_WITHIN : OVERDUE_WITHIN
      const latest = Math.max(to, one.dueDay < 0 || to < 0 ? within : 0)
      let window: [number, number] = [Math.max(0, Math.min(from, last)), Math.min(last, Math.max(latest, 0))]
      // A day it stands on already is one of its days.
      if (times === 0 && before?.day && index(before.day) >= 0)
        window = [Math.min(window[0], index(before.day)), Math.max(window[1], Math.min(last, index(before.day)))]
      const open = whenOpen(window, context)
      // What is put off until the place opens is put off once: a second change of the same weeks goes with it.
      if (open === null || (times > 0 && open[0] > window[0] && open[0] > window[1])) return
      window = open
      of.set(one.id, stage)
      stages.push({ ...one, windowDays: window, ...(times === 0 && kept && before ? { together: before.id } : {}) })
    })
  }
  return { stages, of }
}

/** A window without a day on which the place is open waits until it opens: nobody drinks there meanwhile. Null where it does not in these weeks. */
function whenOpen([from, to]: [number, number], { shut, days }: SiteContext): [number, number] | null {
  const isShut = new Set(shut)
  const opens = days.findIndex((_, day) => day >= from && !isShut.has(day))
  if (opens < 0) return null
  const last = days.length - 1
  // Few open days at the end of a window are hard to plan: it then reaches as far beyond.
  const open = Array.from({ length: Math.max(0, to - opens + 1) }, (_, index) => opens + index).filter((day) => !isShut.has(day)).length
  if (opens <= to) return [from, opens > from && open <= ABOUT_DAYS ? Math.min(last, to + ABOUT_DAYS) : to]
  return [opens, Math.min(last, opens + OVERDUE_WITHIN)]
}

/** The earlier visit a group goes on: of those of its site the one it shares most stages with. */
function nameFor(group: Group, earlier: readonly EarlierVisit[], taken: ReadonlySet<string>): EarlierVisit | null {
  const shared = ({ stageIds }: EarlierVisit): number => group.stages.filter(({ stage }) => stageIds.has(stage)).length
  const likely = earlier.filter((one) => !taken.has(one.id) && shared(one) > 0)
  return likely.sort((a, b) => shared(b) - shared(a) || (a.day ?? '9').localeCompare(b.day ?? '9'))[0] ?? null
}

/** Wells are for people with the skill. */
export const skillsFor = ({ source }: Site): string[] => (WELLS.includes(source) ? ['wells'] : [])
const WELLS = ['drilled-well', 'shallow-well']

/** What is the same of every visit to a site. */
export function siteSide({ site, place, hours, shut }: SiteContext) {
  return {
    siteId: site.id,
    siteName: site.name,
    village: site.village,
    island: site.island,
    place,
    open: hours && hours.open.length > 0 ? hours.open : null,
    closedDays: shut,
  }
}

/** What people decided about a visit, put into its figures. */
export function withMarks(visit: RoundVisitDto, marks: readonly RoundMarkRow[], days: readonly string[]): RoundVisitDto {
  const at = (day: string): number => days.indexOf(day)
  const last = days.length - 1
  const own = marks.filter(({ visitId }) => visitId === visit.id)
  let { windowDays } = visit
  const notBefore = markOf(own, visit.id, 'not-before')
  if (notBefore) {
    const from = Math.max(
      0,
      days.findIndex((day) => day >= notBefore.day),
    )
    windowDays = [Math.max(windowDays[0], from), Math.max(windowDays[1], Math.min(last, from + ABOUT_DAYS))]
  }
  const held = markOf(own, visit.id, 'pin', 'promise')
  const pinned = held && at(held.day) >= 0 ? at(held.day) : null
  if (pinned !== null) windowDays = [Math.min(windowDays[0], pinned), Math.max(windowDays[1], pinned)]
  const promise = held?.kind === 'promise' && held.fromMin !== null && held.toMin !== null ? held : null
  const forbidden = own.flatMap(({ kind, day }) => (kind === 'forbid' && at(day) >= 0 ? [at(day)] : []))
  return {
    ...visit,
    windowDays,
    pinnedDay: pinned ?? visit.pinnedDay,
    promised: visit.promised || held?.kind === 'promise',
    // Whoever was promised a time is met within it; the work may go on past it.
    ...(promise
      ? {
          promise: [promise.fromMin as number, promise.toMin as number],
          open: [[promise.fromMin as number, (promise.toMin as number) + visit.serviceMin]],
        }
      : {}),
    closedDays: pinned === null ? [...new Set([...visit.closedDays, ...forbidden])].sort((a, b) => a - b) : [],
  }
}

/** The visits of one site's due stages. */
export function dueVisits(context: SiteContext): RoundVisitDto[] {
  const { site, terms, days, existing, newId, hours } = context
  const { stages, of } = dueStages(context)
  const groups = groupStages(stages, {
    driveMin: context.driveMin,
    accessMin: hours?.accessMin ?? terms.accessMin,
    setupMin: terms.setupMin,
    leastDays: ABOUT_DAYS,
  })
  const earlier = existing.earlier.filter(({ siteId }) => siteId === site.id)
  const taken = new Set<string>()
  const accessMin = hours?.accessMin ?? terms.accessMin
  return groups.map((group) => {
    const before = nameFor(group, earlier, taken)
    if (before) taken.add(before.id)
    const standing = before?.day ? days.indexOf(before.day) : -1
    const stops = systemsOf(group, before, of, context, accessMin)
    const visit: RoundVisitDto = {
      ...siteSide(context),
      id: before?.id ?? newId(),
      kind: before?.day ? 'stands' : 'due',
      serviceMin: stops.reduce((sum, { workMin }) => sum + workMin, 0),
      dueDay: group.dueDay,
      windowDays: group.windowDays,
      latePerDay: group.latePerDay,
      earlyPerDay: group.earlyPerDay,
      skills: skillsFor(site),
      loadKg: group.loadKg,
      pinnedDay: before?.promised && standing >= 0 ? standing : null,
      promisedDay: standing >= 0 ? standing : null,
      promised: before?.promised ?? false,
      promise: null,
      stops,
    }
    return withMarks(visit, existing.marks, days)
  })
}

/** Why some of what a site is due is in none of these visits, since it is closed; null where nothing waits for its opening. */
export function whyClosed({ stages, days, shut, existing, year }: SiteContext, visits: readonly RoundVisitDto[]): string | null {
  const rated = stages.filter(({ due }) => due !== null)
  if (rated.length === 0) return null
  if (shut.length === days.length) return say`it is closed on every working day of these weeks. It is planned once it opens.`
  const planned = new Set(visits.flatMap(({ stops }) => stops.flatMap(({ tasks }) => tasks.map(({ stageId }) => stageId))))
  const until = days.at(-1) ?? ''
  const waits =
    shut.length > 0 &&
    rated.some(
      ({ stageId, due }) =>
        due !== null &&
        due.dueOn <= until &&
        !planned.has(stageId) &&
        !existing.elsewhere.has(stageId) &&
        // What the year's plan has later waits for that, and not for the site.
        !year?.weeksOf.get(stageId)?.some((week) => week > until),
    )
  return waits ? say`it is closed when some of its parts are due, until after these weeks. They are planned once it opens.` : null
}

/** One stop a system, each with what its sheet takes; getting in is shared among them. */
function systemsOf(
  group: Group,
  before: EarlierVisit | null,
  of: Map<string, RoundStage>,
  { newId, minutes }: SiteContext,
  accessMin: number,
): RoundVisitDto['stops'] {
  const systems = [...new Set(group.stages.map(({ system }) => system))]
  return systems.map((systemId) => {
    const own = group.stages.filter(({ system }) => system === systemId)
    const worked = own.map(({ id }) => of.get(id) as RoundStage)
    const tasks = worked.map(({ stageId, action }) => ({ stage: stageId, action }))
    const time = minutes.of((worked[0] as RoundStage).train, tasks)
    return {
      stopId: before?.stops.find((stop) => stop.systemId === systemId)?.stopId ?? newId(),
      systemId,
      systemName: of.get(own[0]?.id ?? '')?.systemName ?? '',
      workMin: minutesThere(time, accessMin / systems.length),
      jobDay: null,
      tasks: own
        .map((due) => {
          const stage = of.get(due.id) as RoundStage
          const pulled = group.pulledForward.find(({ id }) => id === due.id)
          const { stageId, position, action, media, partNumber } = stage
          return {
            stageId,
            position,
            action,
            media,
            partNumber,
            dueOn: stage.due?.dueOn ?? null,
            pulledDays: pulled?.days ?? 0,
            lostMin: pulled?.lostMin ?? 0,
          }
        })
        .sort((a, b) => a.position - b.position),
    }
  })
}
