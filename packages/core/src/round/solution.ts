import { canStand, dayCost, type Problem } from './problem'
import { EPS, type Times, timeRoute, timesFor } from './timing'
import { UNPLANNED_COST } from './types'

/** A link is satisfied by least later starts; more rounds than this means it never is. */
const SETTLE_ROUNDS = 60

/** Deviation of a technician's days from their level m, Σ(x − m)²/m: with the mean for m that is n·Σx²/Σx − Σx. */
export const spread = (days: number, sum: number, squares: number, level: number | null): number =>
  level !== null ? squares / level - 2 * sum + days * level : sum > 0 ? Math.max(0, (days * squares) / sum - sum) : 0

/**
 * A plan in the making: sequences by route, with their times and the running cost. Every change goes through `insert` and `remove`, which
 * keep the cost right; a change that breaks something hard is undone and answered with false.
 */
export class Solution {
  readonly routes: number[][]
  readonly where: Int32Array
  readonly travel: Float64Array
  readonly over: Float64Array
  readonly service: Float64Array
  readonly kg: Float64Array
  private readonly sum: Float64Array
  private readonly squares: Float64Array
  /** Starts that links ask for, minutes of the visit's day. */
  readonly low: Float64Array
  readonly start: Float64Array
  readonly leave: Float64Array
  readonly arrive: Float64Array
  /** Travel and weighted overtime, lateness, earliness and changed promises, all visits unplanned to begin with. */
  private direct: number
  private uneven = 0
  private readonly times: Times

  constructor(readonly p: Problem) {
    const routes = p.technicians.length * p.nDays
    this.routes = Array.from({ length: routes }, () => [])
    this.where = new Int32Array(p.nVisits).fill(-1)
    this.travel = new Float64Array(routes)
    this.over = new Float64Array(routes)
    this.service = new Float64Array(routes)
    this.kg = new Float64Array(routes)
    this.sum = new Float64Array(p.technicians.length)
    this.squares = new Float64Array(p.technicians.length)
    this.low = new Float64Array(p.nVisits)
    this.start = new Float64Array(p.nVisits)
    this.leave = new Float64Array(p.nVisits)
    this.arrive = new Float64Array(p.nVisits)
    this.times = timesFor(p.nVisits)
    this.direct = UNPLANNED_COST * p.nVisits
    this.uneven = p.technicians.reduce((total, { days, level }) => total + spread(days, 0, 0, level), 0)
  }

  get cost(): number {
    return this.direct + this.p.weights.unevenness * this.uneven
  }

  /** The cost without the unevenness: on roads that keep the triangle's law it only grows with more visits, the unplanned apart. */
  get monotone(): number {
    return this.direct
  }

  technicianOf = (route: number): number => Math.floor(route / this.p.nDays)
  dayOf = (route: number): number => route % this.p.nDays

  /** A number that routes of one technician with the same sequence share, and others as good as never. */
  nameOf(route: number): number {
    let [a, b] = [0x811c9dc5 ^ this.technicianOf(route), 0x9e3779b9]
    for (const v of this.routes[route] as number[]) {
      a = Math.imul(a ^ (v + 1), 0x01000193)
      b = Math.imul(b ^ (v + 0x7f4a7c15), 0x85ebca6b) ^ (b >>> 13)
    }
    return (a >>> 0) * 0x200000 + (b >>> 11)
  }

  /** Whether a visit may stand on a route at all: day, skills, day off. */
  mayStand(v: number, route: number): boolean {
    const [t, day] = [this.technicianOf(route), this.dayOf(route)]
    return (
      (this.p.technicians[t] as Problem['technicians'][number]).off[day] === 0 &&
      (this.p.able[v] as number[]).includes(t) &&
      canStand(this.p, v, day)
    )
  }

  /** Load of a route: travel and service. */
  load = (route: number): number => (this.travel[route] as number) + (this.service[route] as number)

  private setLoad(route: number, travel: number, over: number, service: number): void {
    const { nDays, technicians, weights } = this.p
    const t = this.technicianOf(route)
    const { days, level } = technicians[t] as Problem['technicians'][number]
    const was = spread(days, this.sum[t] as number, this.squares[t] as number, level)
    this.direct += travel - (this.travel[route] as number) + weights.overtime * (over - (this.over[route] as number))
    this.travel[route] = travel
    this.over[route] = over
    this.service[route] = service
    // Summed anew, not kept by differences: what is left of a day that emptied would be divided by next to nothing.
    let [sum, squares] = [0, 0]
    for (let one = t * nDays; one < (t + 1) * nDays; one++) {
      const load = this.load(one)
      sum += load
      squares += load * load
    }
    this.sum[t] = sum
    this.squares[t] = squares
    this.uneven += spread(days, sum, squares, level) - was
  }

  /** What the unevenness of a route's technician is made of, for pricing many loads of that route: before any of them. */
  evenness(route: number): { days: number; sum: number; squares: number; load: number; was: number; level: number | null } {
    const t = this.technicianOf(route)
    const { days, level } = this.p.technicians[t] as Problem['technicians'][number]
    const [sum, squares] = [this.sum[t] as number, this.squares[t] as number]
    return { days, sum, squares, load: this.load(route), was: spread(days, sum, squares, level), level }
  }

  /** What a change of one route's load does to the unevenness, weighted. */
  unevenBy(route: number, load: number): number {
    const { days, sum, squares, load: before, was, level } = this.evenness(route)
    return this.p.weights.unevenness * (spread(days, sum + load - before, squares + load * load - before * before, level) - was)
  }

  isLinked = (v: number): boolean => (this.p.chain[v] as number) >= 0
  /** Whether a route's times hang together with another's. */
  holdsLinked = (route: number): boolean => this.p.chains.length > 0 && (this.routes[route] as number[]).some((v) => this.isLinked(v))

  /** Retimes one route with the starts links ask for now; false where its order cannot be kept. */
  private retime(route: number): boolean {
    const sequence = this.routes[route] as number[]
    const timed = timeRoute(
      this.p,
      this.technicianOf(route),
      this.dayOf(route),
      sequence,
      this.p.chains.length > 0 ? this.low : null,
      this.times,
    )
    if (timed === null) return false
    let service = 0
    for (let i = 0; i < sequence.length; i++) {
      const v = sequence[i] as number
      this.arrive[v] = this.times.arrive[i] as number
      this.start[v] = this.times.start[i] as number
      this.leave[v] = this.times.leave[i] as number
      service += this.p.serviceMin[v] as number
    }
    this.setLoad(route, timed.travelMin, timed.overtimeMin, service)
    return true
  }

  /** Routes and visits whose times hang together with these routes through links. */
  private together(routes: readonly number[]): { routes: number[]; visits: number[] } {
    const all = new Set(routes)
    const chains = new Set<number>()
    const waiting = [...routes]
    for (let route = waiting.pop(); route !== undefined; route = waiting.pop()) {
      for (const v of this.routes[route] as number[]) {
        const chain = this.p.chain[v] as number
        if (chain < 0 || chains.has(chain)) continue
        chains.add(chain)
        for (const other of this.p.chains[chain] as number[]) {
          const there = this.where[other] as number
          if (there >= 0 && !all.has(there)) {
            all.add(there)
            waiting.push(there)
          }
        }
      }
    }
    return { routes: [...all], visits: [...chains].flatMap((chain) => this.p.chains[chain] as number[]) }
  }

  /** Times these routes and everything linked to them: the least later starts that keep every gap; false where none do. */
  private settle(routes: readonly number[]): boolean {
    if (this.p.chains.length === 0) return routes.every((route) => this.retime(route))
    const { routes: all, visits } = this.together(routes)
    for (const v of visits) this.low[v] = 0
    for (let round = 0; round < SETTLE_ROUNDS; round++) {
      for (const route of all) if (!this.retime(route)) return false
      if (!this.pushStarts(visits)) return true
    }
    return false
  }

  /** Moves starts later where a gap is too short, or too long; true when anything moved. */
  private pushStarts(visits: readonly number[]): boolean {
    const { p } = this
    let moved = false
    const push = (v: number, start: number): void => {
      if (start > (this.low[v] as number) + EPS && start > (this.start[v] as number) + EPS) {
        this.low[v] = start
        moved = true
      }
    }
    for (const later of visits) {
      const earlier = p.pred[later] as number
      if (earlier < 0 || (this.where[later] as number) < 0 || (this.where[earlier] as number) < 0) continue
      const between =
        (p.midnight[this.dayOf(this.where[later] as number)] as number) - (p.midnight[this.dayOf(this.where[earlier] as number)] as number)
      push(later, (this.leave[earlier] as number) - between + (p.minGapMin[later] as number))
      push(earlier, (this.start[later] as number) + between - (p.maxGapMin[later] as number) - (p.serviceMin[earlier] as number))
    }
    return moved
  }

  /** Whether every link of these visits is kept, as they are timed now. */
  private linksHold(v: number): boolean {
    const { p } = this
    for (const later of p.chains[p.chain[v] as number] ?? []) {
      const earlier = p.pred[later] as number
      if (earlier < 0 || (this.where[later] as number) < 0) continue
      if ((this.where[earlier] as number) < 0) return false
      const between =
        (p.midnight[this.dayOf(this.where[later] as number)] as number) - (p.midnight[this.dayOf(this.where[earlier] as number)] as number)
      const gap = between + (this.start[later] as number) - (this.leave[earlier] as number)
      if (gap < (p.minGapMin[later] as number) - EPS || gap > (p.maxGapMin[later] as number) + EPS) return false
    }
    return true
  }

  /** Puts a visit into a route; false, and nothing changed, where that breaks something hard. */
  insert(v: number, route: number, at: number): boolean {
    const { p } = this
    if (!this.mayStand(v, route)) return false
    const kg = (this.kg[route] as number) + (p.loadKg[v] as number)
    if (kg > (p.technicians[this.technicianOf(route)] as Problem['technicians'][number]).vanKg + EPS) return false
    const before = p.pred[v] as number
    if (before >= 0 && (this.where[before] as number) < 0) return false
    ;(this.routes[route] as number[]).splice(at, 0, v)
    this.where[v] = route
    if (this.settle([route]) && (!this.isLinked(v) || this.linksHold(v))) {
      this.kg[route] = kg
      this.direct += dayCost(p, v, this.dayOf(route)) - UNPLANNED_COST
      return true
    }
    ;(this.routes[route] as number[]).splice(at, 1)
    this.where[v] = -1
    this.settle([route])
    // What was pushed by the visit that did not fit is let go again.
    if (this.isLinked(v))
      for (const other of p.chains[p.chain[v] as number] as number[])
        if ((this.where[other] as number) >= 0) this.settle([this.where[other] as number])
    return false
  }

  /** Takes a visit out, and before it what may not stand without it; those come back too. */
  remove(v: number): number[] {
    const route = this.where[v] as number
    if (route < 0) return []
    const gone = (this.p.succ[v] as number[]).flatMap((later) => this.remove(later))
    const sequence = this.routes[route] as number[]
    sequence.splice(sequence.indexOf(v), 1)
    this.where[v] = -1
    this.low[v] = 0
    this.kg[route] = (this.kg[route] as number) - (this.p.loadKg[v] as number)
    this.direct += UNPLANNED_COST - dayCost(this.p, v, this.dayOf(route))
    this.settle([route])
    if (this.isLinked(v)) {
      for (const other of this.p.chains[this.p.chain[v] as number] as number[])
        if ((this.where[other] as number) >= 0) this.settle([this.where[other] as number])
    }
    return [...gone, v]
  }

  /** Another order of one route's stops; false, and nothing changed, where it cannot be kept. */
  reorder(route: number, sequence: readonly number[]): boolean {
    const before = [...(this.routes[route] as number[])]
    ;(this.routes[route] as number[]).splice(0, before.length, ...sequence)
    const linked = sequence.filter((v) => this.isLinked(v))
    if (this.settle([route]) && linked.every((v) => this.linksHold(v))) return true
    ;(this.routes[route] as number[]).splice(0, sequence.length, ...before)
    this.settle([route])
    return false
  }

  /** The sequences, to come back to. */
  snapshot(): number[][] {
    return this.routes.map((route) => [...route])
  }

  /** Goes back to sequences that were whole when they were taken. */
  restore(snapshot: readonly (readonly number[])[]): void {
    const changed: number[] = []
    snapshot.forEach((sequence, route) => {
      const now = this.routes[route] as number[]
      if (now.length === sequence.length && now.every((v, i) => v === sequence[i])) return
      changed.push(route)
      for (const v of now) {
        if (this.where[v] !== route) continue
        this.where[v] = -1
        this.direct += UNPLANNED_COST - dayCost(this.p, v, this.dayOf(route))
      }
    })
    for (const route of changed) {
      const sequence = snapshot[route] as readonly number[]
      this.routes[route] = [...sequence]
      let kg = 0
      for (const v of sequence) {
        this.where[v] = route
        kg += this.p.loadKg[v] as number
        this.direct += dayCost(this.p, v, this.dayOf(route)) - UNPLANNED_COST
      }
      this.kg[route] = kg
    }
    if (changed.length > 0) this.settle(changed)
  }
}
