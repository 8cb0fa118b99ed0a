/** Slack for comparing computed ratios with typed limits, so that 36/400 counts as "at" 0.06 × 1.5. */
const RELATIVE_SLACK = 1e-12

/** `a ≤ b`, forgiving the last bits of floating-point noise. */
export const atMost = (a: number, b: number): boolean => a <= b + Math.abs(b) * RELATIVE_SLACK

/** `a ≥ b`, forgiving the last bits of floating-point noise. */
export const atLeast = (a: number, b: number): boolean => a >= b - Math.abs(b) * RELATIVE_SLACK

/** Median; of an even count the mean of the middle two. Throws `RangeError` on an empty list. */
export function median(values: readonly number[]): number {
  if (values.length === 0) throw new RangeError('median needs at least 1 value, got 0')
  const sorted = [...values].sort((a, b) => a - b)
  const middle = sorted.length >> 1
  const upper = sorted[middle] as number
  return sorted.length % 2 === 1 ? upper : ((sorted[middle - 1] as number) + upper) / 2
}
