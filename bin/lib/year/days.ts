// A firm's three years, day by day: parts wear, people drive, customers call.
import { planRound, type RoundInput } from '@evenround/core/round'
import { lifeUsed, seeded } from '@evenround/core/simulate'
import type { Calendar } from './calendar'
import { dayOf, driveMin, type Firm, type Place, type Site, WEEKS } from './firm'
import { ACCESS_MIN, type Planner, SETUP_MIN, technicians, type Visit, waysOf } from './plans'

/** Plans are made anew every so many weeks, and customers are told that far ahead. */
const PROMISED_WEEKS = 2
/** Of a part that is over, each day: somebody notices and calls. Most of what is over tastes and flows as before for a while. */
const CALL_CHANCE = 0.003
/** Of a promised visit: its part comes late. */
const LATE_PART_CHANCE = 0.02
/** What is plainly over when somebody stands before it is changed, whatever the plan says. */
const SEEN_OVER = 1.1
/** What somebody changed at a call in between is not changed again. */
const JUST_CHANGED_DAYS = 14
const MEASURED_FROM = 52
const ROUTER_STEPS = 400
/** Minutes that a day off the one a plan says is worth: more than any detour. */
const OFF_ITS_DAY = 500
/** Whoever is called to a site does what its plan has there in so many weeks from now, too. */
const DONE_WITH_A_CALL_WEEKS = 4

export interface Measured {
  /** Standard deviation over mean of the weeks' hours, of the weeks in which everybody is there. */
  variation: number
  drivenH: number
  longDays: number
  parts: number
  pastDays: number
  /** Of them those after the day by which the forecasts would have had it changed. */
  knownDays: number
  calls: number
  moved: number
  visits: number
}

interface Job extends Visit {
  /** The week its customer was told; none for one nobody was told of. */
  told: number | null
}

export function runFirm(firm: Firm, calendar: Calendar, planner: Planner, seed: number): Measured {
  const chance = seeded(seed ^ 0xca11)
  const found: Measured = { variation: 0, drivenH: 0, longDays: 0, parts: 0, pastDays: 0, knownDays: 0, calls: 0, moved: 0, visits: 0 }
  const hours: number[] = []
  let promised: Job[] = []
  let planned: Visit[] = []
  /** What was changed is taken off what is still to come; whoever has nothing left to come for does not come. */
  const takeOff = (done: ReadonlySet<Place>): void => {
    const without = <T extends Visit>(all: readonly T[]): T[] =>
      all.flatMap((visit) => {
        if (!visit.places.some((place) => done.has(place))) return [visit]
        const places = visit.places.filter((place) => !done.has(place))
        return places.length > 0 ? [{ ...visit, places }] : []
      })
    promised = without(promised)
    planned = without(planned)
  }
  for (let week = 0; week < WEEKS; week++) {
    const counts = week >= MEASURED_FROM
    if (week % PROMISED_WEEKS === 0)
      planned = planner(week, new Map(promised.flatMap((job) => job.places.map((place) => [place, job.week] as const))))
    const busy = new Set(promised.flatMap(({ places }) => places))
    // Told two weeks ahead; what should have been done by now as well.
    for (const visit of planned.filter((one) => one.week < week + PROMISED_WEEKS)) {
      const places = visit.places.filter((place) => !busy.has(place))
      if (places.length === 0 && visit.places.length > 0) continue
      const told = Math.max(week, visit.week)
      const late = chance.chance(LATE_PART_CHANCE)
      if (late && counts) found.moved++
      promised.push({ ...visit, places, week: told + (late ? 1 : 0), told })
    }
    planned = planned.filter((one) => one.week >= week + PROMISED_WEEKS)
    const now = promised.filter((one) => one.week <= week)
    promised = promised.filter((one) => one.week > week)
    const { days, left } = route(firm, calendar, week, now)
    for (const job of left) {
      // Nobody could come: told again, for the week after.
      if (counts) found.moved++
      promised.push({ ...job, week: week + 1, told: week + 1 })
    }
    let load = 0
    for (let day = 0; day < 7; day++) {
      const today = week * 7 + day
      for (const { place } of everyPlace(firm)) {
        place.live(today)
        if (!counts || !place.over) continue
        found.pastDays++
        if (place.isPastDue(today)) found.knownDays++
      }
      for (const one of days.filter((own) => own.day === day)) {
        load += one.travelMin + one.workMin
        if (counts) {
          found.drivenH += one.travelMin / 60
          if (one.travelMin + one.workMin > 480) found.longDays++
        }
        for (const job of one.jobs) {
          if (counts) found.visits++
          const { changed, more } = visited(job.site, job.places, today)
          takeOff(new Set(changed))
          load += more
          if (counts) found.parts += changed.length
        }
      }
      if (day >= 5) continue
      const calls = firm.sites.filter(({ places }) =>
        places.some(({ over, part }) => over && lifeUsed(part) < 9 && chance.chance(CALL_CHANCE)),
      )
      for (const site of calls) {
        const way = wayToCall(
          firm,
          site,
          days.filter((one) => one.day === day),
        )
        const soon = [...promised, ...planned].filter((visit) => visit.site === site && visit.week < week + DONE_WITH_A_CALL_WEEKS)
        const toDo = new Set([...site.places.filter(({ over }) => over), ...soon.flatMap(({ places }) => places)])
        const { changed, more } = visited(site, [...toDo], today)
        takeOff(new Set(changed))
        load += way + ACCESS_MIN + SETUP_MIN + [...toDo].reduce((sum, { workMin }) => sum + workMin, more)
        if (!counts) continue
        found.calls++
        found.drivenH += way / 60
        found.parts += changed.length
      }
    }
    if (
      counts &&
      Array.from({ length: calendar.technicians }, (_, person) => person).every((person) =>
        [0, 1, 2, 3, 4].every((day) => calendar.worksPlanned(person, week * 7 + day)),
      )
    )
      hours.push(load)
  }
  const mean = hours.reduce((sum, one) => sum + one, 0) / hours.length
  found.variation = Math.sqrt(hours.reduce((sum, one) => sum + (one - mean) ** 2, 0) / hours.length) / mean
  return found
}

/** Minutes more on the way for a call: whoever passes nearest that day goes round by it, or somebody drives there from a base. */
function wayToCall(firm: Firm, site: Site, today: readonly Day[]): number {
  let least = Math.min(...firm.bases.map((base) => 2 * driveMin(base, site)))
  for (const { base, jobs } of today) {
    const way = [base, ...jobs.map((job) => job.site), base]
    for (let leg = 1; leg < way.length; leg++) {
      const [from, to] = [way[leg - 1] as Spot, way[leg] as Spot]
      least = Math.min(least, driveMin(from, site) + driveMin(site, to) - driveMin(from, to))
    }
  }
  return least
}

const everyPlace = (firm: Firm): { place: Place }[] => firm.sites.flatMap(({ places }) => places.map((place) => ({ place })))

/** Everything is looked at; what was to be changed is, and what is plainly over, which takes `more` minutes. */
function visited(site: Site, planned: readonly Place[], today: number): { changed: Place[]; more: number } {
  const changed: Place[] = []
  let more = 0
  for (const place of site.places) {
    const toChange = planned.includes(place) && today - place.part.fittedDay >= JUST_CHANGED_DAYS
    if (toChange || lifeUsed(place.part) >= SEEN_OVER) {
      place.change(today)
      changed.push(place)
      if (!toChange) more += place.workMin
    } else place.read(today)
  }
  return { changed, more }
}

type Spot = Firm['bases'][number]
interface Day {
  day: number
  base: Spot
  travelMin: number
  workMin: number
  jobs: Job[]
}

/** A week's visits on its days, by whoever is there; what nobody has the hours for is left. */
function route(firm: Firm, calendar: Calendar, week: number, jobs: readonly Job[]): { days: Day[]; left: Job[] } {
  const input: RoundInput = {
    days: [0, 1, 2, 3, 4].map((day) => dayOf(week * 7 + day)),
    technicians: technicians(firm, (person, day) => calendar.works(person, week * 7 + day), 5),
    ...waysOf(
      firm,
      jobs.map(({ site }) => site),
    ),
    visits: jobs.map(({ site, places, day }, index) => ({
      id: `${index}`,
      place: site.id,
      serviceMin: ACCESS_MIN + SETUP_MIN + places.reduce((sum, { workMin }) => sum + workMin, 0),
      dueDay: day ?? 2,
      windowDays: [day ?? 0, 4] as const,
      // On its day, unless nobody is there or has the hours.
      latePerDay: day === undefined ? 0 : OFF_ITS_DAY,
      earlyPerDay: 0,
    })),
    weights: { overtime: 3, unevenness: 0, change: 0 },
    seed: 1,
  }
  if (jobs.length === 0 || input.technicians.every(({ daysOff }) => daysOff.length === 5)) return { days: [], left: [...jobs] }
  const plan = planRound(input, { iterations: ROUTER_STEPS })
  const jobOf = (visit: string): Job[] => {
    const job = jobs[Number(visit)]
    return job ? [job] : []
  }
  return {
    days: plan.days.map(({ day, technician, travelMin, workMin, stops }) => ({
      day,
      base: firm.bases[Number(technician.slice(1)) % firm.bases.length] as Spot,
      travelMin,
      workMin,
      jobs: stops.flatMap(({ visit }) => jobOf(visit)),
    })),
    left: plan.unplanned.flatMap(({ visit }) => jobOf(visit)),
  }
}
