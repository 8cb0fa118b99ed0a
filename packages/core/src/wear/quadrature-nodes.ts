import type { CauseLife } from './causes'

/** ln of a life runs on a grid of this step; nodes stand a whole number of steps apart. */
export const STEP = 0.04
/**
 * What the parts of a stage share and nobody knows: the site factor and, where the litres are a guess, the rate they come at.
 * Within one node every cause is independent of the others.
 */
export interface QuadratureNodes {
  count: number
  /** Their sum is the chance of what was found in past parts. */
  weights: Float64Array
  /** Grid steps by which a life on the calendar is longer than its median, by node. */
  factorSteps: Int32Array
  /** The same for a life on litres: more litres a day, fewer days. */
  useSteps: Int32Array
  /** Sigma of the rate that is left within a node. */
  rateSigma: number
}

/** Steps of a cause's life by node, and its sigma within one. */
export const stepsOf = (nodes: QuadratureNodes, life: CauseLife): Int32Array => (life.byUse ? nodes.useSteps : nodes.factorSteps)
export const sigmaWithin = ({ rateSigma }: QuadratureNodes, { byUse, sigma }: CauseLife): number =>
  byUse ? Math.hypot(sigma, rateSigma) : sigma
