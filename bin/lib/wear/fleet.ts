// The bench's stated fleet: what systems there are, how often they are visited, and what the model is told of each.
import {
  drawSite,
  type Rng,
  runToMoment,
  SIM_CAUSES,
  type SimCause,
  type SimMoment,
  type SimSite,
  type SimSpread,
  type SimStage,
  type SimWorld,
  seeded,
} from '@evenround/core/simulate'
import { fromEpochDay, toEpochDay } from '@evenround/core/units'
import type { WearInput } from '@evenround/core/wear'

const FIRST_DAY = toEpochDay('2010-01-01')
/** How far ahead a firm knows when a place closes. */
const CALENDAR_KNOWN_DAYS = 2500
export const dayOf = (day: number): string => fromEpochDay(FIRST_DAY + day)

type School = WearInput['school']

export interface Kind {
  weight: number
  wholeHouse: boolean
  media: SimStage['media']
  rated: SimStage['rated']
  /** Median days in service, by which the moment of the question is drawn. */
  about: number
  /** How many in a hundred are changed by each school. */
  schools: Partial<Record<School, number>>
}

const YEAR = 365.24

/** Shares of the fleet: drinking-water sets are most of it, whole-house and special stages the rest. */
export const KINDS: readonly Kind[] = [
  { media: 'sediment', weight: 24, wholeHouse: true, rated: { days: YEAR / 2 }, about: 150, schools: { earliest: 40, condition: 60 } },
  {
    media: 'carbon-block',
    weight: 20,
    wholeHouse: false,
    rated: { days: YEAR, litres: 2200 },
    about: 240,
    schools: { earliest: 40, usage: 60 },
  },
  {
    media: 'fluoride-media',
    weight: 5,
    wholeHouse: false,
    rated: { days: YEAR, litres: 4000 },
    about: 320,
    schools: { earliest: 40, usage: 60 },
  },
  { media: 'membrane', weight: 15, wholeHouse: false, rated: { days: 2.5 * YEAR }, about: 750, schools: { earliest: 40, condition: 60 } },
  {
    media: 'post-carbon',
    weight: 10,
    wholeHouse: false,
    rated: { days: YEAR, litres: 3000 },
    about: 300,
    schools: { earliest: 40, usage: 60 },
  },
  {
    media: 'remineraliser',
    weight: 4,
    wholeHouse: false,
    rated: { days: YEAR, litres: 4000 },
    about: 320,
    schools: { earliest: 40, usage: 60 },
  },
  { media: 'deionising-resin', weight: 8, wholeHouse: false, rated: { milliequivalents: 9900 }, about: 300, schools: { earliest: 100 } },
  {
    media: 'uv-lamp',
    weight: 6,
    wholeHouse: true,
    rated: { days: YEAR, hours: 9000 },
    about: 320,
    schools: { earliest: 50, condition: 50 },
  },
  {
    media: 'carbon-tank',
    weight: 4,
    wholeHouse: true,
    rated: { days: 5 * YEAR, litres: 1_850_000 },
    about: 1400,
    schools: { earliest: 60, usage: 40 },
  },
  {
    media: 'fridge-internal',
    weight: 4,
    wholeHouse: false,
    rated: { days: YEAR / 2, litres: 1000 },
    about: 140,
    schools: { earliest: 60, calendar: 40 },
  },
]

/** What ends a part in each school's eyes. */
const SCHOOL_CAUSES: Record<School, readonly SimCause[]> = {
  earliest: SIM_CAUSES,
  calendar: ['calendar'],
  usage: ['throughput', 'resin', 'lamp'],
  condition: ['pressure', 'passage', 'production', 'breakthrough', 'intensity'],
}

export interface Case {
  input: WearInput
  end: string
  kind: Kind
}

export interface FleetOptions {
  spread: SimSpread
  /** How many parts were changed before; null draws 0 to 3. */
  changes: number | null
  /** Only places that close for weeks, and stages that live on litres. */
  away?: boolean
  world?: SimWorld
}

function inputOf(site: SimSite, kind: Kind, moment: SimMoment, school: School): WearInput {
  const history = moment.past
  return {
    today: dayOf(moment.askDay),
    stage: {
      media: kind.media,
      fittedOn: dayOf(moment.fittedDay),
      rated: kind.rated,
      site: { people: site.people, source: site.source, ...(site.chlorineMgL === null ? {} : { chlorineMgL: site.chlorineMgL }) },
    },
    readings: moment.readings.map(({ day, ...reading }) => ({ on: dayOf(day), ...reading })),
    past: history.map(({ fittedDay, removedDay, ...part }) => ({ fittedOn: dayOf(fittedDay), removedOn: dayOf(removedDay), ...part })),
    occupancy: site.closed
      .filter(({ from, to }) => to > (history[0]?.fittedDay ?? moment.fittedDay) && from < moment.askDay + CALENDAR_KNOWN_DAYS)
      .map(({ from, to, share }) => ({ from: dayOf(from), to: dayOf(to), share })),
    school,
  }
}

function drawCase(rng: Rng, { spread, changes, away = false, world }: FleetOptions): Case | null {
  const kind = rng.pick(
    KINDS,
    KINDS.map(({ weight }) => weight),
  )
  const site = drawSite(rng, spread, 16_000)
  if (away && (site.closed.length === 0 || kind.rated.litres === undefined)) return null
  const stage: SimStage = {
    media: kind.media,
    rated: kind.rated,
    wholeHouse: kind.wholeHouse,
    siteFactor: rng.spread(spread.siteCv),
    ...(world ? { world } : {}),
  }
  const school = rng.pick(Object.keys(kind.schools) as School[], Object.values(kind.schools))
  const moment = runToMoment(rng, site, stage, spread, {
    everyDays: rng.between(20, 80),
    // Who changes by litres has a counter there.
    counter: rng.chance(school === 'usage' || kind.media === 'deionising-resin' ? 0.97 : 0.75),
    causes: SCHOOL_CAUSES[school],
    changes: changes ?? rng.pick([0, 1, 2, 3]),
    askAge: Math.floor(rng.between(0, 1.3 * kind.about)),
  })
  return { input: inputOf(site, kind, moment, school), end: dayOf(moment.endDay), kind }
}

/** `count` stages, each asked about at a random moment, good or over: nobody knows. */
export function drawFleet(seed: number, count: number, options: FleetOptions): Case[] {
  const rng = seeded(seed)
  const cases: Case[] = []
  while (cases.length < count) {
    const one = drawCase(rng.fork(), options)
    if (one !== null) cases.push(one)
  }
  return cases
}
