import { type Problem, problemOf } from './problem'
import { departures, EPS, travelAt } from './timing'
import type { RoundInput, RoundStop } from './types'

/** One drive of a day: when it leaves, how long it takes. */
export interface Leg {
  from: string
  to: string
  departMin: number
  travelMin: number
}

/** The drive that arrives at `arrive`, left as late as it can be; where none does to the minute, the quickest that is there by then. */
function legTo(p: Problem, day: number, ready: number, arrive: number, from: number, to: number): { departMin: number; travelMin: number } {
  let best: { departMin: number; travelMin: number } | null = null
  for (const dep of departures(p, day, ready)) {
    const travelMin = travelAt(p, day, dep, from, to)
    if (dep + travelMin > arrive + EPS) continue
    if (best === null || travelMin < best.travelMin - EPS || (travelMin < best.travelMin + EPS && dep > best.departMin))
      best = { departMin: dep, travelMin }
  }
  return best ?? { departMin: Math.max(ready, arrive - travelAt(p, day, ready, from, to)), travelMin: travelAt(p, day, ready, from, to) }
}

interface DayLine {
  technician: string
  /** By its index. */
  day: number
  stops: readonly RoundStop[]
}

/**
 * Reads, of any day of a round, one technician's drives in order, the way home last; nothing for a day without stops. What the round
 * itself says is put together once, for all the days that are asked for.
 */
export function legsOf(input: RoundInput): (line: DayLine) => Leg[] {
  const p = problemOf(input)
  const visitOf = new Map(input.visits.map(({ id }, v) => [id, v]))
  const personOf = new Map(input.technicians.map(({ id }, t) => [id, t]))
  return (line) => legsOfDay(p, input, visitOf, personOf.get(line.technician) ?? -1, line)
}

function legsOfDay(p: Problem, input: RoundInput, visitOf: ReadonlyMap<string, number>, t: number, { day, stops }: DayLine): Leg[] {
  const team = p.technicians[t]
  if (!team || stops.length === 0) return []
  const nameOf = (place: number): string => input.places[place]?.id ?? ''
  const legs: Leg[] = []
  let [at, ready] = [team.base, team.fromMin]
  for (const { visit, arriveMin, leaveMin } of stops) {
    const to = p.place[visitOf.get(visit) ?? 0] as number
    legs.push({ from: nameOf(at), to: nameOf(to), ...legTo(p, day, ready, arriveMin, at, to) })
    at = to
    ready = leaveMin
  }
  const home = departures(p, day, ready)
    .map((departMin) => ({ departMin, travelMin: travelAt(p, day, departMin, at, team.base) }))
    .map((leg) => ({ leg, price: leg.travelMin + p.weights.overtime * Math.max(0, leg.departMin + leg.travelMin - team.toMin) }))
    .reduce((best, one) => (one.price < best.price - EPS ? one : best)).leg
  legs.push({ from: nameOf(at), to: nameOf(team.base), ...home })
  return legs
}
