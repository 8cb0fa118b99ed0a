import { canStand, dayCost, type Leg, type Problem, problemOf } from './problem'
import { landAtBest } from './roads/by-day'
import { LandIndex, type LandWays, leastAround } from './roads/over-land'
import { NOT_TODAY_MIN } from './roads/quarters'
import { waterOf } from './roads/ways'
import { type RoundInput, UNPLANNED_COST } from './types'

/**
 * A cost no plan of this round can be under, weighted minutes: each visit's cheapest way in and out, half of each leg counted for either
 * end, and the cheapest day it may stand on; what costs more than being left out counts as left out. Unevenness and overtime count as
 * nothing. Cheap to find and far from tight: it says how much could be gained at most.
 */
export function lowerBound(input: RoundInput, p: Problem = problemOf(input)): number {
  const bases = [...new Set(p.technicians.map(({ base }) => base))]
  const places = [...new Set([...p.place, ...bases])]
  const shared = new Map<number, number>()
  for (const place of p.place) shared.set(place, (shared.get(place) ?? 0) + 1)
  const hourly = (from: number, to: number): number => {
    let least = Number.POSITIVE_INFINITY
    for (const steps of p.roads) for (const { leg: drive } of steps) least = Math.min(least, drive(from, to))
    return least
  }
  const only = p.roads.length === 1 && p.roads[0]?.length === 1 ? p.roads[0][0] : undefined
  const leg = only?.leg ?? hourly
  const table = only?.table
  const nearest = input.land ? nearestEstimated(input.land, places) : nearestIn(places, leg, table, p.nPlaces)
  const halfOf = new Map<number, number>()
  const half = (place: number): number => {
    const known = halfOf.get(place)
    if (known !== undefined) return known
    let found = 0
    // Its neighbour may be at the very place: another visit, or the base.
    if ((shared.get(place) ?? 0) < 2 && !bases.includes(place)) found = places.length < 2 ? 0 : nearest(place)
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

/** The cheapest way out of a place and in again, half of each: by one walk through the table, row by row. */
function nearestIn(places: readonly number[], leg: Leg, table: Float64Array | undefined, n: number): (place: number) => number {
  const [out, back] = [new Map<number, number>(), new Map<number, number>()]
  const least = new Float64Array(places.length).fill(Number.POSITIVE_INFINITY)
  // Millions of turns for thousands of places: by index.
  for (let a = 0; a < places.length; a++) {
    const from = places[a] as number
    let own = Number.POSITIVE_INFINITY
    for (let b = 0; b < places.length; b++) {
      if (a === b) continue
      const to = places[b] as number
      const minutes = table ? (table[from * n + to] as number) : leg(from, to)
      if (minutes < own) own = minutes
      if (minutes < (least[b] as number)) least[b] = minutes
    }
    out.set(from, own)
  }
  for (const [b, to] of places.entries()) back.set(to, least[b] as number)
  return (place) => ((out.get(place) ?? 0) + (back.get(place) ?? 0)) / 2
}

const NOWHERE = { out: NOT_TODAY_MIN, back: NOT_TODAY_MIN }

/**
 * The cheapest way out of a place and in again, half of each: over land the nearest of its area, found by an index, or what is shorter by
 * road; over water no less than the shortest crossing and the shortest ways to its ends.
 */
function nearestEstimated(land: LandWays, places: readonly number[]): (place: number) => number {
  const water = waterOf(landAtBest(land))
  const areas = new Map<number, number[]>()
  for (const place of places) {
    const area = water?.areaOf(place) ?? 0
    areas.set(area, [...(areas.get(area) ?? []), place])
  }
  const indexes = new Map([...areas].map(([area, own]) => [area, new LandIndex(land, own)]))
  const across = water?.leastAcross(places)
  return (place) => {
    const area = water?.areaOf(place) ?? 0
    const next = indexes.get(area)?.nearest(place) ?? -1
    const onLand = next < 0 ? NOWHERE : leastAround(land, place, next, areas.get(area) ?? [])
    const { out, back } = across?.(place) ?? NOWHERE
    return (Math.min(onLand.out, out) + Math.min(onLand.back, back)) / 2
  }
}
