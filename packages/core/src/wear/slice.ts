import type { CauseLife } from './causes'

/** ln of a life runs on a lattice of this step; slices stand a whole number of steps apart. */
export const STEP = 0.04
/**
 * What the parts of a stage share and nobody knows: the site factor and, where the litres are a guess, the rate they come at.
 * Within one slice every cause is independent of the others.
 */
export interface Slices {
  count: number
  /** Their sum is the chance of what was found in past parts. */
  weights: Float64Array
  /** Lattice steps by which a life on the calendar is longer than its median, by slice. */
  factorSteps: Int32Array
  /** The same for a life on litres: more litres a day, fewer days. */
  useSteps: Int32Array
  /** Sigma of the rate that is left within a slice. */
  rateSigma: number
}

/** Steps of a cause's life by slice, and its sigma within one. */
export const stepsOf = (slices: Slices, life: CauseLife): Int32Array => (life.byUse ? slices.useSteps : slices.factorSteps)
export const sigmaWithin = ({ rateSigma }: Slices, { byUse, sigma }: CauseLife): number => (byUse ? Math.hypot(sigma, rateSigma) : sigma)
