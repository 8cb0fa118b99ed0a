import type { Basis, CauseLife } from './causes'
import { weighByPast } from './past'
import { PRIORS, sigmaOfCv } from './priors'
import { type QuadratureNodes, STEP } from './quadrature-nodes'

/** Site factors on each side of 1, out to ±2.6 of their prior's sigma. */
const FACTOR_SIDE = 3
const FACTOR_OUTERMOST = 2.6
/** Litres a day on each side of their median, out to ±2.2 sigma, where they are a guess that past parts can correct. */
const RATE_SIDE = 2
const RATE_OUTERMOST = 2.2
/** Counted litres need no nodes of their own. */
const COUNTED_SIGMA = 0.2

interface Axis {
  steps: number[]
  weights: number[]
}

function axis(sigma: number, side: number, outermost: number): Axis {
  const stride = Math.max(1, Math.round((outermost * sigma) / side / STEP))
  const steps: number[] = []
  const weights: number[] = []
  for (let i = -side; i <= side; i++) {
    steps.push(i * stride)
    weights.push(Math.exp(-0.5 * ((i * stride * STEP) / sigma) ** 2))
  }
  return { steps, weights }
}

const USUAL_FACTORS = axis(sigmaOfCv(PRIORS.siteCv), FACTOR_SIDE, FACTOR_OUTERMOST)
const NO_RATES: Axis = { steps: [0], weights: [1] }

/** Every pair of a site factor and a rate. */
function pairs(factors: Axis, rates: Axis, rateSigma: number): QuadratureNodes {
  const count = factors.steps.length * rates.steps.length
  const nodes: QuadratureNodes = {
    count,
    weights: new Float64Array(count),
    factorSteps: new Int32Array(count),
    useSteps: new Int32Array(count),
    rateSigma,
  }
  let sum = 0
  let j = 0
  for (let f = 0; f < factors.steps.length; f++) {
    for (let r = 0; r < rates.steps.length; r++, j++) {
      const weight = (factors.weights[f] as number) * (rates.weights[r] as number)
      nodes.weights[j] = weight
      nodes.factorSteps[j] = factors.steps[f] as number
      nodes.useSteps[j] = (factors.steps[f] as number) - (rates.steps[r] as number)
      sum += weight
    }
  }
  for (let k = 0; k < count; k++) nodes.weights[k] = (nodes.weights[k] as number) / sum
  return nodes
}

/**
 * One node for each site factor: the rate's mean given that factor moves its life on litres, what is left of the rate's spread
 * (averaged over the factors) stays with every cause on litres. Keeps how the two hang together at a fifth of the cost.
 */
function collapse(wide: QuadratureNodes, factors: Axis, rates: Axis): QuadratureNodes {
  const nodes = pairs(factors, NO_RATES, 0)
  const across = rates.steps.length
  let left = 0
  let sum = 0
  for (let f = 0; f < nodes.count; f++) {
    let weight = 0
    let first = 0
    let second = 0
    for (let r = 0; r < across; r++) {
      const w = wide.weights[f * across + r] as number
      const step = rates.steps[r] as number
      weight += w
      first += w * step
      second += w * step * step
    }
    const mean = weight > 0 ? first / weight : 0
    nodes.weights[f] = weight
    nodes.useSteps[f] = Math.round((nodes.factorSteps[f] as number) - mean)
    left += weight > 0 ? second - mean * first : 0
    sum += weight
  }
  nodes.rateSigma = Math.sqrt(Math.max(0, left / sum)) * STEP
  return nodes
}

/**
 * QuadratureNodes for a stage, weighed by what was found in its past parts (their sum is the chance of those grades).
 * Rates get an axis of their own while they are a guess that the grades can correct.
 */
export function quadratureNodesOf(basis: Basis, lives: readonly CauseLife[]): QuadratureNodes {
  const { input, usage } = basis
  const factors = input.spread === undefined ? USUAL_FACTORS : axis(sigmaOfCv(input.spread.siteCv), FACTOR_SIDE, FACTOR_OUTERMOST)
  const guessed = usage.sigma > COUNTED_SIGMA && input.past.length > 0 && lives.some(({ byUse }) => byUse)
  const rates = guessed ? axis(usage.sigma, RATE_SIDE, RATE_OUTERMOST) : NO_RATES
  const nodes = pairs(factors, rates, guessed ? 0 : usage.sigma)
  weighByPast(basis, lives, nodes)
  return guessed ? collapse(nodes, factors, rates) : nodes
}
