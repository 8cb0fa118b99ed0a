import type { ComingDue } from '../round/group'
import { daysBetween } from '../units'
import type { YearChain } from './types'

const WEEK = 7
/** A change comes round every four weeks at the most often: what wears out faster wants a larger part, not more drives. */
const LEAST_EVERY = 4

/** A coming change of one thing at one site. */
export interface DueThing extends ComingDue {
  id: string
  site: string
  workMin: number
}

/** The week of a day in a year whose week 0 begins on the Monday `from`; before it they are negative. */
export const weekOf = (from: string, day: string): number => Math.floor(daysBetween(from, day) / WEEK)

/** A thing as a chain of the year that begins on the Monday `from`: its due, its window and what leaving them costs, in weeks. */
export function chainOfDue(thing: DueThing, from: string): YearChain {
  const due = weekOf(from, thing.dueOn)
  const every = Math.max(LEAST_EVERY, Math.round(thing.everyDays / WEEK))
  return {
    id: thing.id,
    site: thing.site,
    workMin: thing.workMin,
    every,
    last: due - every,
    early: Math.min(every - 1, Math.max(0, due - weekOf(from, thing.soonestOn))),
    late: Math.max(0, weekOf(from, thing.windowTo) - due),
    earlyPerWeek: thing.soonerPerDay * WEEK,
    latePerWeek: thing.latePerDay * WEEK,
  }
}
