/** One look at a counter that runs from the fitting on: litres, or hours lit. */
export interface Look {
  /** Days after fitting. */
  day: number
  value: number
  /** Place of its reading in the input. */
  index: number
}

export interface Total {
  day: number
  total: number
  index: number
}

/** A counter that ran so many times faster than ever before, and of which the next look knows nothing, was misread. */
const SLIP = 5

/** A look that the next one takes back: far more than the time since the one before can have run, and then on as if nothing had been. */
function isSpike(before: Look | undefined, look: Look, after: Look | undefined): boolean {
  if (before === undefined || before.day <= 0 || after === undefined) return false
  if (after.value >= look.value || after.value < before.value) return false
  const usual = Math.max(before.value, 1) / before.day
  return look.value - before.value > SLIP * usual * Math.max(look.day - before.day, 1)
}

/**
 * What a counter has run in all since the fitting, by day. A value under the one before means that it was reset or replaced: the total
 * goes on from there. A single figure far over what the looks around it know of is a slip; its index goes into `doubted`.
 */
export function totalsOf(looks: readonly Look[], doubted: Set<number>): Total[] {
  const sorted = [...looks].sort((a, b) => a.day - b.day || a.value - b.value)
  const kept: Look[] = []
  sorted.forEach((look, i) => {
    if (isSpike(kept[kept.length - 1], look, sorted[i + 1])) doubted.add(look.index)
    else kept.push(look)
  })
  const totals: Total[] = []
  let base = 0
  let before = 0
  for (const { day, value, index } of kept) {
    if (value < before) base += before
    before = value
    totals.push({ day, total: base + value, index })
  }
  return totals
}
