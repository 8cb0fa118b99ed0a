import { kmBetween, type Position } from '../../units'

/** How much longer roads are than the line through the air, where a firm has not said. Commonly 1.2 to 1.4 on land. */
export const USUAL_WINDING = 1.3

/** Speeds of a van by how far it goes: streets first, then lanes, then main roads, then the motorway. Kilometres of road; km/h. */
const SPEEDS: readonly (readonly [km: number, kmh: number])[] = [
  [2, 25],
  [8, 45],
  [30, 65],
  [Number.POSITIVE_INFINITY, 90],
]

/** Estimated minutes of driving for a road of this length, km. */
export function minutesOfRoad(km: number): number {
  let rest = km
  let hours = 0
  for (const [most, kmh] of SPEEDS) {
    const stretch = Math.min(rest, most)
    hours += stretch / kmh
    rest -= stretch
    if (rest <= 0) break
  }
  return hours * 60
}

/** Estimated minutes between two points on land: the great circle, times the winding of roads, at speeds by distance. */
export const landMinutes = (a: Position, b: Position, winding = USUAL_WINDING): number => minutesOfRoad(kmBetween(a, b) * winding)
