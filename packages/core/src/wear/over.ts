import { beliefOf, endedOn } from './belief'
import { allCauses, basisOf, ofSchool } from './causes'
import { Survival } from './curve'
import { posteriorOf } from './posterior'
import type { WearInput } from './types'

/** The chance that the part is over by a number of days after its fitting; null when nothing is rated. */
export function overBy(input: WearInput): ((age: number) => number) | null {
  if (input.stage.ageUnknown === true) {
    const belief = beliefOf(input)
    return belief === null ? null : (age) => endedOn(belief, age)
  }
  const basis = basisOf(input)
  const every = allCauses(basis)
  const taking = ofSchool(every, input.school)
  if (taking.length === 0) return null
  const alive = new Survival(posteriorOf(basis, every, taking))
  return (age) => (age <= 0 ? 0 : alive.overBy(age))
}
