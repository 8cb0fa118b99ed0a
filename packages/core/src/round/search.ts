import type { GivenPlan } from './cost'
import { dayCost, type Problem, plainLeg } from './problem'
import { fromPlan } from './resume'
import { Solution } from './solution'
import { bestSpot } from './spots'
import { EPS, timeRoute } from './timing'

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

/** Small and quick, and the same everywhere. Returns numbers in [0, 1). */
export function mulberry32(seed: number): () => number {
  let state = (seed | 0) ^ 0x9e3779b9
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
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
function rebuild(s: Solution, missing: readonly number[], allowed: readonly number[][], noise: () => number, depth: number): void {
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
  while (waiting.length > 0) {
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

/** Longest stretch that is moved as a whole. */
const MOVED = 3

/** Turns stretches round and moves short ones within a day, until nothing gets cheaper. */
export function polish(s: Solution, route: number): void {
  const sequence = s.routes[route] as number[]
  const n = sequence.length
  if (n < 3) return
  const t = s.technicianOf(route)
  const low = s.holdsLinked(route) ? s.low : null
  const plain = s.p.steps.length === 1
  const priceOf = (order: readonly number[]): number => {
    const timed = timeRoute(s.p, t, order, low, null)
    return timed === null ? Number.POSITIVE_INFINITY : timed.travelMin + s.p.weights.overtime * timed.overtimeMin
  }
  let best = [...sequence]
  let price = priceOf(best)
  let way = wayOf(s, t, best)
  let found = true
  /** Tries an order that is longer by `more`: overtime is never under nothing, so what is longer than the whole price is not timed. */
  const tryOrder = (more: number, orderOf: () => number[]): boolean => {
    if (plain && way.length + more >= price - EPS) return false
    const order = orderOf()
    const now = priceOf(order)
    if (now >= price - EPS) return false
    best = order
    price = now
    way = wayOf(s, t, best)
    found = true
    return true
  }
  while (found) {
    found = false
    for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) tryOrder(way.turning(i, j), () => turned(best, i, j))
    for (let length = 1; length <= MOVED && length < n; length++)
      for (let i = 0; i + length <= n; i++)
        for (let at = 0; at + length <= n; at++) {
          if (at === i) continue
          if (tryOrder(way.moving(i, length, at, false), () => moved(best, i, length, at))) continue
          if (length > 1) tryOrder(way.moving(i, length, at, true), () => turned(moved(best, i, length, at), at, at + length - 1))
        }
  }
  if (best.some((v, i) => v !== sequence[i])) s.reorder(route, best)
}

interface Way {
  length: number
  /** How much longer the way is with the stretch from i to j turned round. */
  turning: (i: number, j: number) => number
  /** How much longer it is with a stretch moved to begin at `at`, turned round or not. */
  moving: (i: number, length: number, at: number, round: boolean) => number
}

/** The way of an order on the plain roads, and what changes of it do to its length, each found at once. */
function wayOf(s: Solution, t: number, order: readonly number[]): Way {
  const { p } = s
  const n = order.length
  const leg = plainLeg(p)
  const { base } = p.technicians[t] as Problem['technicians'][number]
  const placeAt = (index: number): number => (index < 0 || index >= n ? base : (p.place[order[index] as number] as number))
  // Sums of the legs into each stop, and of the same legs driven the other way.
  const on = new Float64Array(n + 2)
  const back = new Float64Array(n + 2)
  for (let index = 0; index <= n; index++) {
    on[index + 1] = (on[index] as number) + leg(placeAt(index - 1), placeAt(index))
    back[index + 1] = (back[index] as number) + leg(placeAt(index), placeAt(index - 1))
  }
  /** Legs within the stretch from i to j. */
  const within = (sums: Float64Array, i: number, j: number): number => (sums[j + 1] as number) - (sums[i + 1] as number)
  return {
    length: on[n + 1] as number,
    turning: (i, j) => {
      const [before, first, last, behind] = [placeAt(i - 1), placeAt(i), placeAt(j), placeAt(j + 1)]
      return leg(before, last) + leg(first, behind) - leg(before, first) - leg(last, behind) + within(back, i, j) - within(on, i, j)
    },
    moving: (i, length, at, round) => {
      const [first, last] = [placeAt(i), placeAt(i + length - 1)]
      const [before, behind] = [placeAt(i - 1), placeAt(i + length)]
      const rest = (index: number): number => placeAt(index < i ? index : index + length)
      const [x, y] = [rest(at - 1), rest(at)]
      const out = leg(before, behind) - leg(before, first) - leg(last, behind)
      const into = round ? leg(x, last) + leg(first, y) : leg(x, first) + leg(last, y)
      const turnedRound = round ? within(back, i, i + length - 1) - within(on, i, i + length - 1) : 0
      return out + into - leg(x, y) + turnedRound
    },
  }
}

function turned(order: readonly number[], i: number, j: number): number[] {
  const next = [...order]
  for (let [a, b] = [i, j]; a < b; a++, b--) {
    const held = next[a] as number
    next[a] = next[b] as number
    next[b] = held
  }
  return next
}

function moved(order: readonly number[], i: number, length: number, at: number): number[] {
  const next = [...order]
  next.splice(at, 0, ...next.splice(i, length))
  return next
}

/** Iterations after which a search of this size ends by itself. */
export const ownBudget = (visits: number): number => Math.round(Math.min(4000, 200 * visits) + 85 * visits + 300 * Math.sqrt(visits))

const DESTROYERS = 5
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
  rebuild(
    s,
    all.filter((v) => (s.where[v] as number) < 0),
    allowed,
    () => 0,
    3,
  )
  for (let route = 0; route < s.routes.length; route++) polish(s, route)
  let best = s.snapshot()
  let bestCost = s.cost
  let current = best
  let currentCost = bestCost
  const budget = iterations ?? ownBudget(p.nVisits)
  const scores = new Float64Array(DESTROYERS).fill(1)
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
              : anywhere(s, count, random)
    for (const v of out) s.remove(v)
    const missing = all.filter((v) => (s.where[v] as number) < 0)
    const shaken = random() < 0.5
    rebuild(s, missing, allowed, shaken ? () => (random() - 0.5) * 0.1 : () => 0, 1 + Math.floor(random() * 3))
    if (s.cost < currentCost - EPS || (s.cost < currentCost + heat && random() < 0.1)) polishTouched(s, current)
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

function polishTouched(s: Solution, before: readonly (readonly number[])[]): void {
  s.routes.forEach((route, index) => {
    const was = before[index] as readonly number[]
    if (route.length !== was.length || route.some((v, i) => v !== was[i])) polish(s, index)
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
