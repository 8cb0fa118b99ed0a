import { daysBetween } from '../units'
import { allCauses, type Basis, basisOf, type CauseLife, ofSchool } from './causes'
import { Survival } from './curve'
import { posteriorOf } from './posterior'
import type { WearInput } from './types'

/** What the forecast, the stored curve and the day to change of a part of known age are all read from. */
export interface Model {
  basis: Basis
  /** Every cause the part can end by, and those that take part in the school. */
  every: readonly CauseLife[]
  taking: readonly CauseLife[]
  survival: Survival
}

/** Forecast, curve and day to change ask for one model after another; an input is never changed once it is asked about. */
let lastAsked: { input: WearInput; model: Model | null } | null = null

/** The model of a stage fitted on `fittedOn`; null when nothing is rated. */
export function modelOf(input: WearInput): Model | null {
  if (lastAsked?.input !== input) lastAsked = { input, model: makeModel(input) }
  return lastAsked.model
}

function makeModel(input: WearInput): Model | null {
  const basis = basisOf(input)
  const every = allCauses(basis)
  const taking = ofSchool(every, input.school)
  return taking.length === 0 ? null : { basis, every, taking, survival: new Survival(posteriorOf(basis, every, taking)) }
}

/** Days a part is taken to have served by `today`: nothing is over before it has served one. */
export const daysServed = (fittedOn: string, today: string): number => Math.max(1, daysBetween(fittedOn, today))
