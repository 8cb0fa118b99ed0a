import type { Medium } from '../catalogue/names'
import { type Basis, feedOf } from './causes'
import { dayOf, steadyExposure } from './exposure'
import { modelOf } from './model'
import { LONGEST_LIFE_DAYS, PRIORS } from './priors'
import type { WearInput, WearStage } from './types'

/** A rated value is reached on the day on which it is full; sums of days are exact to a minute. */
const ROUNDING = 1e-6

/** What a part is rated by. */
export type RatedBy = keyof WearStage['rated']

/** When its label says that a part is over: whole days after fitting, and which of its rated values is used up by then. */
export interface LabelEnd {
  age: number
  by: RatedBy
}

/**
 * When the first of the part's rated values is used up as they are printed, without any factor: litres as counted, then at the believed
 * rate and occupancy. Null when nothing is rated.
 */
export function labelEnd({ input, seen, usage, lamp }: Basis): LabelEnd | null {
  const { days, litres, milliequivalents, hours } = input.stage.rated
  const { mgL } = feedOf(seen)
  let first: LabelEnd | null = null
  const ends = (by: RatedBy, age: number): void => {
    if (first === null || age < first.age) first = { by, age: Math.min(age, LONGEST_LIFE_DAYS) }
  }
  const used = (by: RatedBy, amount: number, perUsualDay: number): void =>
    ends(by, perUsualDay > 0 ? dayOf(usage.usual, amount / perUsualDay) : LONGEST_LIFE_DAYS)
  if (days !== undefined) ends('days', days)
  if (litres !== undefined) used('litres', litres, usage.litresPerDay)
  if (milliequivalents !== undefined) used('milliequivalents', milliequivalents, (usage.litresPerDay * mgL) / 50)
  if (hours !== undefined) ends('hours', dayOf(lamp?.exposure ?? steadyExposure(PRIORS.lampHoursPerDay), hours))
  return whole(first)
}

const whole = (end: LabelEnd | null): LabelEnd | null => (end === null ? null : { ...end, age: Math.floor(end.age + ROUNDING) })

const known = new Map<string, number>()
const KNOWN_AT_MOST = 2000
const NOTHING_RATED = 0.5

/**
 * The chance of being over that the label itself accepts: of the same part on its label's day at the household it was written for (three
 * people on the mains with 1 mg/L of chlorine, nothing measured, nothing found); 0.5 where nothing is rated.
 */
export function acceptedByLabel(input: WearInput): number {
  const { media, fittedOn, rated, limits } = input.stage
  const key = JSON.stringify([media, rated, limits, input.school, input.spread])
  const before = known.get(key)
  if (before !== undefined) return before
  const reference: WearInput = {
    today: fittedOn,
    stage: {
      media,
      fittedOn,
      rated,
      site: { people: 3, source: 'municipal', chlorineMgL: 1 },
      ...(limits === undefined ? {} : { limits }),
    },
    readings: [],
    past: [],
    school: input.school,
    ...(input.spread === undefined ? {} : { spread: input.spread }),
  }
  const model = modelOf(reference)
  const end = model === null ? null : labelEnd(model.basis)
  const accepted = model === null || end === null ? NOTHING_RATED : model.survival.overBy(end.age)
  if (known.size >= KNOWN_AT_MOST) known.clear()
  known.set(key, accepted)
  return accepted
}

/** What stands between people and germs. */
const SAFEGUARDS: readonly Medium[] = ['uv-lamp', 'uv-sleeve', 'ultrafiltration', 'chlorine-feed']
export const isSafeguard = (media: Medium): boolean => SAFEGUARDS.includes(media)
