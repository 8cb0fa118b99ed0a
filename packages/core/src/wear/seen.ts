import { toEpochDay } from '../units'
import { STAGE_VALUES, type WearInput, type WearReading } from './types'

/** A reading that speaks of this part. */
export interface Seen {
  reading: WearReading
  /** Its place in the input, by which a doubt names it. */
  index: number
  /** Days after fitting. */
  day: number
}

const FIELDS = ['counterL', 'feedTdsMgL', 'productTdsMgL', ...STAGE_VALUES] as const satisfies readonly (keyof WearReading)[]

function same(a: WearReading, b: WearReading): boolean {
  for (const field of FIELDS) if (a[field] !== b[field]) return false
  return true
}

/**
 * The readings from fitting to today in order of their days, each once: a reading from before the fitting speaks of another part, one
 * dated after today of nothing, and an exact duplicate says nothing more.
 */
export function seenReadings({ today, stage, readings }: WearInput): Seen[] {
  const fitted = toEpochDay(stage.fittedOn)
  const seen: Seen[] = []
  readings.forEach((reading, index) => {
    if (reading.on >= stage.fittedOn && reading.on <= today) seen.push({ reading, index, day: toEpochDay(reading.on) - fitted })
  })
  seen.sort((a, b) => a.day - b.day || a.index - b.index)
  return seen.filter(({ reading, day }, i) => {
    for (let j = i - 1; j >= 0 && (seen[j] as Seen).day === day; j--) if (same((seen[j] as Seen).reading, reading)) return false
    return true
  })
}
