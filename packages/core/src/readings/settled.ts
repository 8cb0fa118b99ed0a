/** How many of the last values have to agree. */
const AGREE = 3
/** And how closely: one step of the display, or this share of the value, whichever is more. */
const WITHIN_SHARE = 0.005

/**
 * Whether a meter's display has settled: its last three values agree within one step of the display or half a per cent.
 * `values` in the order they were shown; `step` is the display's last place, above 0.
 */
export function settled(values: readonly number[], step = 1): boolean {
  if (values.length < AGREE) return false
  const last = values.slice(-AGREE)
  const most = Math.max(...last)
  return most - Math.min(...last) <= Math.max(step, WITHIN_SHARE * most)
}
