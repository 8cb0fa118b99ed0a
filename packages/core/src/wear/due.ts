import { addMonths, daysBetween, fromEpochDay, toEpochDay } from '../units'
import { allCauses, basisOf, pastLimit } from './causes'
import { acceptedByLabel, ageOn, isSafeguard, labelAge } from './label'
import { overBy } from './over'
import type { Cause, WearInput } from './types'

type Care = 'careful' | 'as-label' | 'sparing'

/** The day to change, as a firm says it: what was promised, what the label says, or what the evidence says. */
export type DueRule =
  | { by: 'contract'; months: number; anchor?: string; care?: Care }
  | { by: 'label'; care?: Care }
  | { by: 'evidence'; care?: Care; beyondLabel?: boolean }

type DueState = 'spent' | 'overdue' | 'any-day' | 'good'

export interface Due {
  /** ISO days; windowFrom ≤ due ≤ windowTo. Each may lie before today. */
  due: string
  windowFrom: string
  windowTo: string
  /** Day on which the first of the rated values is used up as printed; null when nothing is rated. */
  labelDay: string | null
  /** Chance of being over by `due`. */
  risk: number
  /** The chance that is accepted: the label's own, by care. */
  accepted: number
  /** Chance of being over by today. */
  ended: number
  state: DueState
  advice: null | 'shorten' | 'lengthen'
  /** The reason of the day, in words. */
  why: string
}

/** Accepted chance by care, from the label's own. */
function acceptedWith(care: Care, label: number): number {
  if (care === 'careful') return label * 0.5
  return care === 'sparing' ? 1 - 0.6 * (1 - label) : label
}

/** As likely over as not. */
const EVEN = 0.5
/** A window is no shorter than this, so that a round can be planned. */
const LEAST_WINDOW_DAYS = 14
const TENTH = 0.1
const EARLY_SHARE = 0.6
const LATE_SHARE = 1.3
const LATE_AT_MOST = 0.95
const LONGEST_DAYS = 73_050

/** First age in whole days at which the rising chance reaches `p`; the longest one where it never does. */
function firstAge(over: (age: number) => number, p: number): number {
  if (over(0) >= p) return 0
  let low = 0
  let high = 1
  while (high < LONGEST_DAYS && over(high) < p) {
    low = high
    high = Math.min(high * 2, LONGEST_DAYS)
  }
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (over(middle) >= p) high = middle
    else low = middle
  }
  return high
}

/** The contract's day and the length of its interval in days. */
function contractDay(fittedOn: string, months: number, anchor: string | undefined): { day: string; interval: number } {
  if (anchor === undefined) {
    const day = addMonths(fittedOn, months)
    return { day, interval: daysBetween(fittedOn, day) }
  }
  // Whole intervals from the anchor, so that the day of the year does not drift; a change long before or after it counts for the next.
  const guess = Math.floor(daysBetween(anchor, fittedOn) / (months * 30.44)) - 1
  for (let k = guess; ; k++) {
    const day = addMonths(anchor, k * months)
    const interval = daysBetween(addMonths(anchor, (k - 1) * months), day)
    if (daysBetween(fittedOn, day) > interval / 2) return { day, interval }
  }
}

interface Planned {
  age: number
  /** Days a window to either side is a tenth of. */
  interval: number
  why: string
}

/** Months in words: `1 month`, `6 months`, `a year`, `2 years`. */
const monthsText = (months: number): string => {
  if (months % 12 !== 0) return months === 1 ? '1 month' : `${months} months`
  return months === 12 ? '1 year' : `${months / 12} years`
}

const percent = (share: number): string => `${Math.round(100 * share)} in 100`

/** States a screen shows; the day's own chance and readings before the calendar. */
function stateOf(
  {
    ended,
    accepted,
    measuredOver,
    due,
    windowFrom,
  }: { ended: number; accepted: number; measuredOver: boolean; due: string; windowFrom: string },
  today: string,
): DueState {
  if (measuredOver || ended >= Math.max(EVEN, accepted)) return 'spent'
  if (due < today) return 'overdue'
  return windowFrom <= today ? 'any-day' : 'good'
}

/**
 * The day to change by a rule, its window and why.
 * contract: fitted + months, or the next of the contract's own days; label: the first rated value used up; evidence: the first day on which
 * the part is as likely over as accepted, never after the label's unless `beyondLabel`. Under contract and label a part that its own
 * readings show to be over is due when that became as likely as not. A lamp and its sleeve never pass their label.
 * Null when nothing is rated. Throws `RangeError` when `today` is before `fittedOn`.
 */
export function dueOf(input: WearInput, rule: DueRule): Due | null {
  const { fittedOn, media } = input.stage
  if (input.today < fittedOn) throw new RangeError(`today must not be before fittedOn ${fittedOn}, got ${input.today}`)
  const over = overBy(input)
  if (over === null) return null
  const basis = basisOf(input)
  const measured: Cause[] = pastLimit(allCauses(basis))
  const safeguard = isSafeguard(media)
  const label = acceptedByLabel(input)
  const care = safeguard && rule.care === 'sparing' ? 'as-label' : (rule.care ?? 'as-label')
  const accepted = acceptedWith(care, label)
  const labelled = labelAge(basis)
  const beyond = rule.by === 'evidence' && rule.beyondLabel === true && !safeguard
  const cap = labelled === null || beyond ? LONGEST_DAYS : labelled
  const ended = over(Math.max(1, ageOn(fittedOn, input.today)))
  const evidenceAge = firstAge(over, accepted)
  const planned = plannedBy(rule, { fittedOn, labelled, evidenceAge, cap, accepted, safeguard })
  const shown = rule.by === 'evidence' ? null : shownOver(input, over, ended, planned.age)
  const age = shown ?? planned.age
  const day = (after: number): string => fromEpochDay(toEpochDay(fittedOn) + Math.max(0, after))
  const due = day(age)
  const endCap = safeguard && labelled !== null ? Math.max(labelled, age) : LONGEST_DAYS
  let from = Math.max(0, age - Math.round(planned.interval * TENTH))
  let to = Math.min(endCap, age + Math.round(planned.interval * TENTH))
  if (rule.by === 'evidence') {
    from = Math.min(age, firstAge(over, EARLY_SHARE * accepted))
    to = Math.max(age, Math.min(cap, firstAge(over, Math.min(LATE_AT_MOST, LATE_SHARE * accepted))))
  }
  const state = stateOf({ ended, accepted, measuredOver: measured.length > 0, due, windowFrom: day(from) }, input.today)
  if (state !== 'spent' && state !== 'overdue' && to - from < LEAST_WINDOW_DAYS) {
    // Earlier rather than later: the later side may be the label's.
    from = Math.max(0, to - LEAST_WINDOW_DAYS)
    to = Math.max(to, from + LEAST_WINDOW_DAYS)
  }
  const windowFrom = day(from)
  return {
    due,
    windowFrom,
    windowTo: day(to),
    labelDay: labelled === null ? null : day(labelled),
    risk: over(age),
    accepted,
    ended,
    state: stateOf({ ended, accepted, measuredOver: measured.length > 0, due, windowFrom }, input.today),
    advice: rule.by === 'contract' ? adviceOn(over, planned, accepted, evidenceAge) : null,
    why: shown === null ? planned.why : `its own readings say that it is over (${percent(ended)}), before ${planned.why}`,
  }
}

interface Given {
  fittedOn: string
  labelled: number | null
  evidenceAge: number
  cap: number
  accepted: number
  safeguard: boolean
}

function plannedBy(rule: DueRule, { fittedOn, labelled, evidenceAge, cap, accepted, safeguard }: Given): Planned {
  if (rule.by === 'contract') {
    const { day, interval } = contractDay(fittedOn, rule.months, rule.anchor)
    const age = ageOn(fittedOn, day)
    if (safeguard && labelled !== null && labelled < age)
      return { age: labelled, interval, why: 'the label, which comes before the contract' }
    return { age, interval, why: `contract of ${monthsText(rule.months)}` }
  }
  if (rule.by === 'label' && labelled !== null) return { age: labelled, interval: labelled, why: 'the label' }
  if (evidenceAge > cap) return { age: cap, interval: cap, why: 'the label, before which the evidence asks for nothing' }
  return { age: evidenceAge, interval: evidenceAge, why: `as likely over as the label accepts (${percent(accepted)})` }
}

/** The age at which the part became as likely over as not, where it is its readings that say so and that is before the planned one. */
function shownOver(input: WearInput, over: (age: number) => number, ended: number, plannedAge: number): number | null {
  if (ended < EVEN || input.readings.length === 0) return null
  const without = overBy({ ...input, readings: [] })
  const age = Math.max(1, ageOn(input.stage.fittedOn, input.today))
  if (without === null || without(age) >= ended) return null
  const even = firstAge(over, EVEN)
  return even < plannedAge ? even : null
}

/** What the belief says to a contract: spent well before its day, or far from done on it. */
function adviceOn(over: (age: number) => number, { age, interval }: Planned, accepted: number, evidenceAge: number): Due['advice'] {
  if (over(age) > Math.min(0.9, 1.5 * accepted)) return 'shorten'
  return evidenceAge - age > interval / 4 ? 'lengthen' : null
}
