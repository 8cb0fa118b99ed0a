import { isPlain, type Problem, plainLeg, type Step, stepsOn } from './problem'

/** Slack for minutes that were added up in different orders. */
export const EPS = 1e-7

/** Travel minutes of one leg for a departure on a day. */
export function travelAt(p: Problem, day: number, dep: number, from: number, to: number): number {
  const steps = stepsOn(p, day)
  let step = 0
  while (step + 1 < steps.length && (steps[step + 1] as { fromMin: number }).fromMin <= dep + EPS) step++
  return (steps[step] as Step).leg(from, to)
}

/** Departures worth trying from `dep` on: at once, and whenever the road changes. */
export function departures(p: Problem, day: number, dep: number): number[] {
  const all = [dep]
  const steps = stepsOn(p, day)
  for (let step = 1; step < steps.length; step++) {
    const { fromMin } = steps[step] as { fromMin: number }
    if (fromMin > dep + EPS) all.push(fromMin)
  }
  return all
}

/** Earliest start at or after `at` for which the whole service lies in one open span; infinite where there is none. */
export function fitOpen(p: Problem, v: number, at: number): number {
  const open = p.open[v]
  if (!open) return at
  const service = p.serviceMin[v] as number
  for (let i = 0; i < open.length; i += 2) {
    const start = Math.max(at, open[i] as number)
    if (start + service <= (open[i + 1] as number) + EPS) return start
  }
  return Number.POSITIVE_INFINITY
}

export interface Timed {
  travelMin: number
  overtimeMin: number
}

/** Where the times of a route are put: by place in the sequence. */
export interface Times {
  arrive: Float64Array
  start: Float64Array
  leave: Float64Array
}
export const timesFor = (length: number): Times => ({
  arrive: new Float64Array(length),
  start: new Float64Array(length),
  leave: new Float64Array(length),
})

interface Label {
  time: number
  cost: number
  arrive: number
  start: number
  before: Label | null
}

/**
 * Times the stops of a day in this order, from the technician's morning back to base: the cheapest in travel and overtime, the earliest of
 * those. `low` holds starts that links ask for. Null where the order cannot be kept: a span missed, too much overtime. Loads are not looked at.
 */
export function timeRoute(
  p: Problem,
  technician: number,
  day: number,
  sequence: readonly number[],
  low: Float64Array | null,
  times: Times | null,
): Timed | null {
  return isPlain(p, day) ? timePlain(p, technician, day, sequence, low, times) : timeByHour(p, technician, day, sequence, low, times)
}

function timePlain(
  p: Problem,
  technician: number,
  day: number,
  sequence: readonly number[],
  low: Float64Array | null,
  times: Times | null,
): Timed | null {
  const { base, fromMin, toMin, overtimeMin } = p.technicians[technician] as Problem['technicians'][number]
  const leg = plainLeg(p, day)
  const { place, serviceMin, open } = p
  let time = fromMin
  let at = base
  let travel = 0
  for (let i = 0; i < sequence.length; i++) {
    const v = sequence[i] as number
    const to = place[v] as number
    const drive = leg(at, to)
    const arrive = time + drive
    let start = low === null ? arrive : Math.max(arrive, low[v] as number)
    if (open[v] !== null) start = fitOpen(p, v, start)
    if (start === Number.POSITIVE_INFINITY) return null
    travel += drive
    time = start + (serviceMin[v] as number)
    at = to
    if (times) {
      times.arrive[i] = arrive
      times.start[i] = start
      times.leave[i] = time
    }
  }
  if (sequence.length === 0) return { travelMin: 0, overtimeMin: 0 }
  const home = leg(at, base)
  const over = Math.max(0, time + home - toMin)
  return over > overtimeMin + EPS ? null : { travelMin: travel + home, overtimeMin: over }
}

/** The road between two places over the day: from when on it takes how long, only where that changes. */
interface RoadOverDay {
  from: number[]
  leg: number[]
}
const roads = new WeakMap<Step[], Map<number, RoadOverDay>>()

function roadOverDay(p: Problem, day: number, from: number, to: number): RoadOverDay {
  const steps = stepsOn(p, day)
  // Of thousands of places few ways are ever asked for.
  const known = roads.get(steps) ?? new Map<number, RoadOverDay>()
  roads.set(steps, known)
  const index = from * p.nPlaces + to
  const there = known.get(index)
  if (there) return there
  const road: RoadOverDay = { from: [], leg: [] }
  for (const { fromMin, leg } of steps) {
    const drive = leg(from, to)
    if (road.leg.at(-1) === drive) continue
    road.from.push(fromMin)
    road.leg.push(drive)
  }
  known.set(index, road)
  return road
}

/** Calls with each departure worth trying from `dep` on: at once, and whenever the road gets quicker than it ever was since. */
function eachDeparture(road: RoadOverDay, dep: number, call: (at: number, leg: number) => void): void {
  let step = 0
  while (step + 1 < road.from.length && (road.from[step + 1] as number) <= dep + EPS) step++
  let least = road.leg[step] as number
  call(dep, least)
  for (step++; step < road.from.length; step++) {
    const leg = road.leg[step] as number
    if (leg >= least) continue
    least = leg
    call(road.from[step] as number, leg)
  }
}

/** Keeps what is neither later nor dearer than another. */
function prune(labels: Label[]): Label[] {
  labels.sort((a, b) => a.time - b.time || a.cost - b.cost)
  const kept: Label[] = []
  for (const label of labels) if (kept.length === 0 || label.cost < (kept.at(-1) as Label).cost - EPS) kept.push(label)
  return kept
}

/** Where roads change by the hour, waiting for a better one may pay: every pair of time and travel that nothing beats is carried on. */
function timeByHour(
  p: Problem,
  technician: number,
  day: number,
  sequence: readonly number[],
  low: Float64Array | null,
  times: Times | null,
): Timed | null {
  const { base, fromMin, toMin, overtimeMin } = p.technicians[technician] as Problem['technicians'][number]
  if (sequence.length === 0) return { travelMin: 0, overtimeMin: 0 }
  const latest = toMin + overtimeMin + EPS
  let labels: Label[] = [{ time: fromMin, cost: 0, arrive: 0, start: 0, before: null }]
  let at = base
  for (const v of sequence) {
    const to = p.place[v] as number
    const next: Label[] = []
    const road = roadOverDay(p, day, at, to)
    for (const label of labels)
      eachDeparture(road, label.time, (dep, leg) => {
        const arrive = dep + leg
        const start = fitOpen(p, v, low === null ? arrive : Math.max(arrive, low[v] as number))
        const time = start + (p.serviceMin[v] as number)
        if (time <= latest) next.push({ time, cost: label.cost + leg, arrive, start, before: label })
      })
    if (next.length === 0) return null
    labels = prune(next)
    at = to
  }
  let best: { label: Label; travelMin: number; overtimeMin: number } | null = null
  let bestPrice = Number.POSITIVE_INFINITY
  const home = roadOverDay(p, day, at, base)
  for (const label of labels)
    eachDeparture(home, label.time, (dep, leg) => {
      const over = Math.max(0, dep + leg - toMin)
      const price = label.cost + leg + p.weights.overtime * over
      if (over > overtimeMin + EPS || price >= bestPrice - EPS) return
      bestPrice = price
      best = { label, travelMin: label.cost + leg, overtimeMin: over }
    })
  if (best === null) return null
  if (times) {
    let label: Label | null = (best as { label: Label }).label
    for (let i = sequence.length - 1; i >= 0 && label; i--, label = label.before) {
      times.arrive[i] = label.arrive
      times.start[i] = label.start
      times.leave[i] = label.time
    }
  }
  const { travelMin, overtimeMin: over } = best as Timed
  return { travelMin, overtimeMin: over }
}
