import { isPlain, type Problem, plainLeg } from './problem'
import type { Solution } from './solution'
import { EPS } from './timing'

/** Nearest others that a stop is tried beside. */
const NEAR = 8
/** Longest stretch that is moved as a whole. */
const MOVED = 3
/** Longest stretch that a kick exchanges with the one behind it. */
const LONGEST_KICK = 50

/** The legs of one day between its stops and its base, place 0; null where a way there is not as long as the way back. */
function legsOf(p: Problem, day: number, base: number, sequence: readonly number[]): Float64Array | null {
  const leg = plainLeg(p, day)
  const n = sequence.length + 1
  const places = Int32Array.from({ length: n }, (_, index) => (index === 0 ? base : (p.place[sequence[index - 1] as number] as number)))
  const legs = new Float64Array(n * n)
  for (let i = 0; i < n; i++)
    for (let j = 0; j < i; j++) {
      const there = leg(places[i] as number, places[j] as number)
      if (Math.abs(there - leg(places[j] as number, places[i] as number)) > EPS) return null
      legs[i * n + j] = there
      legs[j * n + i] = there
    }
  return legs
}

/** For each stop the nearest others, the nearest first. */
function nearOf(legs: Float64Array, n: number): Int32Array {
  const most = Math.min(NEAR, n - 1)
  const near = new Int32Array(n * most)
  const far = new Float64Array(most)
  for (let i = 0; i < n; i++) {
    let held = 0
    for (let j = 0; j < n; j++) {
      if (j === i) continue
      const d = legs[i * n + j] as number
      if (held === most && d >= (far[most - 1] as number)) continue
      let at = held < most ? held++ : most - 1
      while (at > 0 && (far[at - 1] as number) > d) {
        far[at] = far[at - 1] as number
        near[i * most + at] = near[i * most + at - 1] as number
        at--
      }
      far[at] = d
      near[i * most + at] = j
    }
  }
  return near
}

/**
 * A closed tour of stops 0 to n − 1 that is made shorter by turning stretches round (2-opt) and moving short ones (Or-opt), each stop tried
 * beside its nearest only, and looked at again only after something beside it changed (don't-look bits; Bentley 1992).
 */
class Tour {
  readonly order: Int32Array
  private readonly at: Int32Array
  private readonly near: Int32Array
  private readonly most: number
  private readonly waiting: number[] = []
  private readonly waits: Uint8Array

  constructor(
    private readonly legs: Float64Array,
    private readonly n: number,
  ) {
    this.order = Int32Array.from({ length: n }, (_, index) => index)
    this.at = Int32Array.from(this.order)
    this.near = nearOf(legs, n)
    this.most = Math.min(NEAR, n - 1)
    this.waits = new Uint8Array(n)
  }

  private leg(i: number, j: number): number {
    return this.legs[i * this.n + j] as number
  }
  private next(i: number): number {
    const at = (this.at[i] as number) + 1
    return this.order[at === this.n ? 0 : at] as number
  }
  private before(i: number): number {
    const at = this.at[i] as number
    return this.order[at === 0 ? this.n - 1 : at - 1] as number
  }

  look(i: number): void {
    if (this.waits[i] === 1) return
    this.waits[i] = 1
    this.waiting.push(i)
  }

  /** Turns round the stretch from one place of the order to another, the shorter way about. */
  private turn(from: number, to: number): void {
    const { n, order, at } = this
    const inside = to - from + (to < from ? n : 0) + 1
    let [a, b, swaps] = [from, to, inside >> 1]
    if (inside * 2 > n) [a, b, swaps] = [to + 1 === n ? 0 : to + 1, from === 0 ? n - 1 : from - 1, (n - inside) >> 1]
    for (; swaps > 0; swaps--) {
      const [i, j] = [order[a] as number, order[b] as number]
      order[a] = j
      at[j] = a
      order[b] = i
      at[i] = b
      a = a + 1 === n ? 0 : a + 1
      b = b === 0 ? n - 1 : b - 1
    }
  }

  /** Turns round a stretch beside a stop, where that makes the tour shorter; by how much. */
  private tryTurn(a: number): number {
    const { near, most, at } = this
    const [b, z] = [this.next(a), this.before(a)]
    const [ab, za] = [this.leg(a, b), this.leg(z, a)]
    for (let k = 0; k < most; k++) {
      const c = near[a * most + k] as number
      const ac = this.leg(a, c)
      if (ac >= ab && ac >= za) break
      const d = this.next(c)
      const onward = ab - ac + this.leg(c, d) - this.leg(b, d)
      if (onward > EPS && c !== b) {
        this.turn(at[b] as number, at[c] as number)
        for (const one of [a, b, c, d]) this.look(one)
        return onward
      }
      const e = this.before(c)
      const backward = za - ac + this.leg(e, c) - this.leg(z, e)
      if (backward > EPS && c !== z) {
        this.turn(at[a] as number, at[e] as number)
        for (const one of [a, z, c, e]) this.look(one)
        return backward
      }
    }
    return 0
  }

  /** Moves a stretch that begins or ends with a stop to beside one that is near it, where that makes the tour shorter; by how much. */
  private tryMove(a: number): number {
    const { n, near, most } = this
    for (let way = 0; way < 2; way++) {
      let end = a
      for (let length = 1; length <= MOVED && length < n - 2; length++) {
        if (length > 1) end = way === 0 ? this.next(end) : this.before(end)
        const [outer, beyond] = way === 0 ? [this.before(a), this.next(end)] : [this.next(a), this.before(end)]
        const gain = this.leg(outer, a) + this.leg(end, beyond) - this.leg(outer, beyond)
        if (gain <= EPS) continue
        for (let k = 0; k < most; k++) {
          const c = near[a * most + k] as number
          const ac = this.leg(a, c)
          if (ac >= gain) break
          if (this.within(c, a, end, way)) continue
          for (let side = 0; side < 2; side++) {
            const d = side === 0 ? this.next(c) : this.before(c)
            if (this.within(d, a, end, way)) continue
            const saved = gain - (ac + this.leg(end, d) - this.leg(c, d))
            if (saved <= EPS) continue
            this.moveBeside(a, end, way, c, d)
            for (const one of [a, end, outer, beyond, c, d]) this.look(one)
            return saved
          }
        }
      }
    }
    return 0
  }

  private within(i: number, a: number, end: number, way: number): boolean {
    const [from, to] = way === 0 ? [this.at[a] as number, this.at[end] as number] : [this.at[end] as number, this.at[a] as number]
    const here = this.at[i] as number
    return from <= to ? here >= from && here <= to : here >= from || here <= to
  }

  /** Puts the stretch between `c` and `d`, neighbours of each other, its stop `a` beside `c`. */
  private moveBeside(a: number, end: number, way: number, c: number, d: number): void {
    const { n, order, at } = this
    const stretch: number[] = [a]
    for (let one = a; one !== end; ) {
      one = way === 0 ? this.next(one) : this.before(one)
      stretch.push(one)
    }
    const cThenD = this.next(c) === d
    const inIt = new Set(stretch)
    const rest: number[] = []
    for (let index = 0; index < n; index++) if (!inIt.has(order[index] as number)) rest.push(order[index] as number)
    const into = cThenD ? stretch : [...stretch].reverse()
    const first = cThenD ? c : d
    let index = 0
    for (const one of rest) {
      order[index++] = one
      if (one === first) for (const moved of into) order[index++] = moved
    }
    for (let place = 0; place < n; place++) at[order[place] as number] = place
  }

  /** Shortens until nothing that waits to be looked at can be bettered; by how much in all. */
  shorten(): number {
    let saved = 0
    for (let i = this.waiting.pop(); i !== undefined; i = this.waiting.pop()) {
      this.waits[i] = 0
      for (let gain = this.tryTurn(i) || this.tryMove(i); gain > 0; gain = this.tryTurn(i) || this.tryMove(i)) saved += gain
    }
    return saved
  }

  /** Exchanges two stretches that follow each other (a double bridge); how much longer that makes the tour. */
  kick(random: () => number): number {
    const { n, order, at } = this
    const longest = Math.max(1, Math.min(LONGEST_KICK, Math.floor((n - 2) / 3)))
    const [one, two] = [1 + Math.floor(random() * longest), 1 + Math.floor(random() * longest)]
    const from = Math.floor(random() * n)
    const held = Int32Array.from({ length: one + two }, (_, index) => order[(from + index) % n] as number)
    const [before, behind] = [order[(from + n - 1) % n] as number, order[(from + one + two) % n] as number]
    const [a, b, c, d] = [held[0], held[one - 1], held[one], held[one + two - 1]] as [number, number, number, number]
    for (let index = 0; index < one + two; index++) {
      const moved = held[index < two ? one + index : index - two] as number
      const place = (from + index) % n
      order[place] = moved
      at[moved] = place
    }
    for (const stop of [before, a, b, c, d, behind]) this.look(stop)
    return this.leg(before, c) + this.leg(d, a) + this.leg(b, behind) - this.leg(before, a) - this.leg(b, c) - this.leg(d, behind)
  }

  restore(order: Int32Array): void {
    this.order.set(order)
    for (let place = 0; place < this.n; place++) this.at[order[place] as number] = place
  }
}

/** Of fewer stops every turn and move is tried instead. */
const LEAST_STOPS = 12

/** Whether the order of a day's stops changes nothing but how far it is: no hours to keep, nothing that waits for another. */
export const isPlainTour = (s: Solution, route: number): boolean => {
  const sequence = s.routes[route] as number[]
  return isPlain(s.p, s.dayOf(route)) && sequence.length >= LEAST_STOPS && sequence.every((v) => s.p.open[v] === null && !s.isLinked(v))
}

/**
 * Makes a plain tour of a day shorter: local search, then as many kicks as asked, each kept if it ends no longer than it began (Johnson and
 * McGeoch 1997). False where this is no such day: too few stops, hours to keep, or ways that are not as long there as back.
 */
export function shortenTour(s: Solution, route: number, kicks: number, random: () => number, stop?: () => boolean): boolean {
  if (!isPlainTour(s, route)) return false
  const { p } = s
  const sequence = s.routes[route] as number[]
  const { base } = p.technicians[s.technicianOf(route)] as Problem['technicians'][number]
  const legs = legsOf(p, s.dayOf(route), base, sequence)
  if (legs === null) return false
  const n = sequence.length + 1
  const tour = new Tour(legs, n)
  for (let i = n - 1; i >= 0; i--) tour.look(i)
  let saved = tour.shorten()
  const held = Int32Array.from(tour.order)
  for (let kick = 0; kick < kicks; kick++) {
    if (kick % 64 === 0 && stop?.()) break
    const gain = -tour.kick(random) + tour.shorten()
    if (gain > -EPS) {
      saved += gain
      held.set(tour.order)
    } else tour.restore(held)
  }
  if (saved <= EPS) return true
  const from = held.indexOf(0)
  const next = Array.from({ length: n - 1 }, (_, index) => sequence[(held[(from + 1 + index) % n] as number) - 1] as number)
  s.reorder(route, next)
  return true
}
