import { kmBetween } from '../../units'
import { landMinutes } from './land'
import type { WaterWays } from './over-water'
import { leastFactor, type PlacePace, paceFactor } from './pace'

/** A way of a table of road times that nobody knows. */
export const UNKNOWN_MIN = -1

/**
 * Ways over land, estimated when they are asked for: of twenty thousand places nothing is kept but where they lie. Degrees of WGS 84, in
 * the order of the places.
 */
export interface LandWays {
  lat: number[]
  lon: number[]
  winding: number
  /** Where water lies between some of the places; absent where everything is on one land. */
  water?: WaterWays | undefined
  /** Minutes by road from each place (row) to each (column), as far as they are known; −1 and what is left out are estimated. */
  road?: number[][] | undefined
  /** What drives that were made say about these minutes; absent where they say nothing. */
  pace?: PlacePace | undefined
}

const positionAt = ({ lat, lon }: LandWays, index: number) => ({ lat: lat[index] as number, lon: lon[index] as number })

/** Minutes between two places by road where they are known, else estimated; as drives that were made say for whoever leaves at this minute. */
function plainMinutes(land: LandWays, from: number, to: number): number {
  const known = land.road?.[from]?.[to] ?? UNKNOWN_MIN
  return known >= 0 ? known : landMinutes(positionAt(land, from), positionAt(land, to), land.winding)
}

/** Whole minutes between two places by their index, for whoever leaves at this minute of the day: at least one between different ones. */
export function minutesOverLand(land: LandWays, from: number, to: number, leaveMin = 0): number {
  if (from === to) return 0
  const factor = land.pace ? paceFactor(land.pace, from, leaveMin) : 1
  return Math.max(1, Math.round(plainMinutes(land, from, to) * factor))
}

/** The least minutes between two places by their index, whenever somebody leaves. */
export function leastOverLand(land: LandWays, from: number, to: number): number {
  if (from === to) return 0
  return Math.max(1, Math.round(plainMinutes(land, from, to) * (land.pace ? leastFactor(land.pace, from) : 1)))
}

/** The same ways among some of the places, by their indices. */
export const landAmong = ({ lat, lon, winding, water, road, pace }: LandWays, rows: readonly number[]): LandWays => {
  const cut = (table: readonly (readonly number[])[]): number[][] => rows.map((from) => rows.map((to) => table[from]?.[to] ?? UNKNOWN_MIN))
  const of = <T>(all: readonly T[]): T[] => rows.map((row) => all[row] as T)
  return {
    lat: of(lat),
    lon: of(lon),
    winding,
    ...(water
      ? {
          water: {
            ...water,
            island: of(water.island),
            ...(water.ends ? { ends: { out: of(water.ends.out), back: of(water.ends.back) } } : {}),
          },
        }
      : {}),
    ...(road ? { road: cut(road) } : {}),
    ...(pace ? { pace: { ...pace, area: of(pace.area) } } : {}),
  }
}

/**
 * No way over land out of a place, and none into it, is under these minutes: the nearest of all by the air as it is estimated, or the
 * shortest that is known by road.
 */
export function leastAround(land: LandWays, place: number, nearest: number, among: readonly number[]): { out: number; back: number } {
  const { pace, road } = land
  const factor = pace ? Math.min(...pace.factor.flat()) : 1
  const estimated = Math.max(1, Math.round(landMinutes(positionAt(land, place), positionAt(land, nearest), land.winding) * factor))
  if (!road) return { out: estimated, back: estimated }
  let [out, back] = [estimated, estimated]
  for (const other of among) {
    if (other === place) continue
    const [there, here] = [road[place]?.[other] ?? UNKNOWN_MIN, road[other]?.[place] ?? UNKNOWN_MIN]
    if (there >= 0) out = Math.min(out, Math.max(1, Math.round(there * factor)))
    if (here >= 0) back = Math.min(back, Math.max(1, Math.round(here * factor)))
  }
  return { out, back }
}

/** Least kilometres of a degree of latitude on the sphere of `kmBetween`, a little under so that nothing nearer is passed over. */
const KM_PER_DEGREE = 111.19

/**
 * The nearest other place to each, by an index of latitudes: looked for north and south until the difference in latitude alone is further
 * than what was found, so that among twenty thousand places a few are measured and not all.
 */
export class LandIndex {
  private readonly order: Int32Array
  private readonly rank = new Map<number, number>()

  /** `among` names the places that count, by their index in `land`. */
  constructor(
    private readonly land: LandWays,
    among: readonly number[],
  ) {
    this.order = Int32Array.from([...among].sort((a, b) => (land.lat[a] as number) - (land.lat[b] as number) || a - b))
    this.order.forEach((index, rank) => {
      this.rank.set(index, rank)
    })
  }

  /** The index of the nearest other place; −1 where there is none. */
  nearest(index: number): number {
    const rank = this.rank.get(index)
    if (rank === undefined) return -1
    const here = positionAt(this.land, index)
    let [best, least] = [-1, Number.POSITIVE_INFINITY]
    for (const step of [1, -1]) {
      for (let at = rank + step; at >= 0 && at < this.order.length; at += step) {
        const other = this.order[at] as number
        const there = positionAt(this.land, other)
        if (Math.abs(there.lat - here.lat) * KM_PER_DEGREE > least) break
        const km = kmBetween(here, there)
        if (km < least) [best, least] = [other, km]
      }
    }
    return best
  }
}
