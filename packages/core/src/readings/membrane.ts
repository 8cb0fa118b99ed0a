import { atLeast, atMost } from '../units'
import { say } from '../words'
import { USUAL_MEMBRANE } from './limits'

export type MembraneSchool =
  | { kind: 'fixed-floor'; watchPassage?: number; replacePassage?: number }
  | { kind: 'own-baseline'; baselinePassage: number; watchRatio?: number; replaceRatio?: number }

export interface MembraneInput {
  /** Untreated water, mg/L, ≥ 0. */
  feedTdsMgL: number
  /** Permeate, sampled before any mineral stage, mg/L, ≥ 0. */
  productTdsMgL: number
  school: MembraneSchool
}

export type MembraneVerdict = 'good' | 'watch' | 'replace' | 'suspect'
export interface MembraneResult {
  /** Treated over untreated; null when the feed reads 0. */
  passage: number | null
  /** 1 − passage; null when the feed reads 0. */
  rejection: number | null
  verdict: MembraneVerdict
  why: string
}

/** A feed under this, or a product this near the feed, says more about meter and tubes than about the membrane. */
const SUSPECT = { feedUnderMgL: 20, productShareOfFeed: 0.9 } as const

const percent = (share: number): string => `${Math.round(share * 1000) / 10} %`

function limitsOf(school: MembraneSchool): { watch: number; replace: number; words: string } {
  if (school.kind === 'fixed-floor') {
    const { watchPassage: watch = USUAL_MEMBRANE.watchPassage, replacePassage: replace = USUAL_MEMBRANE.replacePassage } = school
    return { watch, replace, words: say`good to ${percent(watch)}, replace above ${percent(replace)}` }
  }
  const { baselinePassage, watchRatio = USUAL_MEMBRANE.watchRatio, replaceRatio = USUAL_MEMBRANE.replaceRatio } = school
  const watch = baselinePassage * watchRatio
  const replace = baselinePassage * replaceRatio
  const words = say`when new ${percent(baselinePassage)}: good to ${percent(watch)}, replace above ${percent(replace)}`
  return { watch, replace, words }
}

function suspicion(feed: number, product: number): string | null {
  const shown = say`treated ${Math.round(product)} of untreated ${Math.round(feed)} mg/L`
  if (feed < SUSPECT.feedUnderMgL) {
    return say`The untreated water reads under ${SUSPECT.feedUnderMgL} mg/L (${shown}): check the reading, the tubes and the meter first.`
  }
  if (atLeast(product, SUSPECT.productShareOfFeed * feed)) {
    return say`Treated reads almost as untreated (${shown}): check the reading, the tubes and the meter before spending on a membrane.`
  }
  return null
}

/**
 * Judges a membrane by its passage (treated / untreated, unrounded), by a fixed floor or by its own first readings.
 *
 * At or below the watch limit is good, above the replace limit is replace; `suspect` comes before every other verdict.
 * A feed of 0 gives passage and rejection null.
 */
export function membrane(input: MembraneInput): MembraneResult {
  const { feedTdsMgL, productTdsMgL, school } = input
  const passage = feedTdsMgL > 0 ? productTdsMgL / feedTdsMgL : null
  const rejection = passage === null ? null : 1 - passage
  const doubt = suspicion(feedTdsMgL, productTdsMgL)
  if (doubt !== null || passage === null) return { passage, rejection, verdict: 'suspect', why: doubt ?? '' }
  const { watch, replace, words } = limitsOf(school)
  const verdict = atMost(passage, watch) ? 'good' : atMost(passage, replace) ? 'watch' : 'replace'
  return { passage, rejection, verdict, why: say`It lets through ${percent(passage)} (${words}).` }
}

/** By which passage a firm judges its membranes. */
export type MembraneBy = MembraneSchool['kind']
export interface MembraneJudged {
  result: MembraneResult
  /** By what it was judged: a membrane whose first readings nobody knows by the fixed floor, whatever the firm's school. */
  by: MembraneBy
  limits: { watch: number; replace: number; baseline: number | null }
  /** Passage over its own first one; null where one of the two is not known. */
  ofBaseline: number | null
}

/** Judges a membrane by a firm's school, with the membrane's own first passage (`baseline`, a share; null where nobody knows it). */
export function membraneBy(by: MembraneBy, baseline: number | null, reading: Omit<MembraneInput, 'school'>): MembraneJudged {
  const school: MembraneSchool =
    by === 'own-baseline' && baseline !== null ? { kind: 'own-baseline', baselinePassage: baseline } : { kind: 'fixed-floor' }
  const result = membrane({ ...reading, school })
  const { watch, replace } = limitsOf(school)
  const ofBaseline = baseline === null || result.passage === null ? null : result.passage / baseline
  return { result, by: school.kind, limits: { watch, replace, baseline }, ofBaseline }
}
