import { carriedOver, eachWhenDue, planYear, weekOf, weeksOn, withMove, type YearPlan, type YearVisit } from '@evenround/core/year'
import { figuresOf, heavyOf } from './year-figures'
import type { YearKnown, YearWork, YearWorked } from './year-page'

/** Of a plan's search; a firm of some hundred systems ends by itself before. */
const SECONDS = 8

/** Goes on from the plan in force: customers are not moved about for nothing. */
function planned({ input, from }: YearKnown, current: YearWork['current'], seconds: number): YearPlan {
  const end = performance.now() + seconds * 1000
  const stop = (): boolean => performance.now() >= end
  return planYear(input, current === null ? { stop } : { stop, from: inYearFrom(from, current) })
}

/** A plan's visits in the weeks of a year that begins on another Monday. */
const inYearFrom = (monday: string, { from, visits }: NonNullable<YearWork['current']>): YearVisit[] =>
  weeksOn(visits, weekOf(from, monday))

/** The year as the plan in force has it, or with each thing when it is due. */
const standing = ({ input, from }: YearKnown, current: YearWork['current']): YearPlan =>
  current === null ? eachWhenDue(input) : carriedOver(input, inYearFrom(from, current))

/** Plans a year, takes one that was planned elsewhere, or moves some of one; null where that cannot be moved so. */
export function workYear({ known, asIs, current, move, given = null }: YearWork, seconds = SECONDS): YearWorked | null {
  let { input } = known
  let after: YearPlan
  let before: YearPlan
  if (move !== null) {
    const tried = withMove(input, move, move)
    if (tried === null) return null
    before = carriedOver(input, move.visits)
    after = tried.plan
    input = tried.input
  } else {
    // What a device planned is gone on with from what is known here now: no visit outside its window comes in by it.
    after = given === null ? planned(known, current, seconds) : standing(known, given)
    // A year as it would be is compared with the one there is, both planned as well as can be.
    before = asIs !== null && current === null ? planned(asIs, null, seconds) : standing(asIs ?? known, current)
  }
  const then = { ...known, input }
  return {
    known: then,
    visits: after.visits,
    shown: {
      before: figuresOf(asIs ?? known, (asIs ?? known).input, before),
      after: figuresOf(then, input, after),
      heavy: heavyOf(then, input, after),
      leftOut: known.leftOut,
    },
  }
}
