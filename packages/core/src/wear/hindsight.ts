import { daysBetween } from '../units'
import { type DueRule, dueOf } from './due'
import { failureProbabilityAtAge, type SurvivalCurve, survivalCurveOf } from './survival-curve'
import type { WearInput } from './types'

/** One part's time in service. */
export interface Served {
  /** As it was known on the day it came out, or is known today while it is in. */
  input: WearInput
  /** With all that is known since: what was found in it, and in the parts after it. */
  hindsight: WearInput
  /** The day it came out; null while it is in. */
  removedOn: string | null
}

export interface Spent {
  /** Parts used. */
  parts: number
  /** Days run past the end as expected with today's knowledge, and one standard deviation of that: true ends are not known. */
  lateDays: number
  lateSpread: number
}

export interface HindsightAsk {
  served: readonly Served[]
  rules: readonly DueRule[]
  /** The stretch that is looked at, ISO days. */
  from: string
  to: string
}

export interface Hindsight {
  /** What was done. */
  done: Spent
  /** What each rule would have meant, in the order of the rules. */
  rules: Spent[]
}

/** Looks at the risk between a fitting and a change: enough for a smooth curve. */
const LOOKS = 32

/** Days past the end until `age`, mean and variance, by the chance of being over: ∫F, and 2∫(age − t)F less the mean squared. */
function pastEnd(curve: SurvivalCurve, age: number): { mean: number; variance: number } {
  const step = age / LOOKS
  let mean = 0
  let square = 0
  for (let look = 0; look < LOOKS; look++) {
    const at = (look + 0.5) * step
    const over = failureProbabilityAtAge(curve, at)
    mean += over * step
    square += 2 * (age - at) * over * step
  }
  return { mean, variance: Math.max(0, square - mean ** 2) }
}

const total = (all: readonly { parts: number; mean: number; variance: number }[]): Spent => ({
  parts: all.reduce((sum, { parts }) => sum + parts, 0),
  lateDays: all.reduce((sum, { parts, mean }) => sum + parts * mean, 0),
  lateSpread: Math.sqrt(all.reduce((sum, { parts, variance }) => sum + parts * variance, 0)),
})

/**
 * What was done in a stretch of the past, and what each rule would have meant in it: every stage is changed again and again by the rule,
 * as that was known of each part; days past the end are expected from what is known today. Stages that nothing rates are left out.
 */
export function hindsightOf({ served, rules, from, to }: HindsightAsk): Hindsight {
  const times = served.flatMap(({ input, hindsight, removedOn }) => {
    const curve = survivalCurveOf(hindsight)
    if (curve === null) return []
    const { fittedOn } = input.stage
    const [begin, end] = [fittedOn < from ? from : fittedOn, removedOn === null || removedOn > to ? to : removedOn]
    const days = daysBetween(begin, end)
    return days <= 0 ? [] : [{ input, curve, days, begin, end, removedOn, fittedOn }]
  })
  const done = times.map(({ curve, removedOn, fittedOn, begin, end }) => {
    const until = (day: string) => pastEnd(curve, daysBetween(fittedOn, day))
    const { mean, variance } = until(end)
    // What ran past the end before the stretch began is not of it.
    return { changed: removedOn !== null && removedOn <= to, mean: mean - until(begin).mean, variance }
  })
  // Part by part, so that each is weighed once for all the rules.
  const byPart = times.map(({ input, curve, days }) =>
    rules.map((rule) => {
      const due = dueOf(input, rule)
      if (due === null) return []
      const age = Math.max(1, daysBetween(input.stage.fittedOn, due.due))
      return [{ parts: days / age, ...pastEnd(curve, age) }]
    }),
  )
  return {
    done: {
      parts: done.filter(({ changed }) => changed).length,
      lateDays: done.reduce((sum, { mean }) => sum + mean, 0),
      lateSpread: Math.sqrt(done.reduce((sum, { variance }) => sum + variance, 0)),
    },
    rules: rules.map((_, which) => total(byPart.flatMap((byRule) => byRule[which] ?? []))),
  }
}
