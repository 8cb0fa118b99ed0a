import { allCauses, basisOf } from './causes'
import { posteriorOf } from './posterior'
import { PRIORS } from './priors'
import type { Spread, WearInput } from './types'

const USUAL: Spread = { siteCv: PRIORS.siteCv, unitCv: PRIORS.unitCv, usageCv: PRIORS.usageCv }
/** Multiples of the prior's spread that are tried. */
const MULTIPLES = [0.35, 0.42, 0.5, 0.6, 0.7, 0.84, 1, 1.2, 1.4, 1.7, 2, 2.4, 2.8] as const
/** How far a firm's spread is from ours before its own past speaks: a factor of 1.65 either way. */
const LOG_MULTIPLE_SD = 0.5
const ROUNDS = 3
const NAMES = ['unitCv', 'siteCv', 'usageCv'] as const

/** ln of the chance of everything seen at a stage (grades, readings, counters) under a spread. */
export function logEvidence(input: WearInput, spread: Spread): number {
  const basis = basisOf({ ...input, spread })
  const every = allCauses(basis)
  if (every.length === 0) return 0
  const posterior = posteriorOf(basis, every, every)
  return posterior.logEvidence
}

const speaks = (input: WearInput): boolean => input.past.length > 0 || input.readings.length > 1

/**
 * How much this firm's sites, parts and households really differ, from its own past: the spread that makes all it has seen
 * most likely, with a prior that holds it near ours while little was seen (empirical Bayes, one coefficient at a time).
 * `progress` is told the share done and may stop the work by answering false; then the best so far is given.
 */
export function learnSpread(inputs: readonly WearInput[], progress: (share: number) => boolean = () => true): Spread {
  const telling = inputs.filter(speaks)
  let best = { ...USUAL }
  if (telling.length === 0) return best
  const score = (spread: Spread): number => {
    let sum = 0
    for (const input of telling) sum += logEvidence(input, spread)
    for (const name of NAMES) sum -= 0.5 * (Math.log(spread[name] / USUAL[name]) / LOG_MULTIPLE_SD) ** 2
    return sum
  }
  let bestScore = score(best)
  for (let round = 0; round < ROUNDS; round++) {
    const before = bestScore
    for (const [index, name] of NAMES.entries()) {
      for (const multiple of MULTIPLES) {
        const tried = { ...best, [name]: USUAL[name] * multiple }
        if (tried[name] === best[name]) continue
        const one = score(tried)
        if (one > bestScore) {
          best = tried
          bestScore = one
        }
      }
      if (!progress((round * NAMES.length + index + 1) / (ROUNDS * NAMES.length))) return best
    }
    if (bestScore - before < 0.01) break
  }
  return best
}
