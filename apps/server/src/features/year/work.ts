import type { YearKnown, YearWork, YearWorked } from '@evenround/contract/year-page'
import { daysBetween } from '@evenround/core/units'
import { carriedOver, eachWhenDue, planYear, withMove, type YearInput, type YearPlan, type YearVisit } from '@evenround/core/year'
import { figuresOf, heavyOf } from './figures'

/** Of a plan's search; a firm of some hundred systems ends by itself before. */
const SECONDS = 8

function planned(input: YearInput, seconds: number): YearPlan {
  const end = performance.now() + seconds * 1000
  return planYear(input, { stop: () => performance.now() >= end })
}

/** An earlier plan's visits in the weeks of a year that begins on another Monday. */
const shifted = (visits: readonly YearVisit[], weeks: number): YearVisit[] =>
  visits.flatMap((visit) => (visit.week >= weeks ? [{ ...visit, week: visit.week - weeks }] : []))

/** The year as the plan in force has it, or with each thing when it is due. */
function standing({ input, from }: YearKnown, current: YearWork['current']): YearPlan {
  return current === null ? eachWhenDue(input) : carriedOver(input, shifted(current.visits, daysBetween(current.from, from) / 7))
}

/** Plans a year, or moves some of it; null where that cannot be moved so. */
export function workYear({ known, asIs, current, move }: YearWork, seconds = SECONDS): YearWorked | null {
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
    after = planned(input, seconds)
    // A year as it would be is compared with the one there is, both planned as well as can be.
    before = asIs !== null && current === null ? planned(asIs.input, seconds) : standing(asIs ?? known, current)
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
