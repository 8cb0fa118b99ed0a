import {
  drawSite,
  gradeOf,
  lifeUsed,
  liveDay,
  newPart,
  type Rng,
  readPart,
  runToEnd,
  type SimPart,
  type SimReading,
  type SimSite,
  type SimStage,
  seeded,
  USUAL_SPREAD,
} from '@evenround/core/simulate'
import { dayOfChance, survivalCurveOf, type WearInput } from '@evenround/core/wear'
import { dayOf, KINDS } from './fleet'

/** Parts used and days run past the end, both a system and year. */
export interface Spent {
  parts: number
  late: number
}
type Kind = (typeof KINDS)[number]

const YEARS = 10
const DAYS = YEARS * 365

interface Place {
  site: SimSite
  stage: SimStage
  kind: Kind
  seed: number
  everyDays: number
  counter: boolean
}

export function drawPlaces(seed: number, count: number): Place[] {
  const rng = seeded(seed)
  return Array.from({ length: count }, () => {
    const kind = rng.pick(
      KINDS,
      KINDS.map(({ weight }) => weight),
    )
    const site = drawSite(rng, USUAL_SPREAD, 3 * DAYS)
    const stage: SimStage = {
      media: kind.media,
      rated: kind.rated,
      wholeHouse: kind.wholeHouse,
      siteFactor: rng.spread(USUAL_SPREAD.siteCv),
    }
    return { site, stage, kind, seed: Math.floor(rng.uniform() * 2 ** 31), everyDays: rng.between(60, 150), counter: rng.chance(0.7) }
  })
}

/** The best fixed interval of each kind for this fleet, when a day past the end costs `late` parts: what it spends. */
export function fixedInterval(places: readonly Place[], lives: ReadonlyMap<Place, number[]>, late: number): Spent {
  const total: Spent = { parts: 0, late: 0 }
  for (const kind of KINDS) {
    const own = places.filter((place) => place.kind === kind)
    const ends = own.flatMap((place) => lives.get(place) as number[])
    if (ends.length === 0) continue
    let best = { cost: Number.POSITIVE_INFINITY, parts: 0, late: 0 }
    for (let interval = 10; interval < 6 * kind.about; interval = Math.ceil(interval * 1.03)) {
      const past = ends.reduce((sum, end) => sum + Math.max(0, interval - end), 0) / ends.length
      const cost = (1 + late * past) / interval
      if (cost < best.cost) best = { cost, parts: 365 / interval, late: (365 * past) / interval }
    }
    total.parts += best.parts * own.length
    total.late += best.late * own.length
  }
  return { parts: total.parts / places.length, late: total.late / places.length }
}

/** True lives of three parts at each place, fitted on different days. */
export function trueLives(places: readonly Place[]): Map<Place, number[]> {
  return new Map(
    places.map((place) => {
      const rng = seeded(place.seed ^ 0x5bd1e995)
      const ends = [0, 1, 2].map((i) => {
        const day = i * 500
        return runToEnd(null, place.site, place.stage, newPart(rng, place.site, place.stage, USUAL_SPREAD, day), day) - day
      })
      return [place, ends]
    }),
  )
}

const nextVisit = (rng: Rng, everyDays: number): number => Math.max(7, Math.round(everyDays * rng.between(0.6, 1.4)))

/** Ten years of one place, every change on the day the forecast says: risk against life saved. */
function runPlace({ site, stage, kind, seed, everyDays, counter }: Place, late: number): Spent {
  const rng = seeded(seed)
  const past: { fittedOn: string; removedOn: string; litres?: number; found: WearInput['past'][number]['found'] }[] = []
  let part: SimPart = newPart(rng, site, stage, USUAL_SPREAD, 0)
  let readings: SimReading[] = [readPart(rng, site, stage, part, 0, counter)]
  const spent: Spent = { parts: 0, late: 0 }
  const changeDay = (): number => {
    const belief = survivalCurveOf({
      today: dayOf(part.fittedDay),
      stage: {
        media: kind.media,
        fittedOn: dayOf(part.fittedDay),
        rated: kind.rated,
        site: { people: site.people, source: site.source, ...(site.chlorineMgL === null ? {} : { chlorineMgL: site.chlorineMgL }) },
      },
      readings: readings.map(({ day, ...reading }) => ({ on: dayOf(day), ...reading })),
      past,
      occupancy: site.closed.map(({ from, to, share }) => ({ from: dayOf(from), to: dayOf(to), share })),
      school: 'earliest',
    })
    if (belief === null) throw new Error(`${kind.media} has no life`)
    // One more day's risk then costs what one more day's life saves.
    const worthIt = 1 / (late * Math.max(1, dayOfChance(belief, 0.5)))
    return part.fittedDay + Math.floor(dayOfChance(belief, Math.min(0.9, Math.max(0.005, worthIt))))
  }
  let change = changeDay()
  let visit = nextVisit(rng, everyDays)
  for (let day = 0; day < DAYS; day++) {
    liveDay(rng, site, stage, part, day)
    if (lifeUsed(part) > 1) spent.late++
    if (day >= change) {
      const found = gradeOf(rng, lifeUsed(part))
      past.push({ fittedOn: dayOf(part.fittedDay), removedOn: dayOf(day), found, ...(counter ? { litres: part.litres } : {}) })
      if (past.length > 6) past.shift()
      part = newPart(rng, site, stage, USUAL_SPREAD, day)
      readings = [readPart(rng, site, stage, part, day, counter)]
      spent.parts++
      change = changeDay()
      visit = day + nextVisit(rng, everyDays)
    } else if (day === visit) {
      readings.push(readPart(rng, site, stage, part, day, counter))
      if (readings.length > 14) readings.splice(1, 1)
      change = changeDay()
      visit = day + nextVisit(rng, everyDays)
    }
  }
  // The part in service at the end counts by the share of its planned time it has served.
  const served = Math.min(1, (DAYS - part.fittedDay) / Math.max(1, change - part.fittedDay))
  return { parts: (spent.parts + served) / YEARS, late: spent.late / YEARS }
}

export function byForecast(places: readonly Place[], late: number): Spent {
  const total: Spent = { parts: 0, late: 0 }
  for (const place of places) {
    const one = runPlace(place, late)
    total.parts += one.parts
    total.late += one.late
  }
  return { parts: total.parts / places.length, late: total.late / places.length }
}
