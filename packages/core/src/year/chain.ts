import type { Line, Weeks, YearBook } from './book'

const NEVER = Number.POSITIVE_INFINITY

/** What doing a due in a week costs by itself, beside what the week costs anyway. */
const offDue = ({ chain }: Line, due: number, week: number): number =>
  week < due ? (due - week) * chain.earlyPerWeek : (week - due) * chain.latePerWeek

/**
 * The cheapest weeks for a chain at these prices, each due in one of its allowed weeks: the shortest way through the weeks, since each time
 * lies after the one before. Dues from the plan's end on may be left.
 */
export function cheapestWeeks(book: YearBook, line: number, prices: Float64Array): Weeks {
  const { weeks } = book.input
  const own = book.lines[line] as Line
  const { every } = own.chain
  const { inPlan, mayWait } = own.later
  const { first } = own
  const { least, from } = book.scratch
  least.fill(NEVER)
  from.fill(-1)
  let [cheapest, end] = [first.mayWait ? 0 : NEVER, -1]
  for (const week of first.inPlan) least[week] = (prices[week] as number) + offDue(own, first.due, week)
  for (let week = first.inPlan[0] ?? weeks; week < weeks; week++) {
    const here = least[week] as number
    if (here === NEVER) continue
    const due = week + every
    if (here < cheapest && mayWait[due] === true) {
      cheapest = here
      end = week
    }
    for (const then of inPlan[due] as readonly number[]) {
      const price = here + (prices[then] as number) + offDue(own, due, then)
      if (price >= (least[then] as number)) continue
      least[then] = price
      from[then] = week
    }
  }
  const done: number[] = []
  for (let week = end; week >= 0; week = from[week] as number) done.push(week)
  return done.reverse()
}

/** The cheapest weeks of each number of times a chain may be done (dynamic programming over how often and when last). */
export function cheapestOfEach(book: YearBook, line: number, prices: Float64Array): Weeks[] {
  const { weeks } = book.input
  const own = book.lines[line] as Line
  const { every } = own.chain
  const { inPlan, mayWait } = own.later
  const { first } = own
  const found: Weeks[] = first.mayWait ? [[]] : []
  let least = new Float64Array(weeks).fill(NEVER)
  const from: Int32Array[] = []
  for (const week of first.inPlan) least[week] = (prices[week] as number) + offDue(own, first.due, week)
  while (least.some((one) => one < NEVER)) {
    const next = new Float64Array(weeks).fill(NEVER)
    const before = new Int32Array(weeks).fill(-1)
    let [cheapest, end] = [NEVER, -1]
    for (let week = 0; week < weeks; week++) {
      const here = least[week] as number
      if (here === NEVER) continue
      const due = week + every
      if (here < cheapest && mayWait[due] === true) {
        cheapest = here
        end = week
      }
      for (const then of inPlan[due] as readonly number[]) {
        const price = here + (prices[then] as number) + offDue(own, due, then)
        if (price >= (next[then] as number)) continue
        next[then] = price
        before[then] = week
      }
    }
    if (end >= 0) found.push(wayTo(end, from))
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
