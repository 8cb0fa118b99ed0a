// Six ways of saying in which week a site is visited and what is done there; everything else is the same for all.

import { planRound, type RoundInput } from '@evenround/core/round'
import { type ComingDue, type DueStage, groupStages } from '@evenround/core/round/group'
import {
  areaPlaces,
  betweenVisits,
  chainOfDue,
  FIRM_YEAR_WEIGHTS,
  planYear,
  weeksOn,
  workingMin,
  type YearInput,
  type YearVisit,
} from '@evenround/core/year'
import { type Calendar, hoursOfWeek, isShut } from './calendar'
import { dayIndex, dayOf, driveMin, type Firm, type Place, type Site, WEEKS } from './firm'

export interface Visit {
  site: Site
  /** Counted from the first. */
  week: number
  /** Working day of that week, where its plan says one; else any. */
  day?: number
  places: Place[]
}
/** Says what is visited from a Monday on; what was promised, with its week, stands already and is left out. */
export type Planner = (week: number, promised: ReadonlyMap<Place, number>) => Visit[]

export const ACCESS_MIN = 8
export const SETUP_MIN = 14
const DAY_MIN = 480
const WORK_DAYS = 5
const QUARTER_WEEKS = 13

const wayThere = (firm: Firm, site: Site): number => Math.min(...firm.bases.map((base) => 2 * driveMin(base, site)))

/** The next week from this one on in which the site can be worked at and somebody works. */
function openWeek(calendar: Calendar, site: Site, week: number): number {
  let open = week
  while (open < WEEKS && (isShut(site, open) || hoursOfWeek(calendar, open) === 0)) open++
  return open
}

/** Every six months by the calendar, from when it was put in: what its label would not carry to the next time is changed. */
export function byCalendar(firm: Firm, calendar: Calendar): Planner {
  const HALF_YEAR = 26
  const phase = new Map(firm.sites.map((site) => [site, (-Math.min(...site.places.map(({ part }) => part.fittedDay)) / 7) % HALF_YEAR]))
  return (week) =>
    firm.sites.flatMap((site) => {
      const since = (week + Math.floor(phase.get(site) ?? 0)) % HALF_YEAR
      const next = week + (since === 0 ? 0 : HALF_YEAR - since)
      if (next > week + QUARTER_WEEKS) return []
      const day = next * 7
      const places = site.places.filter(({ kind, part }) => day + HALF_YEAR * 7 - part.fittedDay > (kind.rated.days ?? 365) * 1.05)
      return [{ site, week: openWeek(calendar, site, next), places }]
    })
}

const asDueStage = (place: Place, due: ComingDue, index: (day: string) => number): DueStage => ({
  id: place.id,
  stage: place.id,
  system: place.site.id,
  dueDay: index(due.dueOn),
  windowDays: [Math.min(index(due.windowFrom), index(due.windowTo)), Math.max(index(due.windowFrom), index(due.windowTo))],
  latePerDay: due.latePerDay * (7 / 5),
  earlyPerDay: due.earlyPerDay * (7 / 5),
  workMin: place.workMin,
  loadKg: 1,
})

interface Grouped {
  site: Site
  group: ReturnType<typeof groupStages>[number]
  places: Place[]
}

type DueOf = (place: Place, today: number) => ComingDue
const byForecast: DueOf = (place, today) => place.due(today)

/** The visits that what is due by `until` makes, stages of a site together where that is cheaper; days are working days from `week` on. */
function dueVisits(firm: Firm, week: number, until: number, promised: ReadonlyMap<Place, number>, dueOf = byForecast): Grouped[] {
  const index = (day: string): number => {
    const days = dayIndex(day) - week * 7
    return Math.floor(days / 7) * WORK_DAYS + Math.min(WORK_DAYS - 1, ((days % 7) + 7) % 7)
  }
  return firm.sites.flatMap((site) => {
    const due = site.places.flatMap((place) => {
      const own = dueOf(place, week * 7)
      return promised.has(place) || dayIndex(own.dueOn) >= until * 7 ? [] : [asDueStage(place, own, index)]
    })
    const terms = { driveMin: 4 + 0.5 * wayThere(firm, site), accessMin: ACCESS_MIN, setupMin: SETUP_MIN, leastDays: 5 }
    return groupStages(due, terms).map((group) => ({
      site,
      group,
      places: site.places.filter(({ id }) => group.stages.some((stage) => stage.id === id)),
    }))
  })
}

/** Each visit in the week it is due, by the forecasts or by the dates that are written on the parts; on its day, or any of the week that suits. */
export function whenDue(firm: Firm, calendar: Calendar, { dueOf = byForecast, onItsDay = false } = {}): Planner {
  return (week, promised) =>
    dueVisits(firm, week, week + QUARTER_WEEKS, promised, dueOf).map(({ site, group: { dueDay }, places }) => ({
      site,
      places,
      week: openWeek(calendar, site, week + Math.max(0, Math.floor(dueDay / WORK_DAYS))),
      ...(onItsDay ? { day: Math.max(0, dueDay) % WORK_DAYS } : {}),
    }))
}

/** Dates written on the parts: by seven tenths of what labels give, as many parts are used as by the forecasts. */
const OF_THE_LABEL = 0.7
export const byPrintedDates = (firm: Firm, calendar: Calendar): Planner =>
  whenDue(firm, calendar, { dueOf: (place) => place.printed(OF_THE_LABEL) })

/** A quarter at a time, planned by ways, hours and windows, as the program did before it looked at the year. */
export function byQuarter(firm: Firm, calendar: Calendar, seconds: number): Planner {
  const OVERDUE_WITHIN = 19
  return (week, promised) => {
    const last = QUARTER_WEEKS * WORK_DAYS - 1
    const visits = dueVisits(firm, week, week + QUARTER_WEEKS, promised)
    const shut = ({ site }: Grouped): number[] =>
      Array.from({ length: QUARTER_WEEKS }, (_, ahead) => ahead).flatMap((ahead) =>
        isShut(site, week + ahead) ? Array.from({ length: WORK_DAYS }, (_, day) => ahead * WORK_DAYS + day) : [],
      )
    const input: RoundInput = {
      days: Array.from({ length: last + 1 }, (_, day) => dayOf(week * 7 + Math.floor(day / WORK_DAYS) * 7 + (day % WORK_DAYS))),
      technicians: technicians(
        firm,
        (person, day) => calendar.worksPlanned(person, week * 7 + Math.floor(day / WORK_DAYS) * 7 + (day % WORK_DAYS)),
        last + 1,
      ),
      ...waysOf(
        firm,
        visits.map(({ site }) => site),
      ),
      visits: visits.map(({ site, group }, index) => {
        const closedDays = shut(visits[index] as Grouped)
        const from = Math.max(0, Math.min(group.windowDays[0], last))
        const latest = Math.max(group.windowDays[1], group.dueDay < 0 || group.windowDays[1] < 0 ? OVERDUE_WITHIN : 0)
        return {
          id: `${index}`,
          place: site.id,
          serviceMin: group.serviceMin,
          dueDay: group.dueDay,
          windowDays: [from, Math.min(last, Math.max(latest, from))] as const,
          latePerDay: group.latePerDay,
          earlyPerDay: group.earlyPerDay,
          closedDays,
        }
      }),
      weights: { overtime: 2, unevenness: 1, change: 30 },
      seed: 1,
    }
    const end = performance.now() + seconds * 1000
    const plan = planRound(input, { stop: () => performance.now() >= end })
    return plan.days.flatMap(({ day, stops }) =>
      stops.flatMap(({ visit }) => {
        const own = visits[Number(visit)]
        return own ? [{ site: own.site, places: own.places, week: week + Math.floor(day / WORK_DAYS) }] : []
      }),
    )
  }
}

/** The plan of the year: each thing in the week it has it. */
export function byYear(firm: Firm, calendar: Calendar, seconds: number): Planner {
  const way = (from: number, to: number): number => driveMin(firm.sites[from] as Site, firm.sites[to] as Site)
  const parted = areaPlaces([...firm.sites.keys()], way)
  const areaOf = new Map(parted.flatMap((places, area) => places.map((place) => [firm.sites[place]?.id ?? '', `a${area}`] as const)))
  const areas = parted.map((places, area) => {
    const roundTripMin = wayThere(firm, firm.sites[places[0]] as Site)
    return { id: `a${area}`, roundTripMin, betweenMin: betweenVisits(places, way), dayMin: workingMin(DAY_MIN, roundTripMin) }
  })
  const AHEAD = 52
  let last: { week: number; visits: YearVisit[] } | null = null
  return (week, promised) => {
    const monday = dayOf(week * 7)
    const things = firm.sites.flatMap((site) => site.places.map((place) => ({ place, due: place.due(week * 7) })))
    const input: YearInput = {
      weeks: AHEAD,
      capacityMin: Array.from({ length: AHEAD }, (_, ahead) => hoursOfWeek(calendar, week + ahead)),
      dayMin: DAY_MIN,
      areas,
      sites: firm.sites.map(({ id }) => ({ id, area: areaOf.get(id) ?? '', visitMin: ACCESS_MIN + SETUP_MIN })),
      chains: things.map(({ place, due }) => {
        const chain = chainOfDue({ id: place.id, site: place.site.id, workMin: place.workMin, ...due }, monday)
        const closed = Array.from({ length: AHEAD }, (_, ahead) => ahead).filter((ahead) => isShut(place.site, week + ahead))
        // What is promised is done in its week, and comes round from there.
        const told = promised.get(place)
        return { ...chain, ...(closed.length > 0 ? { closed } : {}), ...(told === undefined ? {} : { pinned: Math.max(0, told - week) }) }
      }),
      weights: FIRM_YEAR_WEIGHTS,
      seed: 1,
    }
    const end = performance.now() + seconds * 1000
    const from = last && weeksOn(last.visits, week - last.week)
    const plan = planYear(input, { stop: () => performance.now() >= end, ...(from ? { from } : {}) })
    last = { week, visits: plan.visits }
    const placeOf = new Map(things.map(({ place }) => [place.id, place]))
    const siteOf = new Map(firm.sites.map((site) => [site.id, site]))
    return plan.visits.flatMap(({ site, week: ahead, chains }) => {
      const places = chains.flatMap((id) => {
        const place = placeOf.get(id)
        return place && !promised.has(place) ? [place] : []
      })
      const own = siteOf.get(site)
      return own && places.length > 0 && ahead < QUARTER_WEEKS ? [{ site: own, places, week: week + ahead }] : []
    })
  }
}

export const technicians = (firm: Firm, works: (person: number, day: number) => boolean, days: number): RoundInput['technicians'] =>
  Array.from({ length: firm.technicians }, (_, person) => ({
    id: `t${person}`,
    base: `b${person % firm.bases.length}`,
    fromMin: 480,
    toMin: 960,
    overtimeMin: 240,
    skills: [],
    daysOff: Array.from({ length: days }, (_, day) => day).filter((day) => !works(person, day)),
  }))

/** Ways between the bases and these sites. */
export function waysOf(firm: Firm, sites: readonly Site[]): Pick<RoundInput, 'places' | 'travelMin'> {
  const own = [...new Map(sites.map((site) => [site.id, site])).values()]
  const spots = [...firm.bases.map((base, index) => ({ ...base, id: `b${index}` })), ...own]
  return { places: spots.map(({ id }) => ({ id })), travelMin: spots.map((a) => spots.map((b) => driveMin(a, b))) }
}
