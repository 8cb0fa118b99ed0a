import type { Basis, CauseLife } from './causes'
import { at } from './exposure'
import { growthLikelihood } from './growth'
import { upperTail } from './normal'
import { PRIORS } from './priors'
import { quadratureNodesOf } from './quadrature'
import { type QuadratureNodes, STEP, sigmaWithin, stepsOf } from './quadrature-nodes'

/** How far a cause's grid reaches on each side of its median, in sigmas. */
const REACH = 3.6

/** Probability of survival by one cause, in every node. */
export interface Term {
  life: CauseLife
  /** Exposure at the cause's own beginning. */
  base: number
  sigma: number
  steps: Int32Array
  /** One row of `width` points a node, `below` of them under the median; null when no reading speaks of the cause. */
  grid: { below: number; width: number; survival: Float64Array } | null
}

/** What is believed of a stage: weights of the nodes, and the probability of survival by each cause within them. */
export interface Posterior {
  terms: Term[]
  /** Sum 1; nothing is assumed of today. */
  weights: Float64Array
  /** ln of the chance of all that was seen, up to a constant that does not depend on the spread assumed. */
  logEvidence: number
}

function fewestAndMost(steps: Int32Array): { fewest: number; most: number } {
  let fewest = 0
  let most = 0
  for (let j = 0; j < steps.length; j++) {
    const step = steps[j] as number
    if (step < fewest) fewest = step
    if (step > most) most = step
  }
  return { fewest, most }
}

/**
 * Chance, by a whole median life, of an end that no spread of lives explains. It only counts where a reading says so: small enough to leave
 * every other end to the spread, from which a worse reading then learns that the site is hard, and never that it is not.
 */
const SUDDEN_A_LIFE = 1e-4
/** What every crossing keeps, so that there always is one. */
const FAINTEST = 1e-12
/** An end that was measured may have come as early as this, in the exposure's units. */
const EARLIEST = 0.5

/** Likelihood of each crossing on the grid, the largest 1, and ln of its scale. */
function likelihood(life: CauseLife, from: number, points: number, floor: number): { chance: Float64Array; logScale: number } {
  const crossings = new Float64Array(points)
  const ratio = Math.exp(STEP)
  let T = Math.exp(from)
  for (let k = 0; k < points; k++, T *= ratio) crossings[k] = T
  const chance = growthLikelihood(life.channels, crossings)
  return { chance, logScale: fromLog(chance, floor) }
}

function termOf(life: CauseLife, nodes: QuadratureNodes, weights: Float64Array): { term: Term; logScale: number } {
  const steps = stepsOf(nodes, life)
  const sigma = sigmaWithin(nodes, life)
  const base = life.since > 0 ? at(life.exposure, life.since) : 0
  if (life.channels.length === 0) return { term: { life, base, sigma, steps, grid: null }, logScale: 0 }
  const { fewest, most } = fewestAndMost(steps)
  const above = Math.ceil((REACH * sigma) / STEP)
  const isOver = life.channels.some(({ over }) => over.length > 0)
  const below = isOver ? Math.max(above, Math.ceil((life.logMedian - Math.log(EARLIEST)) / STEP) + fewest) : above
  const width = below + above + 1
  const from = life.logMedian + (fewest - below) * STEP
  const { chance, logScale } = likelihood(life, from, width + most - fewest, isOver ? FAINTEST : PRIORS.misleading)
  const prior = priorOf(width, below, sigma, isOver)
  const survival = new Float64Array(nodes.count * width)
  for (let j = 0; j < nodes.count; j++) {
    const shift = (steps[j] as number) - fewest
    const row = j * width
    let sum = 0
    for (let i = width - 1; i >= 0; i--) {
      sum += (prior[i] as number) * (chance[i + shift] as number)
      survival[row + i] = sum
    }
    const scale = 1 / sum
    for (let i = 0; i < width; i++) survival[row + i] = (survival[row + i] as number) * scale
    weights[j] = (weights[j] as number) * sum
  }
  return { term: { life, base, sigma, steps, grid: { below, width, survival } }, logScale }
}

/** Chance of each crossing before its readings: log-normal about the median, and where one was measured over also an end at any time before. */
function priorOf(width: number, below: number, sigma: number, isOver: boolean): Float64Array {
  const prior = new Float64Array(width)
  let area = 0
  for (let i = 0; i < width; i++) {
    const height = Math.exp(-0.5 * (((i - below) * STEP) / sigma) ** 2)
    prior[i] = height
    area += height
  }
  for (let i = 0; i < width; i++) {
    const lives = SUDDEN_A_LIFE * Math.exp((i - below) * STEP)
    prior[i] = (prior[i] as number) / area + (isOver ? lives * Math.exp(-lives) * STEP : 0)
  }
  return prior
}

/** Turns logarithms into likelihoods in place, the largest 1, none below `floor`, the share that readings cannot take away; gives ln of the scale. */
function fromLog(values: Float64Array, floor: number): number {
  let most = Number.NEGATIVE_INFINITY
  for (let k = 0; k < values.length; k++) if ((values[k] as number) > most) most = values[k] as number
  if (most === Number.NEGATIVE_INFINITY) {
    values.fill(1)
    return 0
  }
  for (let k = 0; k < values.length; k++) values[k] = Math.exp((values[k] as number) - most) + floor
  return most
}

/**
 * Believed site factors, litres and lives of the causes that take part, over nodes and a grid of ln of each crossing.
 * Grades of past parts speak of all the causes a stage has, whatever the school lets take part.
 */
export function posteriorOf(basis: Basis, all: readonly CauseLife[], taking: readonly CauseLife[]): Posterior {
  const nodes = quadratureNodesOf(basis, all)
  const weights = Float64Array.from(nodes.weights)
  let logEvidence = basis.usage.logEvidence
  const terms = taking.map((life) => {
    const { term, logScale } = termOf(life, nodes, weights)
    logEvidence += logScale
    return term
  })
  let sum = 0
  for (let j = 0; j < nodes.count; j++) sum += weights[j] as number
  for (let j = 0; j < nodes.count; j++) weights[j] = (weights[j] as number) / sum
  return { terms, weights, logEvidence: logEvidence + Math.log(sum) }
}

const TINY = 1e-280
/** Below this the grid says nothing, and the prior's tail stands in for readings that mislead. */
const FAINT = 1e-6

/** Chance, by node, that this cause has not ended the stage `day` days after fitting. */
export function survivalBySlice({ life, base, sigma, steps, grid }: Term, day: number, out: Float64Array): void {
  const own = at(life.exposure, day) - base
  const count = steps.length
  if (own <= 0) {
    for (let j = 0; j < count; j++) out[j] = 1
    return
  }
  const fromMedian = Math.log(own) - life.logMedian
  const perSigma = 1 / sigma
  if (grid === null) {
    for (let j = 0; j < count; j++) out[j] = upperTail((fromMedian - (steps[j] as number) * STEP) * perSigma) + TINY
    return
  }
  const { below, width, survival } = grid
  // The point at i carries the mass from i − ½ to i + ½.
  const place = fromMedian / STEP + below + 0.5
  const whole = Math.floor(place)
  const share = place - whole
  for (let j = 0; j < count; j++) {
    const step = steps[j] as number
    const i = whole - step
    let chance = 0
    if (i < 0) chance = 1
    else if (i < width) {
      const at = j * width + i
      const low = survival[at] as number
      const high = i + 1 < width ? (survival[at + 1] as number) : 0
      chance = low + share * (high - low)
    }
    if (chance < FAINT) chance += FAINT * upperTail((fromMedian - step * STEP) * perSigma) + TINY
    out[j] = chance
  }
}
