import { kmBetween } from '../../units'
import { landMinutes } from './land'
import type { WaterWays } from './over-water'

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
}

const positionAt = ({ lat, lon }: LandWays, index: number) => ({ lat: lat[index] as number, lon: lon[index] as number })

/** Whole minutes between two places by their index: at least one between different ones. */
export function minutesOverLand(land: LandWays, from: number, to: number): number {
  return from === to ? 0 : Math.max(1, Math.round(landMinutes(positionAt(land, from), positionAt(land, to), land.winding)))
}

/** The same ways among some of the places, by their indices. */
export const landAmong = ({ lat, lon, winding, water }: LandWays, rows: readonly number[]): LandWays => ({
  lat: rows.map((row) => lat[row] as number),
  lon: rows.map((row) => lon[row] as number),
  winding,
  ...(water ? { water: { ...water, island: rows.map((row) => water.island[row] as string) } } : {}),
})

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
