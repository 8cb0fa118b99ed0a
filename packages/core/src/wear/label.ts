import type { Medium } from '../catalogue/names'
import { type Basis, feedOf } from './causes'
import { dayOf, steadyExposure } from './exposure'
import { modelOf } from './model'
import { LONGEST_LIFE_DAYS, PRIORS } from './priors'
import type { WearInput } from './types'

/** A rated value is reached on the day on which it is full; sums of days are exact to a minute. */
const ROUNDING = 1e-6

/**
 * Days after fitting on which the first of the part's rated values is used up as they are printed, without any factor: litres as counted,
 * then at the believed rate and occupancy. Null when nothing is rated.
 */
export function labelAge({ input, seen, usage, lamp }: Basis): number | null {
  const { days, litres, milliequivalents, hours } = input.stage.rated
  const { mgL } = feedOf(seen)
  const ages: number[] = []
  const used = (amount: number, perUsualDay: number): void => {
    if (perUsualDay > 0) ages.push(dayOf(usage.usual, amount / perUsualDay))
  }
  if (days !== undefined) ages.push(days)
  if (litres !== undefined) used(litres, usage.litresPerDay)
  if (milliequivalents !== undefined) used(milliequivalents, (usage.litresPerDay * mgL) / 50)
  if (hours !== undefined) ages.push(dayOf(lamp?.exposure ?? steadyExposure(PRIORS.lampHoursPerDay), hours))
  const rated = [days, litres, milliequivalents, hours].some((value) => value !== undefined)
  return rated ? Math.floor(Math.min(...ages, LONGEST_LIFE_DAYS) + ROUNDING) : null
}

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
  const age = model === null ? null : labelAge(model.basis)
  const accepted = model === null || age === null ? NOTHING_RATED : model.alive.overBy(age)
  if (known.size >= KNOWN_AT_MOST) known.clear()
  known.set(key, accepted)
  return accepted
}

/** What stands between people and germs. */
const SAFEGUARDS: readonly Medium[] = ['uv-lamp', 'uv-sleeve']
export const isSafeguard = (media: Medium): boolean => SAFEGUARDS.includes(media)
