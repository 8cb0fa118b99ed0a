import { mulberry32 } from '../random'
import type { GivenPlan } from './cost'
import { polish } from './polish'
import { dayCost, type Problem, plainLeg } from './problem'
import { fromPlan } from './resume'
import { Solution } from './solution'
import { bestSpot } from './spots'
import { EPS } from './timing'
import { isPlainTour, shortenTour } from './tour'

export interface SearchOptions {
  /** Iterations in the search's own stead; the plan is then the same on every machine. */
  iterations?: number
  /** Asked now and then: true ends the search with the best plan so far. */
  stop?: () => boolean
  /** Told now and then: share of its own budget that is spent, and the best cost. */
  progress?: (share: number, cost: number) => void
  /** A plan to go on from: what still fits of it is kept to begin with. */
  from?: GivenPlan
}

/** Routes a visit may stand on, in order; made once. */
function routesOf(s: Solution): number[][] {
  const { p } = s
  return Array.from({ length: p.nVisits }, (_, v) =>
    (p.able[v] as number[]).flatMap((t) => {
      const routes: number[] = []
      for (let day = Math.max(0, p.firstDay[v] as number); day <= Math.min(p.nDays - 1, p.lastDay[v] as number); day++)
        if (s.mayStand(v, t * p.nDays + day)) routes.push(t * p.nDays + day)
      return routes
    }),
  )
}

interface Waiting {
  v: number
  routes: readonly number[]
  delta: Float64Array
  at: Int32Array
}

/** Puts the waiting back by regret: who loses most by waiting goes first. `noise` shakes prices, so that runs differ. */
function rebuild(
  s: Solution,
  missing: readonly number[],
  allowed: readonly number[][],
  noise: () => number,
  depth: number,
  stop?: () => boolean,
): void {
  const { p } = s
  const open = new Set(missing)
  const waiting: Waiting[] = []
  const price = (one: Waiting, index: number): void => {
    const { delta, at } = bestSpot(s, one.v, one.routes[index] as number)
    one.at[index] = at
    one.delta[index] = at < 0 ? Number.POSITIVE_INFINITY : delta * (1 + noise())
  }
  const ready = (v: number): boolean => (p.pred[v] as number) < 0 || (s.where[p.pred[v] as number] as number) >= 0
  const start = (v: number): void => {
    const routes = allowed[v] as readonly number[]
    const one: Waiting = { v, routes, delta: new Float64Array(routes.length), at: new Int32Array(routes.length) }
    for (let index = 0; index < routes.length; index++) price(one, index)
    waiting.push(one)
  }
  for (const v of missing) if (ready(v)) start(v)
  while (waiting.length > 0 && !stop?.()) {
    let chosen = -1
    let spot = -1
    let most = Number.NEGATIVE_INFINITY
    let least = Number.POSITIVE_INFINITY
    for (let w = 0; w < waiting.length; w++) {
      const { delta } = waiting[w] as Waiting
      let [first, second, third, at] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, -1]
      for (let index = 0; index < delta.length; index++) {
        const one = delta[index] as number
        if (one < first) {
          third = second
          second = first
          first = one
          at = index
        } else if (one < second) {
          third = second
          second = one
        } else if (one < third) third = one
      }
      if (at < 0) continue
      // One with few places left goes before one with many.
      const regret =
        depth === 1
          ? -first
          : (second === Number.POSITIVE_INFINITY ? FEW : second - first) +
            (depth < 3 ? 0 : third === Number.POSITIVE_INFINITY ? FEW : third - first)
      if (regret > most + EPS || (regret > most - EPS && first < least)) {
        most = regret
        least = first
        chosen = w
        spot = at
      }
    }
    if (chosen < 0) return
    const [taken] = waiting.splice(chosen, 1) as [Waiting]
    open.delete(taken.v)
    const route = taken.routes[spot] as number
    if (!s.insert(taken.v, route, taken.at[spot] as number)) continue
    for (const one of waiting) {
      const index = indexOf(one.routes, route)
      if (index >= 0) price(one, index)
    }
    for (const v of p.succ[taken.v] as number[]) if (open.has(v) && !waiting.some((one) => one.v === v)) start(v)
  }
}
const FEW = 5000

/** Of more than this a first plan weighs against each other only those that are due together. */
const MOST_AT_ONCE = 240

/** A first plan: what is due first is put first, by regret among so many; then what waited for something that came later. */
function build(s: Solution, allowed: readonly number[][], stop?: () => boolean): void {
  const { p } = s
  const missing = Array.from({ length: p.nVisits }, (_, v) => v).filter((v) => (s.where[v] as number) < 0)
  if (missing.length <= MOST_AT_ONCE) {
    // A moment's work: whoever stops at once has a whole plan.
    rebuild(s, missing, allowed, () => 0, 3)
    return
  }
  const urgent = (a: number, b: number): number =>
    (p.lastDay[a] as number) - (p.lastDay[b] as number) || (p.dueDay[a] as number) - (p.dueDay[b] as number) || a - b
  missing.sort(urgent)
  for (let at = 0; at < missing.length; at += MOST_AT_ONCE) rebuild(s, missing.slice(at, at + MOST_AT_ONCE), allowed, () => 0, 3, stop)
  rebuild(
    s,
    missing.filter((v) => (s.where[v] as number) < 0),
    allowed,
    () => 0,
    1,
    stop,
  )
}

/** Place of a route in a rising list of them; −1 where it is not in it. */
function indexOf(routes: readonly number[], route: number): number {
  let [low, high] = [0, routes.length - 1]
  while (low <= high) {
    const middle = (low + high) >> 1
    const there = routes[middle] as number
    if (there === route) return middle
    if (there < route) low = middle + 1
    else high = middle - 1
  }
  return -1
}

/** Near to a visit in place and day, for taking out together what could trade places. */
function relatedRemoval(s: Solution, seed: number, count: number, random: () => number): number[] {
  const { p } = s
  const leg = plainLeg(p)
  const from = p.place[seed] as number
  const day = (s.where[seed] as number) >= 0 ? s.dayOf(s.where[seed] as number) : (p.dueDay[seed] as number)
  const placed: { v: number; far: number }[] = []
  for (let v = 0; v < p.nVisits; v++) {
    if (v === seed || (s.where[v] as number) < 0) continue
    const apart = Math.abs(s.dayOf(s.where[v] as number) - day)
    placed.push({ v, far: leg(from, p.place[v] as number) + 6 * apart })
  }
  placed.sort((a, b) => a.far - b.far)
  const taken = [seed]
  while (taken.length < count && placed.length > 0) {
    const [one] = placed.splice(Math.floor(random() ** 4 * placed.length), 1)
    if (one) taken.push(one.v)
  }
  return taken
}

/** What costs most where it stands: taken out in that order, shaken. */
function worstRemoval(s: Solution, count: number, random: () => number): number[] {
  const { p } = s
  const leg = plainLeg(p)
  const prices: { v: number; price: number }[] = []
  s.routes.forEach((sequence, route) => {
    const { base } = p.technicians[s.technicianOf(route)] as Problem['technicians'][number]
    for (let i = 0; i < sequence.length; i++) {
      const v = sequence[i] as number
      const here = p.place[v] as number
      const before = i === 0 ? base : (p.place[sequence[i - 1] as number] as number)
      const behind = i === sequence.length - 1 ? base : (p.place[sequence[i + 1] as number] as number)
      const saved = leg(before, here) + leg(here, behind) - leg(before, behind)
      prices.push({ v, price: (saved + dayCost(p, v, s.dayOf(route))) * (0.6 + 0.8 * random()) })
    }
  })
  prices.sort((a, b) => b.price - a.price)
  return prices.slice(0, count).map(({ v }) => v)
}

/** All of one day, or of a day and its neighbour, up to a count. */
function wholeDay(s: Solution, count: number, random: () => number): number[] {
  const used: number[] = []
  s.routes.forEach((route, index) => {
    if (route.length > 0) used.push(index)
  })
  if (used.length === 0) return []
  const taken: number[] = []
  for (let tries = 0; tries < 3 && taken.length < count; tries++)
    taken.push(...(s.routes[used[Math.floor(random() * used.length)] as number] as number[]))
  return [...new Set(taken)].slice(0, count)
}

/** Stretches of days that pass near a visit, each holding a stop near it (Christiaens and Vanden Berghe 2020). */
function strings(s: Solution, seed: number, count: number, random: () => number): number[] {
  const { p } = s
  const leg = plainLeg(p)
  const from = p.place[seed] as number
  const near: { v: number; far: number }[] = []
  for (let v = 0; v < p.nVisits; v++) if ((s.where[v] as number) >= 0) near.push({ v, far: leg(from, p.place[v] as number) })
  near.sort((a, b) => a.far - b.far)
  const longest = Math.max(2, Math.ceil(count / 2))
  const cut = new Set<number>()
  const taken: number[] = []
  for (const { v } of near) {
    if (taken.length >= count) break
    const route = s.where[v] as number
    if (cut.has(route)) continue
    cut.add(route)
    const sequence = s.routes[route] as number[]
    const length = Math.min(sequence.length, count - taken.length, 1 + Math.floor(random() * longest))
    const at = sequence.indexOf(v)
    const first = Math.max(0, Math.min(sequence.length - length, at - Math.floor(random() * length)))
    taken.push(...sequence.slice(first, first + length))
  }
  // In one long day there is one stretch: what else is near goes as well.
  for (let i = 0; i < near.length && taken.length < count && cut.size < 2; i++) {
    const { v } = near[i] as { v: number }
    if (!taken.includes(v) && random() < 0.6) taken.push(v)
  }
  return taken
}

function anywhere(s: Solution, count: number, random: () => number): number[] {
  const placed: number[] = []
  for (let v = 0; v < s.p.nVisits; v++) if ((s.where[v] as number) >= 0) placed.push(v)
  const taken: number[] = []
  while (taken.length < count && placed.length > 0) taken.push(...placed.splice(Math.floor(random() * placed.length), 1))
  return taken
}

/** Iterations after which a search of this size ends by itself. */
export const ownBudget = (visits: number): number => Math.round(Math.min(4000, 200 * visits) + 85 * visits + 300 * Math.sqrt(visits))

const DESTROYERS = 5
/** Beside them, where there are long days without hours to keep: one such day is made shorter by kicks. */
const KICKS = DESTROYERS
const KICKS_A_STEP = 300
/** Per stop of a first plan's day. */
const FIRST_KICKS = 20

/** Long days whose order only decides how far they are. */
const plainTours = (s: Solution): number[] => s.routes.flatMap((_, route) => (isPlainTour(s, route) ? [route] : []))

/** So few are at times taken out all together. */
const FEW_VISITS = 12

/**
 * A round for this problem: regret insertion, then adaptive large-neighbourhood search (Ropke and Pisinger 2006) under a cooling
 * acceptance, days polished on the way. Deterministic for a problem, a seed and its own budget or `iterations`; stoppable at any time
 * with the best plan so far. Never breaks a hard rule; what finds no place stays unplanned.
 */
export function search(p: Problem, seed: number, { iterations, stop, progress, from }: SearchOptions = {}): Solution {
  const random = mulberry32(seed)
  const s = from ? fromPlan(p, from) : new Solution(p)
  const allowed = routesOf(s)
  const all = Array.from({ length: p.nVisits }, (_, v) => v)
  build(s, allowed, stop)
  for (let route = 0; route < s.routes.length && !stop?.(); route++) {
    polish(s, route, random, stop)
    shortenTour(s, route, FIRST_KICKS * (s.routes[route] as number[]).length, random, stop)
  }
  let best = s.snapshot()
  let bestCost = s.cost
  let current = best
  let currentCost = bestCost
  const budget = iterations ?? ownBudget(p.nVisits)
  const scores = new Float64Array(plainTours(s).length > 0 ? DESTROYERS + 1 : DESTROYERS).fill(1)
  // Measured without what is unplanned: a plan that lacks a visit must not be accepted for a better tour.
  const scale = Math.max(1, bestCost % 10_000) + 20 * Math.sqrt(p.nVisits)
  const most = Math.max(1, Math.min(p.nVisits <= FEW_VISITS ? p.nVisits : Math.ceil(p.nVisits * 0.35), 24))
  const least = Math.min(most, Math.max(1, Math.min(4, p.nVisits)))
  for (let step = 0; step < budget && p.nVisits > 0; step++) {
    if (step % 8 === 0 && stop?.()) break
    if (step % 64 === 0) progress?.(step / budget, bestCost)
    const heat = (0.02 * scale * (1 - step / budget) ** 2) / Math.sqrt(Math.max(1, p.nVisits / 10))
    const count = least + Math.floor(random() ** 2 * (most - least + 1))
    const kind = pick(scores, random)
    const out =
      kind === 0
        ? relatedRemoval(s, Math.floor(random() * p.nVisits), count, random)
        : kind === 1
          ? worstRemoval(s, count, random)
          : kind === 2
            ? wholeDay(s, count, random)
            : kind === 3
              ? strings(s, Math.floor(random() * p.nVisits), count, random)
              : kind === KICKS
                ? []
                : anywhere(s, count, random)
    if (kind === KICKS) {
      const tours = plainTours(s)
      if (tours.length > 0) shortenTour(s, tours[Math.floor(random() * tours.length)] as number, KICKS_A_STEP, random, stop)
    } else {
      for (const v of out) s.remove(v)
      const missing = all.filter((v) => (s.where[v] as number) < 0)
      const shaken = random() < 0.5
      rebuild(s, missing, allowed, shaken ? () => (random() - 0.5) * 0.1 : () => 0, 1 + Math.floor(random() * 3), stop)
      if (s.cost < currentCost - EPS || (s.cost < currentCost + heat && random() < 0.1)) polishTouched(s, current, random, stop)
    }
    const cost = s.cost
    const good = cost < bestCost - EPS
    if (good || cost < currentCost - EPS || random() < Math.exp(-(cost - currentCost) / Math.max(heat, 1e-9))) {
      scores[kind] = (scores[kind] as number) * 0.98 + (good ? 3 : cost < currentCost - EPS ? 1 : 0.2) * 0.02
      current = s.snapshot()
      currentCost = cost
      if (good) {
        best = current
        bestCost = cost
      }
    } else {
      scores[kind] = (scores[kind] as number) * 0.98
      s.restore(current)
    }
  }
  s.restore(best)
  progress?.(1, bestCost)
  return s
}

function polishTouched(s: Solution, before: readonly (readonly number[])[], random: () => number, stop?: () => boolean): void {
  s.routes.forEach((route, index) => {
    const was = before[index] as readonly number[]
    if (route.length !== was.length || route.some((v, i) => v !== was[i])) polish(s, index, random, stop)
  })
}

function pick(scores: Float64Array, random: () => number): number {
  const floor = 0.05
  let total = 0
  for (const score of scores) total += score + floor
  let at = random() * total
  for (let kind = 0; kind < scores.length; kind++) {
    at -= (scores[kind] as number) + floor
    if (at <= 0) return kind
  }
  return scores.length - 1
}
