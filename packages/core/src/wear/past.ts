import { daysBetween } from '../units'
import type { Basis, CauseLife } from './causes'
import { upperTail } from './normal'
import { PRIORS } from './priors'
import { type QuadratureNodes, STEP, sigmaWithin, stepsOf } from './quadrature-nodes'
import type { FoundGrade, WearInput } from './types'

/** Shares of life used between which each grade lies. */
const GRADE_SHARES: Record<FoundGrade, readonly [number, number]> = {
  'as-new': [0, 0.35],
  light: [0.35, 0.75],
  'as-expected': [0.75, 1.1],
  heavy: [1.1, 1.5],
  spent: [1.5, Number.POSITIVE_INFINITY],
}

/** Days of usual use between fitting and removal, the weeks away taken out. */
function usualDays(input: WearInput, past: WearInput['past'][number]): number {
  let days = daysBetween(past.fittedOn, past.removedOn)
  for (const { from, to, share } of input.occupancy ?? []) {
    const start = from > past.fittedOn ? from : past.fittedOn
    const end = to < past.removedOn ? to : past.removedOn
    if (end > start) days -= daysBetween(start, end) * (1 - share)
  }
  return days
}

interface Seen {
  /** ln of what was used over the median life. */
  z: number
  perSigma: number
  steps: Int32Array
}

/** What one past part used of each cause's life. Counted litres are compared as litres, so the rate plays no part in them. */
function seen(basis: Basis, nodes: QuadratureNodes, life: CauseLife, past: WearInput['past'][number], days: number): Seen {
  const counted = life.byUse && past.litres !== undefined
  const used = !life.byUse ? days : past.litres === undefined ? usualDays(basis.input, past) : past.litres / basis.usage.litresPerDay
  const sigma = counted ? life.sigma : sigmaWithin(nodes, life)
  return {
    z: Math.log(Math.max(used, 0.5)) - life.logMedian,
    perSigma: 1 / Math.hypot(sigma, PRIORS.gradeCv),
    steps: counted ? nodes.factorSteps : stepsOf(nodes, life),
  }
}

/**
 * Multiplies the weight of each node by the chance of the grades found in past parts.
 *
 * A part's share of life used is the largest over its causes, so the chance that it is under b is Π_c P(life_c > used_c / b).
 * A grade is the chance of its interval: spent and heavy say that life ended by then, as expected that it ended about then,
 * light and as new that it had more. A slip keeps everything possible.
 */
export function weighByPast(basis: Basis, lives: readonly CauseLife[], nodes: QuadratureNodes): void {
  for (const past of basis.input.past) {
    const days = daysBetween(past.fittedOn, past.removedOn)
    if (days <= 0) continue
    const [low, high] = GRADE_SHARES[past.found]
    const causes = lives.map((life) => seen(basis, nodes, life, past, days))
    const under = (share: number, j: number): number => {
      if (share === 0) return 0
      if (share === Number.POSITIVE_INFINITY) return 1
      const shift = Math.log(share)
      let product = 1
      for (const { z, perSigma, steps } of causes) product *= upperTail((z - shift - (steps[j] as number) * STEP) * perSigma)
      return product
    }
    for (let j = 0; j < nodes.count; j++) {
      const chance = under(high, j) - under(low, j)
      nodes.weights[j] = (nodes.weights[j] as number) * (PRIORS.gradeSlip / 5 + (1 - PRIORS.gradeSlip) * Math.max(chance, 0))
    }
  }
}
