import { addDays } from '../units'
import type { FoundGrade, WearInput, WearReading, WearStage } from './types'

/** A counter looked at longer ago than this says nothing of the litres a part had when it came out. */
const LOOKED_AT_WITHIN_DAYS = 14

interface Renewal {
  /** ISO day on which the new part went in. */
  fittedOn: string
  /** Its rated values; those of the part before where it came with none. */
  rated: WearStage['rated']
  /** How the old part was found; null where nobody looked. */
  found: FoundGrade | null
  /** Read after the new part went in. */
  readings: readonly WearReading[]
}

/**
 * The input of a forecast once a new part is in: the old part's time becomes a past one and teaches the site factor; its readings,
 * washes and the dirt it got go with it. What is known of the place (use, occupancy, limits, school) stays.
 */
export function renewed(input: WearInput, { fittedOn, rated, found, readings }: Renewal): WearInput {
  const { carryOver: _, washedOn: __, ageUnknown: ___, ...stage } = input.stage
  const counted = input.readings.findLast(({ counterL }) => counterL !== undefined)
  const litres = counted && counted.on >= addDays(fittedOn, -LOOKED_AT_WITHIN_DAYS) ? counted.counterL : undefined
  const over =
    found !== null && stage.fittedOn < fittedOn
      ? [{ fittedOn: stage.fittedOn, removedOn: fittedOn, found, ...(litres === undefined || litres === 0 ? {} : { litres }) }]
      : []
  return {
    ...input,
    today: fittedOn,
    stage: { ...stage, fittedOn, rated: Object.keys(rated).length > 0 ? rated : stage.rated },
    readings,
    past: [...input.past, ...over],
  }
}
