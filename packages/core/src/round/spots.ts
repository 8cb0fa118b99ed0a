import { dayCost, isPlain, type Problem, plainLeg } from './problem'
import { type Solution, spread } from './solution'
import { EPS, fitOpen, timeRoute } from './timing'
import { UNPLANNED_COST } from './types'

/** Where a visit would go in a route and what that changes; `at` is −1 where it has no place there. */
export interface Spot {
  delta: number
  at: number
}
export const NO_SPOT: Spot = { delta: Number.POSITIVE_INFINITY, at: -1 }

/** Price of the cheapest place for a visit in one route. */
export function bestSpot(s: Solution, v: number, route: number): Spot {
  const { p } = s
  const technician = p.technicians[s.technicianOf(route)] as Problem['technicians'][number]
  if ((s.kg[route] as number) + (p.loadKg[v] as number) > technician.vanKg + EPS) return NO_SPOT
  const tied = s.isLinked(v) || s.holdsLinked(route)
  const plain = isPlain(p, s.dayOf(route))
  if (!tied) return plain ? plainSpot(s, v, route, 0, null) : hourlySpot(s, v, route)
  if (!plain) return tiedSpot(s, v, route, everywhere(s, route))
  const from = earliestStart(s, v, route)
  if (from === Number.POSITIVE_INFINITY) return NO_SPOT
  const spots: Spot[] = []
  plainSpot(s, v, route, from, spots)
  return tiedSpot(
    s,
    v,
    route,
    spots.sort((a, b) => a.delta - b.delta),
  )
}

const everywhere = (s: Solution, route: number): Spot[] =>
  Array.from({ length: (s.routes[route] as number[]).length + 1 }, (_, at) => ({ delta: 0, at }))

/** Earliest start its predecessor leaves a visit on this route's day; infinite where no time of that day keeps the gap. */
function earliestStart(s: Solution, v: number, route: number): number {
  const { p } = s
  const before = p.pred[v] as number
  if (before < 0) return 0
  const there = s.where[before] as number
  if (there < 0) return Number.POSITIVE_INFINITY
  const own = p.technicians[s.technicianOf(route)] as Problem['technicians'][number]
  const other = p.technicians[s.technicianOf(there)] as Problem['technicians'][number]
  const between = (p.midnight[s.dayOf(route)] as number) - (p.midnight[s.dayOf(there)] as number)
  const from = (s.leave[before] as number) - between + (p.minGapMin[v] as number)
  const last = other.toMin + other.overtimeMin - between + (p.maxGapMin[v] as number)
  // The earlier may wait, but not beyond its own evening.
  return from > own.toMin + own.overtimeMin || last < own.fromMin - EPS ? Number.POSITIVE_INFINITY : Math.max(0, from)
}

/**
 * Travel changes by three legs; the way behind is pushed only as far as waiting does not take it up. What is dearer by travel alone than
 * the best so far is not timed at all. With `all` every place is kept, for links to be tried on.
 */
function plainSpot(s: Solution, v: number, route: number, notBefore: number, all: Spot[] | null): Spot {
  const { p } = s
  const { place, serviceMin, weights, open } = p
  const { base, fromMin, toMin, overtimeMin } = p.technicians[s.technicianOf(route)] as Problem['technicians'][number]
  const leg = plainLeg(p, s.dayOf(route))
  const sequence = s.routes[route] as number[]
  const n = sequence.length
  const own = dayCost(p, v, s.dayOf(route)) - UNPLANNED_COST
  const to = place[v] as number
  const serviceAfter = (s.service[route] as number) + (serviceMin[v] as number)
  const travelNow = s.travel[route] as number
  const overNow = s.over[route] as number
  const { days, sum, squares, load: loadNow, was, level } = s.evenness(route)
  const squaresElse = squares - loadNow * loadNow
  const sumElse = sum - loadNow
  const loadRest = travelNow + serviceAfter
  let bestDelta = Number.POSITIVE_INFINITY
  let bestAt = -1
  for (let at = 0; at <= n; at++) {
    const before = at === 0 ? base : (place[sequence[at - 1] as number] as number)
    const behind = at === n ? base : (place[sequence[at] as number] as number)
    const legIn = leg(before, to)
    const legOut = leg(to, behind)
    const more = legIn + legOut - (n === 0 ? 0 : leg(before, behind))
    const load = loadRest + more
    const uneven = spread(days, sumElse + load, squaresElse + load * load, level)
    const plain = own + more + weights.unevenness * (uneven - was)
    if (all === null && plain >= bestDelta - EPS) continue
    let time = at === 0 ? fromMin : (s.leave[sequence[at - 1] as number] as number)
    let start = Math.max(notBefore, time + legIn)
    if (open[v] !== null) start = fitOpen(p, v, start)
    if (start === Number.POSITIVE_INFINITY) continue
    time = start + (serviceMin[v] as number)
    let from = to
    let i = at
    for (; i < n; i++) {
      const next = sequence[i] as number
      const there = place[next] as number
      start = Math.max(s.low[next] as number, time + leg(from, there))
      if (open[next] !== null) start = fitOpen(p, next, start)
      if (start <= (s.start[next] as number) + EPS || start === Number.POSITIVE_INFINITY) break
      time = start + (serviceMin[next] as number)
      from = there
    }
    let over = overNow
    if (i === n) over = Math.max(0, time + leg(from, base) - toMin)
    else if (start === Number.POSITIVE_INFINITY) continue
    if (over > overtimeMin + EPS) continue
    const delta = plain + weights.overtime * (over - overNow)
    all?.push({ delta, at })
    if (delta < bestDelta - EPS) {
      bestDelta = delta
      bestAt = at
    }
  }
  return bestAt < 0 ? NO_SPOT : { delta: bestDelta, at: bestAt }
}

/** Travel and overtime of a route with one visit more, for each place in it; not a number where the day cannot be kept that way. */
type Trials = Float64Array
/** What was tried before, by visit and by the roads and the sequence it was tried in: a search comes back to the same days again and again. */
const tried = new WeakMap<Solution, Map<number, Trials>[]>()
const MOST_KEPT = 1000

function trialsOf(s: Solution, v: number, route: number): Trials {
  const { p } = s
  const all = tried.get(s) ?? Array.from({ length: p.nVisits }, () => new Map<number, Trials>())
  tried.set(s, all)
  const own = all[v] as Map<number, Trials>
  const day = s.dayOf(route)
  const key = s.nameOf(route) * p.roads.length + (p.roadsOn[day] as number)
  const known = own.get(key)
  if (known) return known
  const sequence = s.routes[route] as number[]
  const trials = new Float64Array(2 * (sequence.length + 1)).fill(Number.NaN)
  const trial = [v, ...sequence]
  for (let at = 0; at <= sequence.length; at++) {
    if (at > 0) {
      trial[at - 1] = sequence[at - 1] as number
      trial[at] = v
    }
    const timed = timeRoute(p, s.technicianOf(route), day, trial, null, null)
    if (timed === null) continue
    trials[2 * at] = timed.travelMin
    trials[2 * at + 1] = timed.overtimeMin
  }
  if (own.size >= MOST_KEPT) own.clear()
  own.set(key, trials)
  return trials
}

/** Where roads change by the hour each order is timed whole, once. */
function hourlySpot(s: Solution, v: number, route: number): Spot {
  const { p } = s
  const own = dayCost(p, v, s.dayOf(route)) - UNPLANNED_COST
  const service = (s.service[route] as number) + (p.serviceMin[v] as number)
  const trials = trialsOf(s, v, route)
  let bestDelta = Number.POSITIVE_INFINITY
  let bestAt = -1
  for (let at = 0; 2 * at < trials.length; at++) {
    const travel = trials[2 * at] as number
    if (Number.isNaN(travel)) continue
    const delta =
      own +
      travel -
      (s.travel[route] as number) +
      p.weights.overtime * ((trials[2 * at + 1] as number) - (s.over[route] as number)) +
      s.unevenBy(route, travel + service)
    if (delta < bestDelta - EPS) {
      bestDelta = delta
      bestAt = at
    }
  }
  return bestAt < 0 ? NO_SPOT : { delta: bestDelta, at: bestAt }
}

/** Where times hang together with other days: the likely places are tried for real, the first that holds is taken. */
function tiedSpot(s: Solution, v: number, route: number, likely: readonly Spot[]): Spot {
  let best = NO_SPOT
  const before = s.cost
  const first = isPlain(s.p, s.dayOf(route))
  for (const { at } of likely) {
    if (!s.insert(v, route, at)) continue
    const delta = s.cost - before
    s.remove(v)
    if (delta < best.delta - EPS) best = { delta, at }
    if (first) break
  }
  return best
}
