import { isPlain, type Problem, plainLeg } from './problem'
import type { Solution } from './solution'
import { EPS, timeRoute } from './timing'
import { shortenTour } from './tour'

/** Longest stretch that is moved as a whole. */
const MOVED = 3
/** A day of so many stops takes a moment to try through. */
const LONG = 30

/** Turns stretches round and moves short ones within a day, until nothing gets cheaper. */
export function polish(s: Solution, route: number, random: () => number, stop?: () => boolean): void {
  if (shortenTour(s, route, 0, random, stop)) return
  const sequence = s.routes[route] as number[]
  const n = sequence.length
  if (n < 3) return
  const t = s.technicianOf(route)
  const low = s.holdsLinked(route) ? s.low : null
  const day = s.dayOf(route)
  const plain = isPlain(s.p, day)
  const priceOf = (order: readonly number[]): number => {
    const timed = timeRoute(s.p, t, day, order, low, null)
    return timed === null ? Number.POSITIVE_INFINITY : timed.travelMin + s.p.weights.overtime * timed.overtimeMin
  }
  let best = [...sequence]
  let price = priceOf(best)
  let way = wayOf(s, t, day, best)
  let found = true
  /** Tries an order that is longer by `more`: overtime is never under nothing, so what is longer than the whole price is not timed. */
  const tryOrder = (more: number, orderOf: () => number[]): boolean => {
    if (plain && way.length + more >= price - EPS) return false
    const order = orderOf()
    const now = priceOf(order)
    if (now >= price - EPS) return false
    best = order
    price = now
    way = wayOf(s, t, day, best)
    found = true
    return true
  }
  while (found) {
    found = false
    for (let i = 0; i < n && !(n > LONG && stop?.()); i++)
      for (let j = i + 1; j < n; j++) tryOrder(way.turning(i, j), () => turned(best, i, j))
    for (let length = 1; length <= MOVED && length < n; length++)
      for (let i = 0; i + length <= n && !(n > LONG && stop?.()); i++)
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
function wayOf(s: Solution, t: number, day: number, order: readonly number[]): Way {
  const { p } = s
  const n = order.length
  const leg = plainLeg(p, day)
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
