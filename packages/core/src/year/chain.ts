import type { Line, Weeks, YearBook } from './book'

const NEVER = Number.POSITIVE_INFINITY

/** What doing a due in a week costs by itself, beside what the week costs anyway. */
const offDue = ({ chain }: Line, due: number, week: number): number =>
  week < due ? (due - week) * chain.earlyPerWeek : (week - due) * chain.latePerWeek

/** What the first due costs in each of its weeks, written into `least`. */
function begin(line: Line, prices: Float64Array, least: Float64Array): void {
  const { due, inPlan } = line.first
  for (const week of inPlan) least[week] = (prices[week] as number) + offDue(line, due, week)
}

/** Goes on from a week that is reached at the cost `here` to each week of the next due: what is cheaper so is written into `least`, with where it came from. */
function goOn(line: Line, prices: Float64Array, week: number, here: number, least: Float64Array, from: Int32Array): void {
  const due = week + line.chain.every
  for (const then of line.later.inPlan[due] as readonly number[]) {
    const price = here + (prices[then] as number) + offDue(line, due, then)
    if (price >= (least[then] as number)) continue
    least[then] = price
    from[then] = week
  }
}

/** The week that is reached most cheaply of those a plan may end after, beside what it costs to do it in none; −1 for none. */
function cheapestEnd({ chain, later }: Line, least: Float64Array, none: number): number {
  let [cheapest, end] = [none, -1]
  for (let week = 0; week < least.length; week++) {
    if ((least[week] as number) >= cheapest || later.mayWait[week + chain.every] !== true) continue
    cheapest = least[week] as number
    end = week
  }
  return end
}

/**
 * The cheapest weeks for a chain at these prices, each due in one of its allowed weeks: the shortest way through the weeks, since each time
 * lies after the one before. Dues from the plan's end on may be left.
 */
export function cheapestWeeks(book: YearBook, line: number, prices: Float64Array): Weeks {
  const own = book.lines[line] as Line
  const { least, from } = book.scratch
  least.fill(NEVER)
  from.fill(-1)
  begin(own, prices, least)
  for (let week = 0; week < least.length; week++) {
    const here = least[week] as number
    if (here < NEVER) goOn(own, prices, week, here, least, from)
  }
  const done: number[] = []
  for (let week = cheapestEnd(own, least, own.first.mayWait ? 0 : NEVER); week >= 0; week = from[week] as number) done.push(week)
  return done.reverse()
}

/** The cheapest weeks of each number of times a chain may be done (dynamic programming over how often and when last). */
export function cheapestOfEach(book: YearBook, line: number, prices: Float64Array): Weeks[] {
  const { weeks } = book.input
  const own = book.lines[line] as Line
  const found: Weeks[] = own.first.mayWait ? [[]] : []
  let least = new Float64Array(weeks).fill(NEVER)
  const from: Int32Array[] = []
  begin(own, prices, least)
  while (least.some((one) => one < NEVER)) {
    const end = cheapestEnd(own, least, NEVER)
    if (end >= 0) found.push(wayTo(end, from))
    const next = new Float64Array(weeks).fill(NEVER)
    const before = new Int32Array(weeks).fill(-1)
    for (let week = 0; week < weeks; week++) {
      const here = least[week] as number
      if (here < NEVER) goOn(own, prices, week, here, next, before)
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
