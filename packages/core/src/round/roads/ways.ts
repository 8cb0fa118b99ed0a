import { type LandWays, leastOverLand, minutesOverLand } from './over-land'
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
  if (water === null || water.onOneArea(from, to)) return { minutes: minutesOverLand(land, from, to, leaveMin), sailsMin: -1 }
  return water.way(from, to, leaveMin)
}

/** The shortest estimated way between two places by their index, whenever somebody leaves; whole minutes. */
export function leastBetween(land: LandWays, from: number, to: number): number {
  const water = waterOf(land)
  return water === null || water.onOneArea(from, to) ? leastOverLand(land, from, to) : water.least(from, to)
}

/** Minutes after midnight from which some way may be another than before, rising; empty where all are alike all day. */
export function turnsOf(land: LandWays): number[] {
  const all = new Set([...(waterOf(land)?.turns ?? []), ...(land.pace?.fromMin ?? [])])
  return [...all].filter((at) => at > 0).sort((a, b) => a - b)
}
