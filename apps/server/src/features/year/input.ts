import type { YearKnown, YearWhatIf } from '@evenround/contract/year-page'
import { taskMinutes } from '@evenround/core/round/group'
import { type Travel, USUAL_WINDING } from '@evenround/core/round/roads'
import { addDays, daysBetween, isoWeekday, weekStart } from '@evenround/core/units'
import { chainOfDue, FIRM_YEAR_WEIGHTS, weekOf, workingMin, type YearChain, type YearInput } from '@evenround/core/year'
import { Firm, Site } from '../../db/entities/master'
import { SiteHoursRow } from '../../db/entities/round'
import { Occupancy } from '../../db/entities/wear'
import type { FirmScope } from '../../db/scope'
import { dayIn } from '../../time/zone'
import { waitingPerDay } from '../round/asked'
import { type RoundStage, roundStages } from '../round/dues'
import { existingOf } from '../round/existing'
import type { AskedVisit } from '../round/first-visits'
import { type Team, teamOf, USUAL_TIMES } from '../times/team'
import { travelBetween } from '../travel/matrix'
import type { TravelService } from '../travel/service'
import { type SitePlaces, sitePlaces } from '../travel/site-places'
import { areasOf } from './areas'
import { overWeeks } from './over-weeks'

export const YEAR_WEEKS = 52
const WEEK = 7
/** By contract a change is due in its month: two weeks either side of the day. */
const CONTRACT_WEEKS = 2
const WEEKS_A_MONTH = 365.25 / 12 / WEEK

export interface YearDeps {
  travel: TravelService
  now: Date
}

/** Working minutes of each week, and of a usual day. */
function hoursOf({ days, technicians }: Team, from: string): { capacityMin: number[]; dayMin: number } {
  const capacityMin = Array<number>(YEAR_WEEKS).fill(0)
  for (const { fromMin, toMin, daysOff } of technicians) {
    const off = new Set(daysOff)
    for (const [index, day] of days.entries()) {
      const week = Math.floor(daysBetween(from, day) / WEEK)
      if (!off.has(index) && week < YEAR_WEEKS) capacityMin[week] = (capacityMin[week] ?? 0) + toMin - fromMin
    }
  }
  const lengths = technicians.map(({ fromMin, toMin }) => toMin - fromMin)
  return { capacityMin, dayMin: lengths.length === 0 ? 480 : lengths.reduce((sum, one) => sum + one, 0) / lengths.length }
}

/** Weeks in which a site is shut on every day somebody works. */
function closedWeeks(team: Team, from: string, shut: (day: string) => boolean): number[] {
  const open = new Set<number>()
  const worked = new Set<number>()
  for (const day of team.days) {
    worked.add(weekOf(from, day))
    if (!shut(day)) open.add(weekOf(from, day))
  }
  return [...worked].filter((week) => !open.has(week) && week < YEAR_WEEKS)
}

/** The team as it would be. */
function teamWith(team: Team, whatIf: YearWhatIf | null): Team {
  if (whatIf?.kind === 'person-less') return { ...team, technicians: team.technicians.filter(({ id }) => id !== whatIf.personId) }
  if (whatIf?.kind === 'base')
    return { ...team, technicians: team.technicians.map((one) => (one.id === whatIf.personId ? { ...one, base: whatIf.base } : one)) }
  if (whatIf?.kind !== 'person-more') return team
  const { weekdays, fromMin, toMin, overtimeMin } = USUAL_TIMES
  const daysOff = team.days.flatMap((day, index) => (weekdays.some((one) => one === isoWeekday(day)) ? [] : [index]))
  const more = { id: 'more', name: '', van: null, base: whatIf.base, fromMin, toMin, overtimeMin, skills: [], daysOff, vanKg: null }
  return { ...team, technicians: [...team.technicians, more] }
}

/** Every change by a contract's months from when it was done last, whatever its wear says. */
function byContract(chain: YearChain, months: number): YearChain {
  const every = Math.round(months * WEEKS_A_MONTH)
  const weeks = Math.min(every - 1, CONTRACT_WEEKS)
  return { ...chain, every, early: weeks, late: weeks }
}

/** So many customers more, each with what one of ours has; their dues spread over the time from one to the next. */
function moreCustomers(known: YearKnown, { count, likeSiteId }: Extract<YearWhatIf, { kind: 'customers' }>): void {
  const { input, about } = known
  const like = input.sites.find(({ id }) => id === likeSiteId)
  if (!like) return
  const own = input.chains.filter(({ id, site }) => site === likeSiteId && about[id]?.media !== null)
  const [sites, chains] = [[...input.sites], [...input.chains]]
  for (let nth = 0; nth < count; nth++) {
    const site = `new-${nth + 1}`
    sites.push({ ...like, id: site })
    for (const { pinned: _, ...chain } of own) {
      const id = `${site}/${chain.id}`
      chains.push({ ...chain, id, site, last: -Math.floor((nth * chain.every) / count) })
      about[id] = { ...(about[chain.id] as YearKnown['about'][string]), siteName: '' }
    }
  }
  known.input = { ...input, sites, chains }
}

/** Whole weeks of the year in which a crossing is not there. */
const stoppedWeeks = ({ fromDay, toDay }: Extract<YearWhatIf, { kind: 'crossing' }>, from: string): number[] =>
  Array.from({ length: YEAR_WEEKS }, (_, week) => week).filter((week) => {
    const [monday, friday] = [addDays(from, week * WEEK), addDays(from, week * WEEK + 4)]
    return fromDay <= friday && toDay >= monday
  })

type DueHere = RoundStage & { due: NonNullable<RoundStage['due']> }

/** What a year is made of, read once: as it is and as it would be come out of the same. */
export interface YearFacts {
  terms: Firm['roundTerms']
  today: string
  /** The Monday of week 0. */
  from: string
  team: Team
  held: ReadonlyMap<string, number>
  /** Visits no due day makes, by site: they are made once. */
  asked: ReadonlyMap<string, AskedVisit[]>
  /** Sites where something comes round or somebody is to come, and what comes round. */
  sites: Site[]
  due: ReadonlyMap<string, DueHere[]>
  hours: ReadonlyMap<string, SiteHoursRow>
  closings: Occupancy[]
  whereIs: SitePlaces
  travel: Travel
  /** The ways without the crossing that is taken to stop; null where none is. */
  without: Travel | null
}

/** Reads everything of the firm that comes round or is asked for in the coming year, and the hours there are for it. */
export async function yearFacts(scope: FirmScope, { travel: service, now }: YearDeps, whatIf: YearWhatIf | null): Promise<YearFacts> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  const today = dayIn(firm.timeZone, now)
  const terms = firm.roundTerms
  const from = weekStart(addDays(today, 1))
  // In one go: each round to the database costs more than most of these answers.
  const [team, stages, allSites, hours, closings, whereIs] = await Promise.all([
    teamOf(scope, today, YEAR_WEEKS),
    roundStages(scope, terms),
    scope.find(Site, {}, { id: 'ASC' }),
    scope.find(SiteHoursRow),
    scope.find(Occupancy),
    sitePlaces(scope),
  ])
  const due = new Map<string, DueHere[]>()
  for (const stage of stages)
    if (stage.due !== null) due.set(stage.siteId, [...(due.get(stage.siteId) ?? []), { ...stage, due: stage.due }])
  const existing = await existingOf(scope, today, team.atWork)
  const asked = new Map<string, AskedVisit[]>()
  for (const visit of existing.extras) if (visit.toDay > today) asked.set(visit.siteId, [...(asked.get(visit.siteId) ?? []), visit])
  const sites = allSites.filter(({ id, goneAt }) => goneAt === null && (due.has(id) || asked.has(id)))
  const places = whereIs.among(sites)
  const about = { now, winding: terms.winding ?? USUAL_WINDING }
  const stops = whatIf?.kind === 'crossing' ? [whatIf.crossingId] : null
  return {
    terms,
    today,
    from,
    team,
    held: heldBy(existing, { from, today }),
    asked,
    sites,
    due,
    hours: new Map(hours.map((row) => [row.id, row])),
    closings: closings.filter(({ share }) => share === 0),
    whereIs,
    travel: await travelBetween(scope, service, places, about),
    without: stops && (await travelBetween(scope, service, places, { ...about, without: stops })),
  }
}

/** The coming year of these facts; as it is, or as it would be. */
export function yearKnown(facts: YearFacts, whatIf: YearWhatIf | null): YearKnown {
  const { terms, today, from, held, asked, sites: sited, due, hours: hourRows, closings, whereIs, travel } = facts
  const team = teamWith(facts.team, whatIf)
  const placeOf = new Map(sited.map((site) => [site.id, whereIs.of(site)?.id ?? '']))
  const used = new Set(placeOf.values())
  const places = new Map(whereIs.known.map((place) => [place.id, place]))
  const { areas, areaOf, names, leads, km } = areasOf(
    whereIs.among(sited).filter(({ id }) => used.has(id)),
    travel,
    team.technicians.flatMap(({ base }) => places.get(base) ?? []),
    terms.winding ?? USUAL_WINDING,
  )
  const stopped = whatIf?.kind === 'crossing' ? stoppedWeeks(whatIf, from) : []
  const cutOff = overWeeks(areas, leads, {
    travel,
    without: facts.without,
    stopped,
    from,
    nWeeks: YEAR_WEEKS,
    bases: team.technicians.map(({ base }) => base),
  })
  const { capacityMin, dayMin } = hoursOf(team, from)
  const known: YearKnown = {
    input: {
      weeks: YEAR_WEEKS,
      capacityMin,
      dayMin,
      areas: areas.map((area) => ({ ...area, dayMin: workingMin(dayMin, area.roundTripMin) })),
      sites: [],
      chains: [],
      weights: FIRM_YEAR_WEIGHTS,
      seed: 1,
    },
    from,
    today,
    about: {},
    areaNames: Object.fromEntries(names),
    areaKm: km,
    held: [...held.keys()],
    leftOut: 0,
  }
  const [sites, chains] = [[] as YearInput['sites'][number][], [] as YearChain[]]
  for (const site of sited) {
    const area = areaOf.get(placeOf.get(site.id) ?? '')
    if (area === undefined) {
      known.leftOut++
      continue
    }
    const hours = hourRows.get(site.id)
    const shut = closings.filter(({ siteId }) => siteId === site.id)
    const ownShut =
      shut.length === 0 && !hours?.closedWeekdays.length
        ? []
        : closedWeeks(
            team,
            from,
            (day) =>
              shut.some(({ fromDay, toDay }) => fromDay <= day && day < toDay) ||
              (hours?.closedWeekdays.includes(isoWeekday(day)) ?? false),
          )
    const out = cutOff.get(area) ?? []
    if (out.length === YEAR_WEEKS) {
      known.leftOut++
      continue
    }
    const closed = out.length > 0 ? [...new Set([...ownShut, ...out])].sort((a, b) => a - b) : ownShut
    sites.push({ id: site.id, area, visitMin: (hours?.accessMin ?? terms.accessMin) + terms.setupMin })
    for (const stage of due.get(site.id) ?? []) {
      const { stageId, siteId, action, media, due: when } = stage
      const own = chainOfDue({ id: stageId, site: siteId, workMin: taskMinutes(action, media), ...when }, from)
      const pinned = held.get(stage.stageId)
      chains.push({
        ...(whatIf?.kind === 'contract' ? byContract(own, whatIf.months) : own),
        ...(closed.length > 0 ? { closed } : {}),
        // What was promised for a day on which nobody gets there cannot be held.
        ...(pinned === undefined || out.includes(pinned) ? {} : { pinned }),
      })
      known.about[stage.stageId] = { siteName: site.name, media: stage.media, priceMinor: stage.priceMinor }
    }
    for (const visit of asked.get(site.id) ?? []) {
      const pinned = held.get(visit.id)
      chains.push({
        ...onceOf(visit, from),
        ...(closed.length > 0 ? { closed } : {}),
        ...(pinned === undefined || out.includes(pinned) ? {} : { pinned }),
      })
      known.about[visit.id] = { siteName: site.name, media: null, priceMinor: 0 }
    }
  }
  known.input = { ...known.input, sites, chains }
  if (whatIf?.kind === 'customers') moreCustomers(known, whatIf)
  return known
}

/** A chain that is done once in a year, in one of the weeks somebody is wanted. */
function onceOf({ id, siteId, workMin, fromDay, toDay, isFirst }: AskedVisit, from: string): YearChain {
  const due = Math.max(0, weekOf(from, fromDay))
  return {
    id,
    site: siteId,
    workMin,
    every: NOT_AGAIN_WEEKS,
    last: due - NOT_AGAIN_WEEKS,
    early: 0,
    late: Math.max(0, weekOf(from, toDay) - due),
    earlyPerWeek: 0,
    latePerWeek: WEEKDAYS * waitingPerDay(isFirst),
  }
}
/** What is done once does not come round within any year that is looked at. */
const NOT_AGAIN_WEEKS = 2 * YEAR_WEEKS
const WEEKDAYS = 5

/** Stages whose customers were given a day, whose day somebody holds, or that are seen to today, and visits asked for that stand on the road: with the week of it. */
function heldBy(
  { earlier, elsewhere, marks, extraStops }: Awaited<ReturnType<typeof existingOf>>,
  { from, today }: { from: string; today: string },
): Map<string, number> {
  const held = new Map<string, number>()
  const hold = (stage: string, day: string): void => {
    held.set(stage, Math.min(YEAR_WEEKS - 1, Math.max(0, weekOf(from, day))))
  }
  for (const { id, day, promised, stageIds } of earlier) {
    const mark = marks.findLast(({ visitId, kind }) => visitId === id && (kind === 'pin' || kind === 'promise'))
    const on = mark?.day ?? (promised ? day : null)
    if (on !== null) for (const stage of stageIds) hold(stage, on)
  }
  for (const stage of elsewhere) hold(stage, from)
  for (const { id, day } of extraStops.values()) if (day > today) hold(id, day)
  return held
}
