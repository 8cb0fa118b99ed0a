import { canStand, dayCost, problemOf } from './problem'
import { LandIndex } from './roads/over-land'
import { type RoundInput, UNPLANNED_COST } from './types'

/**
 * A cost no plan of this round can be under, weighted minutes: each visit's cheapest way in and out, half of each leg counted for either
 * end, and the cheapest day it may stand on; what costs more than being left out counts as left out. Unevenness and overtime count as
 * nothing. Cheap to find and far from tight: it says how much could be gained at most.
 */
export function lowerBound(input: RoundInput): number {
  const p = problemOf(input)
  const bases = [...new Set(p.technicians.map(({ base }) => base))]
  const places = [...new Set([...p.place, ...bases])]
  const shared = new Map<number, number>()
  for (const place of p.place) shared.set(place, (shared.get(place) ?? 0) + 1)
  const leg = (from: number, to: number): number => {
    let least = Number.POSITIVE_INFINITY
    for (const { leg: drive } of p.steps) least = Math.min(least, drive(from, to))
    return least
  }
  // Over land the nearest place is as near one way as the other, and an index finds it.
  const index = input.land ? new LandIndex(input.land, places) : null
  const halfOf = new Map<number, number>()
  const half = (place: number): number => {
    const known = halfOf.get(place)
    if (known !== undefined) return known
    let found = 0
    // Its neighbour may be at the very place: another visit, or the base.
    if ((shared.get(place) ?? 0) < 2 && !bases.includes(place) && index) {
      const next = index.nearest(place)
      found = next < 0 ? 0 : leg(place, next)
    } else if ((shared.get(place) ?? 0) < 2 && !bases.includes(place)) {
      const others = places.filter((other) => other !== place)
      found =
        others.length === 0
          ? 0
          : (Math.min(...others.map((to) => leg(place, to))) + Math.min(...others.map((from) => leg(from, place)))) / 2
    }
    halfOf.set(place, found)
    return found
  }
  let sum = 0
  for (let v = 0; v < p.nVisits; v++) {
    let day = Number.POSITIVE_INFINITY
    for (let one = 0; one < p.nDays; one++) if (canStand(p, v, one)) day = Math.min(day, dayCost(p, v, one))
    const able = (p.able[v] as number[]).length > 0
    sum += able ? Math.min(UNPLANNED_COST, half(p.place[v] as number) + day) : UNPLANNED_COST
  }
  return sum
}
