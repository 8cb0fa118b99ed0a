import { type Posterior, survivalBySlice } from './posterior'
import type { Cause } from './types'

/** Beyond this many days after today nothing is asked: a hundred years. */
const HORIZON = 36_525
const FIRST_STEP = 3
const GROWTH = 2.1
const PRECISION_DAYS = 0.002
const EDGE = PRECISION_DAYS / 20
/** A chance this close to the wanted one (as a share of it) is a minute on a year: days are whole, and must not fall back by rounding. */
const CLOSE = 2e-6

export interface Window {
  p10: number
  p50: number
  p90: number
}

/** Days after fitting, given alive at `age`: of the stage, and of each cause alone. */
export interface Windows {
  all: Window
  byCause: { cause: Cause; window: Window; hazard: number }[]
}

const QUANTILES = [0.1, 0.5, 0.9] as const

/** Survival given alive at one age, by cause and of all together. */
class Given {
  readonly count: number
  private readonly weights: Float64Array
  /** One over the survival at that age, by cause and slice. */
  private readonly perAlive: Float64Array[]
  private readonly scratch: Float64Array
  private readonly product: Float64Array

  constructor(
    private readonly posterior: Posterior,
    age: number,
  ) {
    this.count = posterior.terms.length
    const slices = posterior.weights.length
    this.scratch = new Float64Array(slices)
    this.product = new Float64Array(slices)
    this.weights = Float64Array.from(posterior.weights)
    this.perAlive = []
    for (const term of posterior.terms) {
      const row = new Float64Array(slices)
      survivalBySlice(term, age, row)
      for (let j = 0; j < slices; j++) {
        this.weights[j] = (this.weights[j] as number) * (row[j] as number)
        row[j] = 1 / (row[j] as number)
      }
      this.perAlive.push(row)
    }
    let sum = 0
    for (let j = 0; j < slices; j++) sum += this.weights[j] as number
    for (let j = 0; j < slices; j++) this.weights[j] = sum > 0 ? (this.weights[j] as number) / sum : 1 / slices
  }

  /** Fills `out` with the chance that each cause, and (last) all of them, are survived to `day`. */
  survive(day: number, out: Float64Array): void {
    const { weights, scratch, product, count } = this
    for (let j = 0; j < weights.length; j++) product[j] = weights[j] as number
    for (let c = 0; c < count; c++) {
      const row = this.perAlive[c] as Float64Array
      survivalBySlice(this.posterior.terms[c] as Posterior['terms'][number], day, scratch)
      let own = 0
      for (let j = 0; j < weights.length; j++) {
        const ratio = (scratch[j] as number) * (row[j] as number)
        own += (weights[j] as number) * ratio
        product[j] = (product[j] as number) * ratio
      }
      out[c] = own
    }
    let all = 0
    for (const value of product) all += value
    out[count] = all
  }

  /** The chance that one cause (or, at `count`, all) is survived to `day`. */
  one(index: number, day: number, out: Float64Array): number {
    if (index === this.count) {
      this.survive(day, out)
      return out[index] as number
    }
    const row = this.perAlive[index] as Float64Array
    survivalBySlice(this.posterior.terms[index] as Posterior['terms'][number], day, this.scratch)
    let own = 0
    for (let j = 0; j < this.weights.length; j++) own += (this.weights[j] as number) * (this.scratch[j] as number) * (row[j] as number)
    return own
  }
}

interface Grid {
  days: number[]
  /** Chances by day, rows of `width`: each cause, then all. */
  chances: number[]
  width: number
}

/** Survival on days that lie further and further apart, until everything is over. */
function gridOf(given: Given, age: number, scratch: Float64Array): Grid {
  const width = given.count + 1
  const days = [age]
  const chances: number[] = []
  for (let c = 0; c < width; c++) chances.push(1)
  let step = FIRST_STEP
  while (step < HORIZON) {
    given.survive(age + step, scratch)
    days.push(age + step)
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

/** The day by which the chance of having ended reaches `p`, by the regula falsi (Illinois) within its cell of the grid. */
function quantile(given: Given, grid: Grid, index: number, p: number, scratch: Float64Array): number {
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
  let side = 0
  for (let i = 0; i < 40 && high - low > PRECISION_DAYS; i++) {
    const span = high - low
    const straight = low + (span * atLow) / (atLow - atHigh)
    const day = i > 12 ? low + span / 2 : Math.min(high - EDGE, Math.max(low + EDGE, straight))
    const value = lnOver(given.one(index, day, scratch), target)
    if (Math.abs(value) < CLOSE) return day
    if (value > 0) {
      low = day
      atLow = value
      if (side === 1) atHigh /= 2
      side = 1
    } else {
      high = day
      atHigh = value
      if (side === -1) atLow /= 2
      side = -1
    }
  }
  return (low + high) / 2
}

const lnOver = (chance: number, target: number): number => Math.log(Math.max(chance, 1e-300) / target)

/** The 10 %, 50 % and 90 % days of the stage and of each cause alone, given alive at `age`; deterministic. */
export function windowsOf(posterior: Posterior, age: number): Windows {
  const given = new Given(posterior, age)
  const scratch = new Float64Array(given.count + 1)
  const grid = gridOf(given, age, scratch)
  const window = (index: number): Window => {
    const [p10, p50, p90] = QUANTILES.map((p) => quantile(given, grid, index, p, scratch)) as [number, number, number]
    return { p10, p50, p90 }
  }
  const all = window(given.count)
  const single = given.count === 1
  given.survive(all.p50, scratch)
  const survived = Float64Array.from(scratch)
  const byCause = posterior.terms.map(({ life }, index) => ({
    cause: life.cause,
    window: single ? all : window(index),
    hazard: -Math.log(Math.max(survived[index] as number, 1e-300)),
  }))
  return { all, byCause }
}
