import type { Weeks, YearBook } from './book'

/**
 * The cheapest weeks for a chain at these prices, each due in one of its allowed weeks (dynamic programming over how often it was done and the
 * week it was done last): the cheapest of each number of times, where `apart`, else the cheapest of all. Dues from the plan's end on may be left.
 */
export function cheapestWeeks(book: YearBook, line: number, prices: Float64Array, apart: boolean): Weeks[] {
  const { weeks } = book.input
  const inPlan = (before: number | null): number[] => book.allowed(line, before).filter((week) => week < weeks)
  const mayEnd = (before: number | null): boolean => book.dueAfter(line, before) >= weeks || inPlan(before).length === 0
  const found: Weeks[] = mayEnd(null) ? [[]] : []
  let best = found.length > 0 ? 0 : Number.POSITIVE_INFINITY
  let least = new Float64Array(weeks).fill(Number.POSITIVE_INFINITY)
  const from: Int32Array[] = []
  const first = book.dueAfter(line, null)
  for (const week of inPlan(null)) least[week] = (prices[week] as number) + book.offDue(line, first, week)
  while (least.some((one) => one < Number.POSITIVE_INFINITY)) {
    const next = new Float64Array(weeks).fill(Number.POSITIVE_INFINITY)
    const before = new Int32Array(weeks).fill(-1)
    let [cheapest, end] = [Number.POSITIVE_INFINITY, -1]
    for (let week = 0; week < weeks; week++) {
      const here = least[week] as number
      if (here === Number.POSITIVE_INFINITY) continue
      if (here < cheapest && mayEnd(week)) {
        cheapest = here
        end = week
      }
      const due = book.dueAfter(line, week)
      for (const then of inPlan(week)) {
        const price = here + (prices[then] as number) + book.offDue(line, due, then)
        if (price >= (next[then] as number)) continue
        next[then] = price
        before[then] = week
      }
    }
    if (end >= 0 && (apart || cheapest < best)) {
      if (!apart) found.length = 0
      found.push(wayTo(end, from))
      best = Math.min(best, cheapest)
    }
    from.push(before)
    least = next
  }
  return found
}

/** The weeks that led to this one, by where each came from. */
function wayTo(end: number, from: readonly Int32Array[]): number[] {
  const done = [end]
  for (let times = from.length - 1; times >= 0; times--) done.push((from[times] as Int32Array)[done.at(-1) as number] as number)
  return done.reverse()
}
