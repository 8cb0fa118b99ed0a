// A made-up firm whose parts really wear: what is true of each place, and what the firm gets to know of it.
import { type ComingDue, comingDue, taskMinutes } from '@evenround/core/round/group'
import {
  drawSite,
  gradeOf,
  lifeUsed,
  liveDay,
  newPart,
  type Rng,
  readPart,
  type SimPart,
  type SimReading,
  type SimSite,
  type SimStage,
  seeded,
  USUAL_SPREAD,
} from '@evenround/core/simulate'
import { addDays, daysBetween } from '@evenround/core/units'
import { summarise, usualLateDays, type WearInput } from '@evenround/core/wear'
import { KINDS } from '../wear/fleet'

/** Day 0 is a Monday; the first year only fills the firm's memory. */
export const FIRST_DAY = '2012-01-02'
export const YEARS = 3
export const WEEKS = 52 * YEARS
export const dayOf = (day: number): string => addDays(FIRST_DAY, day)
export const dayIndex = (iso: string): number => daysBetween(FIRST_DAY, iso)

const PART_MIN = 50
/** What the firm remembers of a part: its first reading and the latest ones, and the last parts before it. */
const [MOST_READINGS, MOST_PAST] = [14, 6]

/** One stage: the truth in `stage` and `part`, the firm's knowledge in `readings`, `past` and `due`. */
export class Place {
  readonly id: string
  readonly media: SimStage['media']
  part: SimPart
  private readings: SimReading[]
  private past: WearInput['past'][number][] = []
  private known: ComingDue | null = null
  private written: ComingDue | null = null
  private readonly living: Rng
  private parts = 0

  constructor(
    readonly site: Site,
    nth: number,
    readonly kind: (typeof KINDS)[number],
    readonly stage: SimStage,
    private readonly seed: number,
    age: number,
  ) {
    this.id = `${site.id}/${nth}`
    this.media = kind.media
    this.living = seeded(seed)
    this.part = newPart(seeded(seed ^ 0x51ed27), site.truth, stage, USUAL_SPREAD, -age)
    this.readings = [readPart(seeded(seed ^ 0x2545f5), site.truth, stage, this.part, -age, site.counter)]
    for (let day = -age; day < 0; day++) liveDay(this.living, site.truth, stage, this.part, day)
  }

  get workMin(): number {
    return taskMinutes('change', this.media)
  }
  get over(): boolean {
    return lifeUsed(this.part) >= 1
  }
  live(day: number): void {
    liveDay(this.living, this.site.truth, this.stage, this.part, day)
  }
  /** What a visit sees without changing anything. */
  read(day: number): void {
    this.readings.push(readPart(seeded(this.seed ^ (day * 2654435761)), this.site.truth, this.stage, this.part, day, this.site.counter))
    if (this.readings.length > MOST_READINGS) this.readings.splice(1, 1)
    this.known = null
  }
  change(day: number): void {
    const found = gradeOf(seeded(this.seed ^ (day * 40503)), lifeUsed(this.part))
    const litres = this.site.counter ? { litres: this.part.litres } : {}
    this.past.push({ fittedOn: dayOf(this.part.fittedDay), removedOn: dayOf(Math.max(day, this.part.fittedDay + 1)), found, ...litres })
    if (this.past.length > MOST_PAST) this.past.shift()
    this.parts++
    this.part = newPart(seeded(this.seed ^ (this.parts * 7919)), this.site.truth, this.stage, USUAL_SPREAD, day)
    this.readings = []
    this.written = null
    this.read(day)
  }

  /** When the firm's forecast would have it changed, and what leaving that day costs. */
  due(today: number): ComingDue {
    this.known ??= this.byEvidence(today)
    return this.known
  }
  private byEvidence(today: number): ComingDue {
    return this.forecast(today, { readings: this.readings, past: this.past }, 'evidence')
  }
  /** Whether the day the firm's forecast would have it changed by is over; nothing is remembered, so that asking changes no plan. */
  isPastDue(today: number): boolean {
    const { dueOn } = this.known ?? this.byEvidence(today)
    return today > dayIndex(dueOn)
  }
  /** The date that is written on the part as it goes in: so much of what its label gives in such a household. */
  printed(share: number): ComingDue {
    this.written ??= this.forecast(this.part.fittedDay, { readings: this.readings.slice(0, 1), past: [] }, 'label')
    const { dueOn, windowFrom, windowTo, soonestOn: _, everyDays, ...worth } = this.written
    const sooner = (day: string): string => dayOf(Math.round(this.part.fittedDay + share * (dayIndex(day) - this.part.fittedDay)))
    return {
      ...worth,
      dueOn: sooner(dueOn),
      windowFrom: sooner(windowFrom),
      soonestOn: sooner(windowFrom),
      windowTo: sooner(windowTo),
      everyDays: share * everyDays,
    }
  }
  private forecast(today: number, known: { readings: SimReading[]; past: WearInput['past'] }, by: 'evidence' | 'label'): ComingDue {
    const { truth } = this.site
    const input: WearInput = {
      today: dayOf(Math.max(today, this.part.fittedDay)),
      stage: {
        media: this.media,
        fittedOn: dayOf(this.part.fittedDay),
        rated: this.kind.rated,
        site: { people: truth.people, source: truth.source, ...(truth.chlorineMgL === null ? {} : { chlorineMgL: truth.chlorineMgL }) },
      },
      readings: known.readings.map(({ day, ...reading }) => ({ on: dayOf(day), ...reading })),
      past: known.past,
      occupancy: truth.closed.map(({ from, to, share }) => ({ from: dayOf(from), to: dayOf(to), share })),
      school: 'earliest',
    }
    const summary = summarise({ input, rule: { by } })
    if (summary === null) throw new Error(`${this.media} has no life`)
    const { due, windowFrom: from, windowTo } = summary.due
    const windowFrom = from < due ? from : due
    return comingDue(summary.curve, {
      dueOn: due,
      windowFrom,
      windowTo,
      changeMin: PART_MIN + this.workMin,
      lateWorth: usualLateDays(this.media),
    })
  }
}

export interface Site {
  id: string
  truth: SimSite
  counter: boolean
  /** Its village, by number. */
  area: number
  x: number
  y: number
  places: Place[]
}

export interface Firm {
  sites: Site[]
  bases: { x: number; y: number }[]
  areas: { x: number; y: number }[]
  technicians: number
}

const LAND_KM = 70
const SITES_AN_AREA = 22
const KM_A_MINUTE = 50 / 60
const WINDING = 1.3
export const driveMin = (a: { x: number; y: number }, b: { x: number; y: number }): number =>
  (Math.hypot(a.x - b.x, a.y - b.y) * WINDING) / KM_A_MINUTE

/** Villages over the land, customers round them, one to four stages each in all ages; one base for every two technicians. */
export function drawFirm(seed: number, systems: number, technicians: number): Firm {
  const rng = seeded(seed)
  const side = LAND_KM * Math.sqrt(Math.max(1, systems / 300))
  const spot = () => ({ x: rng.between(0, side), y: rng.between(0, side) })
  const areas = Array.from({ length: Math.ceil(systems / SITES_AN_AREA) }, spot)
  const sites = Array.from({ length: systems }, (_, index): Site => {
    const area = Math.floor(rng.uniform() * areas.length)
    const middle = areas[area] ?? spot()
    const site: Site = {
      id: `s${index}`,
      truth: drawSite(rng, USUAL_SPREAD, 400 * (YEARS + 1)),
      counter: rng.chance(0.6),
      area,
      x: middle.x + rng.between(-3, 3),
      y: middle.y + rng.between(-3, 3),
      places: [],
    }
    const stages = rng.pick([1, 2, 3, 4], [2, 4, 3, 1])
    for (let nth = 0; nth < stages; nth++) {
      const kind = rng.pick(
        KINDS,
        KINDS.map(({ weight }) => weight),
      )
      const stage: SimStage = {
        media: kind.media,
        rated: kind.rated,
        wholeHouse: kind.wholeHouse,
        siteFactor: rng.spread(USUAL_SPREAD.siteCv),
      }
      site.places.push(
        new Place(site, nth, kind, stage, Math.floor(rng.uniform() * 2 ** 31), Math.floor(rng.between(1, Math.min(900, 0.8 * kind.about)))),
      )
    }
    return site
  })
  const bases = Array.from({ length: Math.max(1, Math.round(technicians / 2)) }, () => {
    const near = areas[Math.floor(rng.uniform() * areas.length)]
    return near ?? spot()
  })
  return { sites, areas, bases, technicians }
}
