import { type Posterior, survivalBySlice } from './posterior'
import type { Cause } from './types'

/** Beyond this many days after fitting nothing is asked: a hundred years. */
const HORIZON = 36_525
const FIRST_STEP = 3
const GROWTH = 2.1
const PRECISION_DAYS = 0.002
const EDGE = PRECISION_DAYS / 20
/** A chance this close to the wanted one (as a share of it) is a minute on a year: days are whole, and must not fall back by rounding. */
const CLOSE = 2e-6
/** How many times flatter than on either side the logarithm of a chance may run. */
const SURE = 2

export interface Window {
  p10: number
  p50: number
  p90: number
}

/** Days after fitting: of the stage, and of each cause alone. */
export interface Windows {
  all: Window
  byCause: { cause: Cause; window: Window; hazard: number }[]
}

const QUANTILES = [0.1, 0.5, 0.9] as const

/** Chances of being good on a day after fitting, nothing assumed of today: by each cause alone, and by all. */
export class Survival {
  readonly count: number
  private readonly weights: Float64Array
  private readonly scratch: Float64Array
  private readonly product: Float64Array

  constructor(private readonly posterior: Posterior) {
    this.count = posterior.terms.length
    this.weights = posterior.weights
    this.scratch = new Float64Array(this.weights.length)
    this.product = new Float64Array(this.weights.length)
  }

  /** Fills `out` with the chance that each cause, and (last) all of them, are survived to `day`. */
  fill(day: number, out: Float64Array): void {
    const { weights, scratch, product, count } = this
    for (let j = 0; j < weights.length; j++) product[j] = weights[j] as number
    for (let c = 0; c < count; c++) {
      survivalBySlice(this.posterior.terms[c] as Posterior['terms'][number], day, scratch)
      let own = 0
      for (let j = 0; j < weights.length; j++) {
        own += (weights[j] as number) * (scratch[j] as number)
        product[j] = (product[j] as number) * (scratch[j] as number)
      }
      out[c] = own
    }
    let all = 0
    for (const value of product) all += value
    out[count] = Math.min(1, all)
  }

  /** The chance that one cause (or, at `count`, all) is survived to `day`. */
  one(index: number, day: number): number {
    return index === this.count ? this.all(day) : this.through(index, index + 1, day)
  }

  /** The chance that the stage is good on `day`. */
  all(day: number): number {
    return this.through(0, this.count, day)
  }

  /** The chance that the stage is over by `age`; nothing is before it has served a day. */
  overBy(age: number): number {
    return age <= 0 ? 0 : 1 - this.all(age)
  }

  /** The chance that the causes from `first` to before `end` are survived to `day`. */
  private through(first: number, end: number, day: number): number {
    const { weights, scratch, product } = this
    for (let j = 0; j < weights.length; j++) product[j] = weights[j] as number
    for (let c = first; c < end; c++) {
      survivalBySlice(this.posterior.terms[c] as Posterior['terms'][number], day, scratch)
      for (let j = 0; j < weights.length; j++) product[j] = (product[j] as number) * (scratch[j] as number)
    }
    let all = 0
    for (const value of product) all += value
    return Math.min(1, all)
  }
}

interface Grid {
  days: number[]
  /** Chances by day, rows of `width`: each cause, then all. */
  chances: number[]
  width: number
}

/** Survival on days that lie further and further apart, until everything is over. */
function gridOf(survival: Survival, scratch: Float64Array): Grid {
  const width = survival.count + 1
  const days = [0]
  const chances: number[] = []
  for (let c = 0; c < width; c++) chances.push(1)
  let step = FIRST_STEP
  while (step < HORIZON) {
    survival.fill(step, scratch)
    days.push(step)
    let most = 0
    for (let c = 0; c < width; c++) {
      const chance = scratch[c] as number
      chances.push(chance)
      if (chance > most) most = chance
    }
    if (most < 0.1) break
    step *= GROWTH
  }
  return { days, chances, width }
}

/**
 * The day by which the chance of having ended reaches `p`, by the regula falsi (Illinois) within its cell of the grid. Where the whole day is
 * all that is asked for, it ends as soon as that cannot change any more.
 */
function quantile(survival: Survival, grid: Grid, index: number, p: number, wholeDay: boolean): number {
  const { days, chances, width } = grid
  const target = 1 - p
  let cell = 1
  while (cell < days.length && (chances[cell * width + index] as number) > target) cell++
  if (cell === days.length) return days[cell - 1] as number
  let low = days[cell - 1] as number
  let high = days[cell] as number
  // ln of the chance is nearly straight within a cell: the hazard changes little there.
  let atLow = lnOver(chances[(cell - 1) * width + index] as number, target)
  let atHigh = lnOver(chances[cell * width + index] as number, target)
  // As they were found: the method halves its own.
  let foundLow = atLow
  let foundHigh = atHigh
  let side = 0
  for (let i = 0; i < 40 && high - low > PRECISION_DAYS; i++) {
    const span = high - low
    const straight = low + (span * atLow) / (atLow - atHigh)
    const day = i > 12 ? low + span / 2 : Math.min(high - EDGE, Math.max(low + EDGE, straight))
    const value = lnOver(survival.one(index, day), target)
    if (Math.abs(value) < CLOSE) return day
    // A hazard that only rises is between those on either side.
    const flattest = Math.min((foundLow - value) / (day - low), (value - foundHigh) / (high - day))
    const off = (SURE * Math.abs(value)) / flattest
    if (wholeDay && Math.floor(day - off) === Math.floor(day + off)) return day
    if (value > 0) {
      low = day
      atLow = value
      foundLow = value
      if (side === 1) atHigh /= 2
      side = 1
    } else {
      high = day
      atHigh = value
      foundHigh = value
      if (side === -1) atLow /= 2
      side = -1
    }
  }
  return (low + high) / 2
}

const lnOver = (chance: number, target: number): number => Math.log(Math.max(chance, 1e-300) / target)

/** The 10 %, 50 % and 90 % days of the stage and of each cause alone; deterministic. */
export function windowsOf(survival: Survival, causes: readonly Cause[]): Windows {
  const scratch = new Float64Array(survival.count + 1)
  const grid = gridOf(survival, scratch)
  const window = (index: number): Window => {
    // How much of the stage's own life is left is read off its median, to the minute.
    const [p10, p50, p90] = QUANTILES.map((p) => quantile(survival, grid, index, p, index < survival.count || p !== 0.5)) as [
      number,
      number,
      number,
    ]
    return { p10, p50, p90 }
  }
  const all = window(survival.count)
  const single = survival.count === 1
  survival.fill(all.p50, scratch)
  const survived = Float64Array.from(scratch)
  const byCause = causes.map((cause, index) => ({
    cause,
    window: single ? all : window(index),
    hazard: -Math.log(Math.max(survived[index] as number, 1e-300)),
  }))
  return { all, byCause }
}
