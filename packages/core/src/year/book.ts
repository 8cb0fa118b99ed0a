import { allowedWeeks, firstDue } from './allowed'
import { costOfWeeks, travelIn, variationOf, weeksOf } from './load'
import type { YearArea, YearChain, YearInput, YearPlan, YearVisit } from './types'

/** Weeks of one chain, rising. */
export type Weeks = readonly number[]

/** Allowed weeks of dues, by the week of the due. */
interface Windows {
  all: readonly (readonly number[])[]
  /** Of those, the weeks of the plan. */
  inPlan: readonly (readonly number[])[]
  /** Whether the plan may end with this due to come. */
  mayWait: readonly boolean[]
}

/** A chain with what it asks for, its site and area as numbers. */
export interface Line {
  chain: YearChain
  site: number
  area: number
  /** The first due, its allowed weeks, those of them that are in the plan, and whether the plan may end with it to come. */
  first: { due: number; all: readonly number[]; inPlan: readonly number[]; mayWait: boolean }
  /** Of later ones. */
  later: Windows
}

/**
 * A year in the making: which chain is done in which weeks, with the minutes that makes by week and area. What it costs is kept up with
 * every change, as `yearCost` works it out anew.
 */
export class YearBook {
  readonly lines: readonly Line[]
  readonly done: Weeks[]
  /** Room for a search through the weeks, which is made with every step. */
  readonly scratch: { least: Float64Array; from: Int32Array }
  private readonly visitMin: Float64Array
  /** Chains at a site in a week. */
  private readonly at: Int32Array
  private readonly inArea: Float64Array
  private readonly visitsIn: Int32Array
  private readonly travelOf: Float64Array
  private readonly minutes: Float64Array
  private readonly travel: Float64Array
  private readonly share: Float64Array
  private off = { early: 0, late: 0 }
  /** Minutes of getting in and ready, of all visits. */
  private readyMin = 0

  constructor(readonly input: YearInput) {
    const { weeks, sites, areas, chains, capacityMin } = input
    const siteAt = new Map(sites.map(({ id }, index) => [id, index]))
    const areaAt = new Map(areas.map(({ id }, index) => [id, index]))
    // Tens of thousands of chains have some hundred windows between them.
    const tables = new Map<string, Windows>()
    const laterOf = (chain: YearChain): Windows => {
      const key = JSON.stringify([chain.every, chain.early, chain.late, chain.closed ?? []])
      const known = tables.get(key)
      if (known) return known
      const all = Array.from({ length: weeks + chain.every }, (_, due) => (due < chain.every ? [] : allowedWeeks(input, chain, due, false)))
      const inPlan = all.map((allowed) => allowed.filter((week) => week < weeks))
      const table = { all, inPlan, mayWait: inPlan.map((allowed, due) => due >= weeks || allowed.length === 0) }
      tables.set(key, table)
      return table
    }
    this.lines = chains.map((chain): Line => {
      const site = siteAt.get(chain.site) ?? 0
      const due = firstDue(chain)
      const all = allowedWeeks(input, chain, due, true)
      const inPlan = all.filter((week) => week < weeks)
      return {
        chain,
        site,
        area: areaAt.get(sites[site]?.area ?? '') ?? 0,
        first: { due, all, inPlan, mayWait: due >= weeks || inPlan.length === 0 },
        later: laterOf(chain),
      }
    })
    this.done = chains.map(() => [])
    this.scratch = { least: new Float64Array(weeks), from: new Int32Array(weeks) }
    this.visitMin = Float64Array.from(sites, ({ visitMin }) => visitMin)
    this.at = new Int32Array(sites.length * weeks)
    this.inArea = new Float64Array(areas.length * weeks)
    this.visitsIn = new Int32Array(areas.length * weeks)
    this.travelOf = new Float64Array(areas.length * weeks)
    this.minutes = new Float64Array(weeks)
    this.travel = new Float64Array(weeks)
    const capacity = capacityMin.reduce((sum, one) => sum + one, 0)
    this.share = Float64Array.from(capacityMin, (own) => (capacity > 0 ? own / capacity : 0))
  }

  /** Allowed weeks for a chain's next due after a week it was done in; of its first due where there is none. */
  allowed(line: number, before: number | null): readonly number[] {
    const { first, later, chain } = this.lines[line] as Line
    return before === null ? first.all : (later.all[before + chain.every] ?? [])
  }
  dueAfter(line: number, before: number | null): number {
    const { chain, first } = this.lines[line] as Line
    return before === null ? first.due : before + chain.every
  }

  private change(line: number, week: number, way: 1 | -1): void {
    const { chain, site, area } = this.lines[line] as Line
    const { weeks, areas, dayMin } = this.input
    const here = site * weeks + week
    const alone = (this.at[here] as number) === (way === 1 ? 0 : 1)
    this.at[here] = (this.at[here] as number) + way
    const spent = chain.workMin + (alone ? (this.visitMin[site] as number) : 0)
    const there = area * weeks + week
    this.minutes[week] = (this.minutes[week] as number) + way * spent
    this.inArea[there] = (this.inArea[there] as number) + way * spent
    if (alone) {
      this.visitsIn[there] = (this.visitsIn[there] as number) + way
      this.readyMin += way * (this.visitMin[site] as number)
    }
    const travel = travelIn(areas[area] as YearArea, dayMin, this.inArea[there] as number, this.visitsIn[there] as number)
    this.travel[week] = (this.travel[week] as number) + travel - (this.travelOf[there] as number)
    this.travelOf[there] = travel
  }

  private changeOff(line: number, weeks: Weeks, way: 1 | -1): void {
    const { chain } = this.lines[line] as Line
    let before: number | null = null
    for (const week of weeks) {
      const due = this.dueAfter(line, before)
      this.off.early += way * Math.max(0, due - week) * chain.earlyPerWeek
      this.off.late += way * Math.max(0, week - due) * chain.latePerWeek
      before = week
    }
  }

  /** Does a chain in these weeks instead of those it is done in. */
  put(line: number, weeks: Weeks): void {
    const was = this.done[line] as Weeks
    for (const week of was) this.change(line, week, -1)
    this.changeOff(line, was, -1)
    for (const week of weeks) this.change(line, week, 1)
    this.changeOff(line, weeks, 1)
    this.done[line] = weeks
  }

  get cost(): number {
    const { capacityMin, weights } = this.input
    let [load, travel, overload, squares] = [0, 0, 0, 0]
    for (let week = 0; week < capacityMin.length; week++) {
      const own = (this.minutes[week] as number) + (this.travel[week] as number)
      load += own
      travel += this.travel[week] as number
      overload += Math.max(0, own - (capacityMin[week] as number))
    }
    for (let week = 0; week < capacityMin.length; week++) {
      const level = load * (this.share[week] as number)
      if (level > 0) squares += ((this.minutes[week] as number) + (this.travel[week] as number) - level) ** 2 / level
    }
    const byWeeks = weights.travel * travel + weights.overload * overload + weights.unevenness * squares
    return byWeeks + (weights.visits ?? 0) * this.readyMin + this.off.early + this.off.late
  }

  /** What doing a chain in each week as well would cost, by itself: way, evenness, hours that are not there. Written into `prices`. */
  prices(line: number, prices: Float64Array): void {
    const { chain, site, area } = this.lines[line] as Line
    const { weeks, areas, dayMin, capacityMin, weights } = this.input
    let [load, squares, weighed] = [0, 0, 0]
    for (let week = 0; week < weeks; week++) {
      const own = (this.minutes[week] as number) + (this.travel[week] as number)
      load += own
      if ((this.share[week] as number) > 0) {
        squares += own ** 2 / (this.share[week] as number)
        weighed += own
      }
    }
    const uneven = load > 0 ? squares / load - 2 * weighed + load : 0
    for (let week = 0; week < weeks; week++) {
      const alone = (this.at[site * weeks + week] as number) === 0
      const readyMin = alone ? (this.visitMin[site] as number) : 0
      const spent = chain.workMin + readyMin
      const there = area * weeks + week
      const travel =
        travelIn(
          areas[area] as YearArea,
          dayMin,
          (this.inArea[there] as number) + spent,
          (this.visitsIn[there] as number) + (alone ? 1 : 0),
        ) - (this.travelOf[there] as number)
      const more = spent + travel
      const own = (this.minutes[week] as number) + (this.travel[week] as number)
      const share = this.share[week] as number
      const then =
        share > 0
          ? (squares + (2 * own * more + more ** 2) / share) / (load + more) - 2 * (weighed + more) + load + more
          : squares / Math.max(load + more, 1e-9) - 2 * weighed + load + more
      const over = Math.max(0, own + more - (capacityMin[week] as number)) - Math.max(0, own - (capacityMin[week] as number))
      const byWeek = weights.travel * travel + weights.unevenness * (then - uneven) + weights.overload * over
      prices[week] = byWeek + (weights.visits ?? 0) * readyMin
    }
  }

  plan(): YearPlan {
    const { sites } = this.input
    const visits = new Map<number, YearVisit>()
    for (const [line, { chain, site }] of this.lines.entries())
      for (const week of this.done[line] as Weeks) {
        const key = week * sites.length + site
        const visit = visits.get(key) ?? { site: sites[site]?.id ?? '', week, chains: [] }
        visit.chains.push(chain.id)
        visits.set(key, visit)
      }
    const all = weeksOf(this.input, this.minutes, this.travel)
    return {
      visits: [...visits].sort(([a], [b]) => a - b).map(([, visit]) => visit),
      weeks: all,
      cost: costOfWeeks(this.input, all, { ...this.off, readyMin: this.readyMin }),
      variation: variationOf(this.input, all),
    }
  }
}
