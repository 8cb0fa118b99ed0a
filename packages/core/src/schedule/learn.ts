import { median } from '../units'

/** From so many visits on, a firm's own speak alone. */
const ENOUGH = 5

export interface Learned {
  minutes: number
  /** Visits that stand behind it; 0 where the usual figure stands alone. */
  from: number
}

/**
 * Minutes of hands for one kind of visit, > 0: the median of the firm's own finished ones, drawn towards the usual figure until five of
 * them are known: usual + (median − usual) · n/5. A median, since one visit with a telephone call in it is no measure.
 */
export function learnedMinutes(usualMin: number, seenMin: readonly number[]): Learned {
  if (seenMin.length === 0) return { minutes: usualMin, from: 0 }
  const share = Math.min(1, seenMin.length / ENOUGH)
  return { minutes: usualMin + (median(seenMin) - usualMin) * share, from: seenMin.length }
}
