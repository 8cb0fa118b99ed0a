import type { YearChain, YearInput } from './types'

/** A first due that is over altogether may be done in these many weeks from now on. */
const OVERDUE_WEEKS = 5

type Calendar = Pick<YearInput, 'weeks' | 'capacityMin'>

const isOpen = ({ weeks, capacityMin }: Calendar, { closed = [] }: YearChain, week: number): boolean =>
  week >= weeks || ((capacityMin[week] ?? 0) > 0 && !closed.includes(week))

/**
 * Weeks in which a due may be done, rising: within its window, where somebody works and the site is open; where none is, the first open
 * week after them. Weeks from the plan's end on are open.
 */
export function allowedWeeks(calendar: Calendar, chain: YearChain, due: number, first: boolean): number[] {
  if (first && chain.pinned !== undefined) return [chain.pinned]
  const overdue = first && due + chain.late < 0
  const from = overdue ? 0 : Math.max(0, due - chain.early)
  const to = overdue ? OVERDUE_WEEKS - 1 : due + chain.late
  const within: number[] = []
  for (let week = from; week <= to; week++) if (isOpen(calendar, chain, week)) within.push(week)
  if (within.length > 0) return within
  let after = to + 1
  while (!isOpen(calendar, chain, after)) after++
  return [after]
}

export const firstDue = ({ last, every }: YearChain): number => last + every
