import { atLeast, atMost } from '../units'
import { USUAL_RESIN_EQ_PER_L } from './limits'

export interface ResinInput {
  /** Water into the resin, mg/L, > 0. */
  inTdsMgL: number
  outTdsMgL: number
  /** The most the customer accepts after the resin, mg/L. */
  targetTdsMgL: number
  /** Resin in the bed, litres, > 0. */
  resinL: number
  /** Equivalents one litre of mixed bed takes up. Default 0.55. */
  capacityEqPerL?: number
  litresSinceFill: number
  litresPerDay: number
}

export type ResinVerdict = 'good' | 'past-target' | 'exhausted'
export interface ResinResult {
  capacityL: number
  usedFraction: number
  litresLeft: number
  /** Null when nothing is drawn. */
  daysLeft: number | null
  verdict: ResinVerdict
}

/** One equivalent of dissolved salts counted as calcium carbonate weighs 50 g. */
const MG_PER_EQUIVALENT = 50_000
const EXHAUSTED_SHARE = 0.95

/**
 * Capacity, what is left and the state of a mixed bed, unrounded; litres and days left are never below 0.
 *
 * Capacity (L) = resin (L) × eq/L × 50,000 / TDS in. The verdict looks at TDS only:
 * exhausted when out ≥ 0.95 × in, else past-target when out is over the target.
 */
export function resin(input: ResinInput): ResinResult {
  const { inTdsMgL, outTdsMgL, targetTdsMgL, resinL, capacityEqPerL = USUAL_RESIN_EQ_PER_L, litresSinceFill, litresPerDay } = input
  if (inTdsMgL <= 0) throw new RangeError(`inTdsMgL must be over 0, got ${inTdsMgL}`)
  const capacityL = (resinL * capacityEqPerL * MG_PER_EQUIVALENT) / inTdsMgL
  const litresLeft = Math.max(0, capacityL - litresSinceFill)
  const exhausted = atLeast(outTdsMgL, EXHAUSTED_SHARE * inTdsMgL)
  return {
    capacityL,
    usedFraction: litresSinceFill / capacityL,
    litresLeft,
    daysLeft: litresPerDay === 0 ? null : litresLeft / litresPerDay,
    verdict: exhausted ? 'exhausted' : atMost(outTdsMgL, targetTdsMgL) ? 'good' : 'past-target',
  }
}
