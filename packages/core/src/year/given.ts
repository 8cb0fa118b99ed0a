import { type Weeks, YearBook } from './book'
import type { YearInput, YearPlan, YearVisit } from './types'

/** Weeks of each chain in a plan, rising. */
export function weeksByChain(visits: readonly YearVisit[]): Map<string, number[]> {
  const all = new Map<string, number[]>()
  for (const { week, chains } of visits)
    for (const id of chains) {
      const own = all.get(id)
      if (own) own.push(week)
      else all.set(id, [week])
    }
  for (const own of all.values()) own.sort((a, b) => a - b)
  return all
}

/** Visits as a plan that begins so many weeks later counts them; what lies before it is left out. */
export const weeksOn = (visits: readonly YearVisit[], weeks: number): YearVisit[] =>
  visits.flatMap((visit) => (visit.week >= weeks ? [{ ...visit, week: visit.week - weeks }] : []))

/** The allowed week nearest to `wanted`, the earlier of two; none where the next may be left to the year after. */
export function nearestWeek(allowed: readonly number[], wanted: number, weeks: number): number | null {
  let best: number | null = null
  for (const week of allowed) if (week < weeks && (best === null || Math.abs(week - wanted) < Math.abs(best - wanted))) best = week
  return best
}

/** Goes on with a chain from the weeks it is done in already: each further due in its allowed week nearest to where `wanted` has it. */
export function continued(book: YearBook, line: number, done: Weeks, wanted: (times: number, due: number) => number): number[] {
  const { weeks } = book.input
  const all = [...done]
  for (;;) {
    const before = all.at(-1) ?? null
    const due = book.dueAfter(line, before)
    if (due >= weeks) return all
    const week = nearestWeek(book.allowed(line, before), wanted(all.length, due), weeks)
    if (week === null) return all
    all.push(week)
  }
}

/** The year of somebody who looks at each due by itself: every chain in its due week, or the allowed one nearest to it. */
export function eachWhenDue(input: YearInput): YearPlan {
  const book = new YearBook(input)
  for (const line of book.lines.keys())
    book.put(
      line,
      continued(book, line, [], (_, due) => due),
    )
  return book.plan()
}

/** Puts every chain where an earlier plan has it, as far as its windows allow that now. */
export function carryOver(book: YearBook, visits: readonly YearVisit[]): void {
  const { input } = book
  const planned = weeksByChain(visits)
  for (const [line, { chain }] of book.lines.entries()) {
    const own = planned.get(chain.id) ?? []
    const done: number[] = []
    for (;;) {
      const before = done.at(-1) ?? null
      const allowed = book.allowed(line, before)
      const due = book.dueAfter(line, before)
      const kept = own.find((week) => allowed.includes(week))
      const week = kept ?? (due < input.weeks ? nearestWeek(allowed, due, input.weeks) : null)
      if (week === null) break
      done.push(week)
    }
    book.put(line, done)
  }
}

/**
 * An earlier plan on a newer input: each time of a chain in the first of the weeks that plan has it in that its window allows now, else in
 * the week nearest to its due. Unchanged, it is the same plan.
 */
export function carriedOver(input: YearInput, visits: readonly YearVisit[]): YearPlan {
  const book = new YearBook(input)
  carryOver(book, visits)
  return book.plan()
}
