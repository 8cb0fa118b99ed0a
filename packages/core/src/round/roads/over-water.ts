import type { Position } from '../../units'
import { landMinutes } from './land'
import { NOT_TODAY_MIN, QUARTER_MIN, type Quarter, quarterFrom } from './quarters'
import { netOf, type Roads } from './roads'

/** A ferry, causeway or bridge between two areas that no road joins. Minutes after midnight. */
export interface Crossing {
  id: string
  kind: 'ferry' | 'causeway' | 'bridge'
  from: Position & { area: string }
  to: Position & { area: string }
  minutes: number
  boardMin: number
  departures: number[]
  returns: number[]
  open: [number, number][]
  /** Of a ferry: other sailings from one day of the year to another, both included, as MM-DD; the first that holds a day counts. */
  seasons?: Season[] | undefined
  /** Of a causeway: when it may be entered on each ISO day, as the published table has it. Where it is given, a day it does not name is closed. */
  tides?: Record<string, [number, number][]> | undefined
}

export interface Season {
  from: string
  to: string
  departures: number[]
  returns: number[]
}

/** Water between the areas of some places, in their order. */
export interface WaterWays {
  /** The area of each place; one that no crossing names belongs to the mainland, which is called by the empty name. */
  island: string[]
  crossings: Crossing[]
  /**
   * Minutes by road from each place to each end of the crossings and back, as far as they are known, −1 else; the ends in the order of the
   * crossings, this side before the other.
   */
  ends?: { out: number[][]; back: number[][] } | undefined
}

/** A drive that leaves within a quarter of an hour, and its first sailing; −1 where none sails. */
export interface Way {
  minutes: number
  sailsMin: number
}

const DAY = { fromMin: 5 * 60, toMin: 21 * 60 }
const QUARTERS = (DAY.toMin - DAY.fromMin) / QUARTER_MIN
const NO_WAY: Way = { minutes: NOT_TODAY_MIN, sailsMin: -1 }

/**
 * Crossings as a net among their ends, which are its places: estimated over land within an area, by the crossings between areas. An end is
 * called by its crossing, `:from` or `:to`.
 */
export function roadsOf(crossings: readonly Crossing[], winding: number): Roads {
  const ends = crossings.flatMap(({ id, from, to }) => [
    { ...from, id: `${id}:from` },
    { ...to, id: `${id}:to` },
  ])
  const onLand = ends.flatMap((one, index) =>
    ends
      .slice(index + 1)
      .flatMap((other) =>
        one.area === other.area ? [{ from: one.id, to: other.id, minutes: Math.max(1, Math.round(landMinutes(one, other, winding))) }] : [],
      ),
  )
  return {
    places: ends.map(({ id, area, lat, lon }) => ({ id, name: id, island: area, lat, lon })),
    roads: [
      ...onLand,
      ...crossings.flatMap(({ id, kind, minutes, open }) =>
        kind === 'ferry' ? [] : [{ from: `${id}:from`, to: `${id}:to`, minutes, ...(open.length > 0 ? { open } : {}) }],
      ),
    ],
    ferries: crossings.flatMap(({ id, kind, minutes, boardMin, departures, returns }) =>
      kind === 'ferry'
        ? [
            { from: `${id}:from`, to: `${id}:to`, minutes, boardMin, departures },
            { from: `${id}:to`, to: `${id}:from`, minutes, boardMin, departures: returns },
          ]
        : [],
    ),
  }
}

/**
 * Ways between areas that crossings join: over land to an end of a crossing, by the crossings as their timetables have them, and on over
 * land; of several ends the one that gets there first. Worked out when they are asked for and kept among the ends of the crossings alone,
 * never among the places. Within a quarter of an hour of leaving the longest drive stands, so that nobody is told to catch a ferry that has
 * gone. Whole minutes; places are numbers in the order they were given in.
 */
export class WaterNet {
  private readonly net: ReturnType<typeof netOf>
  /** The ends of crossings on a place's area, one after another in `ends`, and how far each is by land. */
  private readonly endsAt: readonly (readonly number[])[]
  private readonly far: Float64Array
  private readonly farBack: Float64Array
  private readonly area: Int32Array
  private readonly longest: number
  private readonly quarters = new Map<number, Quarter>()
  private readonly nEnds: number
  /** Whether it matters when somebody leaves. */
  private readonly timed: boolean
  /** Whether any crossing is a ferry. */
  readonly sails: boolean

  constructor(places: { lat: readonly number[]; lon: readonly number[]; winding: number }, { island, crossings, ends: byRoad }: WaterWays) {
    const roads = roadsOf(crossings, places.winding)
    const ends = roads.places
    this.net = netOf(roads)
    this.nEnds = ends.length
    const named = new Map<string, number>([['', 0]])
    for (const end of ends) if (!named.has(end.island)) named.set(end.island, named.size)
    this.area = Int32Array.from(island, (name) => named.get(name) ?? 0)
    this.endsAt = [...named.keys()].map((name) => ends.flatMap((end, index) => (end.island === name ? [index] : [])))
    this.far = new Float64Array(island.length * ends.length)
    this.farBack = new Float64Array(island.length * ends.length)
    let longest = 0
    this.area.forEach((area, place) => {
      const here = { lat: places.lat[place] as number, lon: places.lon[place] as number }
      for (const end of this.endsAt[area] as readonly number[]) {
        const estimated = landMinutes(here, ends[end] as Position, places.winding)
        const whole = (known = -1): number => Math.max(1, Math.round(known >= 0 ? known : estimated))
        const [out, back] = [whole(byRoad?.out[place]?.[end]), whole(byRoad?.back[place]?.[end])]
        this.far[place * ends.length + end] = out
        this.farBack[place * ends.length + end] = back
        longest = Math.max(longest, out)
      }
    })
    this.longest = longest
    this.timed = crossings.some(({ kind, open }) => kind === 'ferry' || (kind === 'causeway' && open.length > 0))
    this.sails = crossings.some(({ kind }) => kind === 'ferry')
  }

  /** The area a place lies on, by number. */
  areaOf(place: number): number {
    return this.area[place] as number
  }

  /** Whether two places lie on one area, so that the way between them is over land alone. */
  onOneArea(from: number, to: number): boolean {
    return this.area[from] === this.area[to]
  }

  /** Minutes after midnight from which ways may be others than before, rising; empty where they are alike all day. */
  get turns(): number[] {
    if (!this.timed) return []
    // An end is reached later than a place is left: its quarters come that much sooner there.
    const first = Math.max(QUARTER_MIN, Math.floor((DAY.fromMin - this.longest) / QUARTER_MIN) * QUARTER_MIN - QUARTER_MIN)
    return Array.from({ length: Math.ceil((DAY.toMin - first) / QUARTER_MIN) }, (_, index) => first + index * QUARTER_MIN)
  }

  /** The way between two places of different areas for whoever leaves at this minute. */
  way(from: number, to: number, leaveMin: number): Way {
    const leaves = Math.floor(leaveMin / QUARTER_MIN) * QUARTER_MIN
    let best = NO_WAY
    for (const one of this.endsAt[this.area[from] as number] as readonly number[]) {
      const there = this.far[from * this.nEnds + one] as number
      // Whoever leaves at the end of the quarter is there at the end of it: the longer of the two stands.
      const early = this.quarter(one, leaves + there)
      const late = this.quarter(one, leaves + QUARTER_MIN - 1 + there)
      for (const other of this.endsAt[this.area[to] as number] as readonly number[]) {
        const over = Math.max(early.minutes[other] as number, late.minutes[other] as number)
        const minutes = there + over + (this.farBack[to * this.nEnds + other] as number)
        if (over >= NOT_TODAY_MIN || minutes >= best.minutes) continue
        best = { minutes, sailsMin: (early.minutes[other] === over ? early : late).sailsMin[other] as number }
      }
    }
    return best
  }

  /** The shortest way between two places of different areas, whenever somebody leaves. */
  least(from: number, to: number): number {
    return [0, ...this.turns].reduce((least, at) => Math.min(least, this.way(from, to, at).minutes), NOT_TODAY_MIN)
  }

  /**
   * No way from or to a place of another area is under these minutes: `out` from here, `back` to here. Only places of `among` count;
   * infinite where there is none.
   */
  leastAcross(among: readonly number[]): (place: number) => { out: number; back: number } {
    const ends = Array.from({ length: this.nEnds }, (_, index) => index)
    const nearest = ends.map(() => Number.POSITIVE_INFINITY)
    for (const place of among)
      for (const end of this.endsAt[this.area[place] as number] as readonly number[])
        nearest[end] = Math.min(
          nearest[end] as number,
          this.far[place * this.nEnds + end] as number,
          this.farBack[place * this.nEnds + end] as number,
        )
    const areaOf = new Map(this.endsAt.flatMap((own, area) => own.map((end) => [end, area] as const)))
    const over = ends.map((one) =>
      ends.map((other) => {
        let least = Number.POSITIVE_INFINITY
        for (let q = 0; q < QUARTERS; q++)
          least = Math.min(least, this.quarter(one, DAY.fromMin + q * QUARTER_MIN).minutes[other] as number)
        return least
      }),
    )
    return (place) => {
      let [out, back] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY]
      const area = this.area[place] as number
      for (const one of this.endsAt[area] as readonly number[]) {
        const there = Math.min(this.far[place * this.nEnds + one] as number, this.farBack[place * this.nEnds + one] as number)
        for (const other of ends) {
          if (areaOf.get(other) === area) continue
          out = Math.min(out, there + (over[one]?.[other] as number) + (nearest[other] as number))
          back = Math.min(back, there + (over[other]?.[one] as number) + (nearest[other] as number))
        }
      }
      return { out, back }
    }
  }

  /** Ways from an end of a crossing for whoever is there at this minute; before the day and after it as at its ends. */
  private quarter(end: number, minute: number): Quarter {
    const index = Math.min(QUARTERS - 1, Math.max(0, Math.floor((minute - DAY.fromMin) / QUARTER_MIN)))
    const key = end * QUARTERS + index
    const known = this.quarters.get(key)
    if (known) return known
    const made = quarterFrom(this.net, end, DAY.fromMin + index * QUARTER_MIN)
    this.quarters.set(key, made)
    return made
  }
}
