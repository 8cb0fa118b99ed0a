import type { RoundSet, RoundVisitDto } from '@evenround/contract/rounds'
import { placeText } from '@evenround/core/firm'
import { groupStages } from '@evenround/core/round/group'
import { leastMinutes, USUAL_WINDING } from '@evenround/core/round/roads'
import { addDays, daysBetween, isoWeekday, weekStart } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { Firm, Site } from '../../db/entities/master'
import { RoundSetRow, SiteHoursRow } from '../../db/entities/round'
import { Occupancy } from '../../db/entities/wear'
import type { FirmScope } from '../../db/scope'
import { dayIn, minuteIn } from '../../time/zone'
import { minutesBook } from '../times/minutes'
import { type Team, teamOf } from '../times/team'
import { travelBetween } from '../travel/matrix'
import type { TravelService } from '../travel/service'
import { sitePlaces } from '../travel/site-places'
import { waysStamp } from '../travel/stamp'
import { askedVisit, tiedVisit } from './asked'
import { asDueStage, occurrences, type RoundStage, roundStages } from './dues'
import { type Existing, existingOf } from './existing'
import { dueVisits, type SiteContext, whyClosed } from './visits'
import { handedYear } from './year-in-force'

export interface SetDeps {
  travel: TravelService
  now: Date
  newId: () => string
}

/** Part of the way from the base that a visit pays for, since others of its day share the drive. */
const SHARE_OF_WAY = 0.5
const WEEKS_OF_YEAR = 52

/** Where the road has a visit of the set. */
export interface Standing {
  visit: string
  technician: string
  day: string
}

/** Everything there is to plan, as it is known now, and kept: plans are made of it and refer to it. */
export async function makeSet(
  scope: FirmScope,
  { travel: service, now, newId }: SetDeps,
): Promise<{ set: RoundSet; standing: Standing[] }> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  const today = dayIn(firm.timeZone, now)
  const terms = firm.roundTerms
  const team = await teamOf(scope, today)
  const { days, technicians } = team
  const existing = await existingOf(scope, today, team.atWork)
  const minutes = await minutesBook(scope)
  const handed = await handedYear(scope)
  const stages = new Map<string, RoundStage[]>()
  for (const stage of await roundStages(scope, terms)) stages.set(stage.siteId, [...(stages.get(stage.siteId) ?? []), stage])
  const hours = new Map((await scope.find(SiteHoursRow)).map((row) => [row.id, row]))
  const closings = (await scope.find(Occupancy)).filter(({ share }) => share === 0)
  const sites = (await scope.find(Site, {}, { id: 'ASC' })).filter(({ goneAt }) => goneAt === null)
  const whereIs = await sitePlaces(scope)
  // Only where something may fall due: a place nobody drives to wants no way to it.
  const places = whereIs.among(sites.filter(({ id }) => stages.has(id)))
  const travel = await travelBetween(scope, service, places, { now, winding: terms.winding ?? USUAL_WINDING })
  const rowOf = new Map(travel.places.map((id, index) => [id, index]))
  const wayFrom = (place: string): number =>
    Math.min(
      ...technicians.map(({ base }) => {
        const [a, b] = [rowOf.get(base) ?? 0, rowOf.get(place) ?? 0]
        return leastMinutes(travel, a, b) + leastMinutes(travel, b, a)
      }),
    )
  const minuteOf = (instant: Date) => minuteIn(firm.timeZone, instant)
  const visits: RoundVisitDto[] = []
  const leftOut: RoundSet['leftOut'] = []
  const year = new Map<string, number>()
  for (const site of sites) {
    const own = stages.get(site.id) ?? []
    const place = whereIs.of(site)?.id
    if (place === undefined || technicians.length === 0) {
      if (own.some(({ due }) => due !== null))
        leftOut.push({
          siteId: site.id,
          siteName: site.name,
          why:
            technicians.length === 0
              ? say`nobody has a base to start from. Set one under The firm, Working times.`
              : say`nobody has said where it is: no place is known for ${placeText(site)}. Put its coordinates on the site’s page.`,
        })
      continue
    }
    const shutDay = (day: string): boolean =>
      closings.some(({ siteId, fromDay, toDay }) => siteId === site.id && fromDay <= day && day < toDay) ||
      (hours.get(site.id)?.closedWeekdays.includes(isoWeekday(day)) ?? false)
    const context: SiteContext = {
      site,
      place,
      driveMin: 4 + SHARE_OF_WAY * wayFrom(place),
      hours: hours.get(site.id) ?? null,
      shut: days.flatMap((day, index) => (shutDay(day) ? [index] : [])),
      stages: own,
      terms,
      days,
      today,
      existing,
      year: handed,
      minutes,
      newId,
    }
    const wanted = dueVisits(context)
    visits.push(...wanted)
    const why = whyClosed(context, wanted)
    if (why !== null) leftOut.push({ siteId: site.id, siteName: site.name, why })
    for (const stop of existing.tied) {
      const tied = stop.siteId === site.id ? tiedVisit(context, stop, minuteOf) : null
      if (tied) visits.push(tied)
    }
    for (const extra of existing.extras) {
      if (extra.siteId !== site.id || extra.toDay <= today) continue
      const visit = askedVisit(context, extra, existing.extraStops.get(extra.id) ?? null)
      if (visit) visits.push(visit)
    }
    addYear(year, context)
  }
  const level =
    handed === null
      ? levelOf(visits, (place) => SHARE_OF_DRIVE * wayFrom(place), team)
      : Math.max(30, Math.round(handed.filled * shortestDay(team)))
  const set: RoundSet = {
    id: newId(),
    madeAt: now.toISOString(),
    today,
    days,
    technicians: technicians.map((one) => ({ ...one, levelMin: level })),
    places,
    travel,
    visits,
    leftOut,
    terms,
    year: weeksOf(handed?.loads ?? year, today),
    ways: await waysStamp(scope),
    ...(handed === null ? {} : { byYear: handed.id }),
  }
  await dropOldSets(scope, now)
  await scope.insert(RoundSetRow, { id: set.id, madeAt: now, set })
  return { set, standing: standingOf(existing, visits) }
}

/** Sets nobody's plan refers to any more: a screen that is still open on one of today can go on with it. */
const dropOldSets = (scope: FirmScope, now: Date): Promise<unknown> =>
  scope.query(
    `delete from round_set s where s.firm_id = $1 and s.made_at < $2::timestamptz - interval '1 day'
       and not exists (select 1 from round_draft d where d.firm_id = s.firm_id and d.set_id = s.id)
       and not exists (select 1 from round_publication p where p.firm_id = s.firm_id and p.set_id = s.id)
       and not exists (select 1 from round_run r where r.firm_id = s.firm_id and r.set_id = s.id)`,
    [now],
  )

function standingOf({ earlier, tied, extraStops }: Existing, visits: readonly RoundVisitDto[]): Standing[] {
  const planned = new Set(visits.map(({ id }) => id))
  const stops = [...tied, ...extraStops.values()].map(({ id, day, technicianId }) => ({ visit: id, technician: technicianId, day }))
  const own = earlier.flatMap(({ id, day, technicianId }) => (day && technicianId ? [{ visit: id, technician: technicianId, day }] : []))
  return [...own, ...stops].filter(({ visit }) => planned.has(visit))
}

/** Part of the way from the base that a stop's drive comes to, when days are tours. */
const SHARE_OF_DRIVE = 0.6

/** What a day should come to: all the work there is with its likely drive, shared alike by the days there are; no more than a day holds. */
function levelOf(visits: readonly RoundVisitDto[], driveTo: (place: string) => number, { days, technicians }: Team): number {
  const work = visits.reduce((sum, { serviceMin, place }) => sum + serviceMin + driveTo(place), 0)
  const daysOfWork = technicians.reduce((sum, { daysOff }) => sum + days.length - daysOff.length, 0)
  return Math.max(30, Math.round(Math.min(shortestDay({ technicians }), work / Math.max(1, daysOfWork))))
}

const shortestDay = ({ technicians }: Pick<Team, 'technicians'>): number =>
  Math.min(...technicians.map(({ fromMin, toMin }) => toMin - fromMin))

/** What falls due after the planned days, as visits of its own with a drive: the coarse view of the year. */
function addYear(year: Map<string, number>, { stages, days, today, terms, driveMin, hours }: SiteContext): void {
  const from = addDays(days.at(-1) ?? today, 1)
  const until = addDays(today, WEEKS_OF_YEAR * 7)
  const due = stages.flatMap((stage) =>
    occurrences(stage, addDays(today, 1), until)
      .filter(({ dueOn }) => dueOn >= from)
      .map((one) => asDueStage(one, (day) => daysBetween(from, day))),
  )
  const accessMin = hours?.accessMin ?? terms.accessMin
  for (const group of groupStages(due, { driveMin, accessMin, setupMin: terms.setupMin })) {
    const week = weekStart(addDays(from, Math.max(0, group.dueDay)))
    year.set(week, (year.get(week) ?? 0) + group.serviceMin + driveMin)
  }
}

const weeksOf = (year: ReadonlyMap<string, number>, today: string): RoundSet['year'] =>
  Array.from({ length: WEEKS_OF_YEAR }, (_, index) => addDays(weekStart(today), 7 * index)).map((week) => ({
    week,
    minutes: Math.round(year.get(week) ?? 0),
  }))
