import { type LandWays, minutesOverLand } from './over-land'
import { WaterNet, type Way } from './over-water'

const nets = new WeakMap<LandWays, WaterNet>()

/** What crosses the water between these places; null where nothing does, or nothing has to. Worked out once for each set of places. */
export function waterOf(land: LandWays): WaterNet | null {
  if (!land.water) return null
  const known = nets.get(land)
  if (known) return known
  const made = new WaterNet(land, land.water)
  nets.set(land, made)
  return made
}

/** The estimated way between two places by their index, for whoever leaves at this minute of the day. */
export function wayBetween(land: LandWays, from: number, to: number, leaveMin: number): Way {
  const water = waterOf(land)
  if (water === null || water.onOneArea(from, to)) return { minutes: minutesOverLand(land, from, to), sailsMin: -1 }
  return water.way(from, to, leaveMin)
}

/** The shortest estimated way between two places by their index, whenever somebody leaves; whole minutes. */
export function leastBetween(land: LandWays, from: number, to: number): number {
  const water = waterOf(land)
  return water === null || water.onOneArea(from, to) ? minutesOverLand(land, from, to) : water.least(from, to)
}
