import { addMonths, daysBetween, fromEpochDay, toEpochDay } from '../units'
import { many, say } from '../words'
import { pastLimit } from './causes'
import { acceptedByLabel, isSafeguard, type LabelEnd, labelEnd, type RatedBy } from './label'
import { daysServed, type Model, modelOf } from './model'
import { AS_LIKELY_AS_NOT, LONGEST_LIFE_DAYS } from './priors'
import { failureProbabilityAtAge, survivalCurveOf } from './survival-curve'
import type { Cause, WearInput } from './types'

export const DUE_BASES = ['contract', 'label', 'evidence'] as const
export const CARES = ['careful', 'as-label', 'sparing'] as const
type Care = (typeof CARES)[number]

/** The day to change, as a firm says it: what was promised, what the label says, or what the evidence says. */
export type DueRule =
  | { by: 'contract'; months: number; anchor?: string; care?: Care }
  | { by: 'label'; care?: Care }
  | { by: 'evidence'; care?: Care; beyondLabel?: boolean }

/** A rule as a firm keeps it: what does not belong to its kind is null or false. */
export interface KeptRule {
  by: (typeof DUE_BASES)[number]
  months: number | null
  /** A day the contract counts from, so that a month of the year stays one. */
  anchor: string | null
  care: Care
  beyondLabel: boolean
}

/** What holds where a firm says nothing. */
export const USUAL_RULE: KeptRule = { by: 'evidence', months: null, anchor: null, care: 'as-label', beyondLabel: false }

/** A kept rule as `dueOf` takes it; a contract without months is none, and the evidence stands in. */
export function ruleOf({ by, months, anchor, care, beyondLabel }: KeptRule): DueRule {
  if (by === 'contract' && months !== null) return { by, months, care, ...(anchor === null ? {} : { anchor }) }
  return by === 'label' ? { by, care } : { by: 'evidence', care, beyondLabel }
}

export type DueState = 'spent' | 'overdue' | 'any-day' | 'good'

export interface Due {
  /** ISO days; windowFrom ≤ due ≤ windowTo. Each may lie before today. */
  due: string
  windowFrom: string
  windowTo: string
  /** Day on which the first of the rated values is used up as printed, and which one; null when nothing is rated. */
  labelDay: string | null
  labelBy: RatedBy | null
  /** How much of it the label says. */
  labelAmount: number | null
  /** Chance of being over by `due`. */
  risk: number
  /** The chance that is accepted: the label's own, by care. */
  accepted: number
  /** Chance of being over by today. */
  ended: number
  state: DueState
  advice: null | 'shorten' | 'lengthen'
  /** What set the day: the rule, the label that caps it, or the part's own readings. */
  setBy: 'contract' | 'label' | 'evidence' | 'readings'
  /** The reason of the day, in words. */
  why: string
  /** The last reading of a measure that lies past its limit, not doubted; null where none does. */
  pastLimit: { cause: Cause; on: string } | null
  /** Day from which it is spent, if nothing more is learned. */
  spentOn: string
  /** Day on which its own readings will make it due before its rule does; null where they never will, or did already. */
  turnsOn: string | null
}

/** Chance of being over by an age in days after fitting, rising. */
type Over = (age: number) => number

/** Accepted chance by care, from the label's own. */
function acceptedWith(care: Care, label: number): number {
  if (care === 'careful') return label * 0.5
  return care === 'sparing' ? 1 - 0.6 * (1 - label) : label
}

/** A window is no shorter than this, so that a round can be planned. */
const LEAST_WINDOW_DAYS = 14
const TENTH = 0.1
const EARLY_SHARE = 0.6
const LATE_SHARE = 1.3
const LATE_AT_MOST = 0.95

/** First age in whole days at which the rising chance reaches `p`; the longest one where it never does. */
function firstAge(over: Over, p: number): number {
  if (over(0) >= p) return 0
  let low = 0
  let high = 1
  while (high < LONGEST_LIFE_DAYS && over(high) < p) {
    low = high
    high = Math.min(high * 2, LONGEST_LIFE_DAYS)
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
  setBy: Due['setBy']
  why: string
}

/** Months in words: `1 month`, `6 months`, `a year`, `2 years`. */
const monthsText = (months: number): string => {
  if (months % 12 !== 0) return many(months, 'month', 'months')
  return months === 12 ? say`1 year` : say`${months / 12} years`
}

const percent = (share: number): string => say`${Math.round(100 * share)} in 100`

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
  const model = modelOf(input)
  if (model === null) return null
  const over = overBy(input, model)
  const safeguard = isSafeguard(media)
  const care = safeguard && rule.care === 'sparing' ? 'as-label' : (rule.care ?? 'as-label')
  const accepted = acceptedWith(care, acceptedByLabel(input))
  const label = labelEnd(model.basis)
  const beyond = rule.by === 'evidence' && rule.beyondLabel === true && !safeguard
  const cap = label === null || beyond ? LONGEST_LIFE_DAYS : label.age
  const today = daysServed(fittedOn, input.today)
  const ended = over(today)
  const evidenceAge = firstAge(over, accepted)
  const planned = plannedBy(rule, { fittedOn, label, evidenceAge, cap, accepted, safeguard })
  const shown = rule.by === 'evidence' ? null : shownAge(input, over, planned.age)
  const turned = shown !== null && ended >= AS_LIKELY_AS_NOT
  const age = turned ? shown : planned.age
  const day = (after: number): string => fromEpochDay(toEpochDay(fittedOn) + Math.max(0, after))
  const due = day(age)
  const past = pastLimit(model.every)
  const spentAge = Math.min(firstAge(over, Math.max(AS_LIKELY_AS_NOT, accepted)), past?.day ?? LONGEST_LIFE_DAYS)
  const spent = past !== null || ended >= Math.max(AS_LIKELY_AS_NOT, accepted)
  const passed = spent ? 'spent' : due < input.today ? 'overdue' : null
  const around = rule.by === 'evidence' ? evidenceWindow(over, age, accepted, cap) : tenthAround(age, planned.interval)
  if (safeguard && label !== null && rule.by !== 'evidence') around.to = Math.min(around.to, Math.max(label.age, age))
  const { from, to } = passed === null ? atLeastAFortnight(around) : around
  return {
    due,
    windowFrom: day(from),
    windowTo: day(to),
    labelDay: label === null ? null : day(label.age),
    labelBy: label?.by ?? null,
    labelAmount: label === null ? null : (input.stage.rated[label.by] ?? null),
    risk: over(age),
    accepted,
    ended,
    state: passed ?? (day(from) <= input.today ? 'any-day' : 'good'),
    advice: rule.by === 'contract' ? adviceOn(over, planned, accepted, evidenceAge) : null,
    setBy: turned ? 'readings' : planned.setBy,
    why: turned ? say`its own readings say that it is over (${percent(ended)}), before ${planned.why}` : planned.why,
    pastLimit: past === null ? null : { cause: past.cause, on: day(past.day) },
    spentOn: spent ? day(Math.min(spentAge, today)) : day(spentAge),
    turnsOn: shown === null || turned ? null : day(shown),
  }
}

/** The chance that the part is over by an age in days; of one whose age nobody knows by every age it may have. */
function overBy(input: WearInput, { survival }: Model): Over {
  const curve = input.stage.ageUnknown === true ? survivalCurveOf(input) : null
  return curve === null ? (age) => survival.overBy(age) : (age) => failureProbabilityAtAge(curve, age)
}

/** Ages in days, `from` ≤ the planned age ≤ `to`. */
interface Ages {
  from: number
  to: number
}

function tenthAround(age: number, interval: number): Ages {
  const tenth = Math.round(interval * TENTH)
  return { from: Math.max(0, age - tenth), to: age + tenth }
}

const evidenceWindow = (over: Over, age: number, accepted: number, cap: number): Ages => ({
  from: Math.min(age, firstAge(over, EARLY_SHARE * accepted)),
  to: Math.max(age, Math.min(cap, firstAge(over, Math.min(LATE_AT_MOST, LATE_SHARE * accepted)))),
})

/** Widened to the earlier side, since the later one may be the label's. */
function atLeastAFortnight({ from, to }: Ages): Ages {
  if (to - from >= LEAST_WINDOW_DAYS) return { from, to }
  const earlier = Math.max(0, to - LEAST_WINDOW_DAYS)
  return { from: earlier, to: Math.max(to, earlier + LEAST_WINDOW_DAYS) }
}

interface Given {
  fittedOn: string
  label: LabelEnd | null
  evidenceAge: number
  cap: number
  accepted: number
  safeguard: boolean
}

function plannedBy(rule: DueRule, { fittedOn, label, evidenceAge, cap, accepted, safeguard }: Given): Planned {
  if (rule.by === 'contract') {
    const { day, interval } = contractDay(fittedOn, rule.months, rule.anchor)
    const age = daysBetween(fittedOn, day)
    if (safeguard && label !== null && label.age < age)
      return { age: label.age, interval, setBy: 'label', why: say`the label, which comes before the contract` }
    return { age, interval, setBy: 'contract', why: say`contract of ${monthsText(rule.months)}` }
  }
  if (rule.by === 'label' && label !== null) return { age: label.age, interval: label.age, setBy: 'label', why: say`the label` }
  if (evidenceAge > cap) return { age: cap, interval: cap, setBy: 'label', why: say`the label, before which the evidence asks for nothing` }
  return {
    age: evidenceAge,
    interval: evidenceAge,
    setBy: 'evidence',
    why: say`as likely over as the label accepts (${percent(accepted)})`,
  }
}

/** The age at which the part becomes as likely over as not, where it is its readings that say so and that is before the planned one. */
function shownAge(input: WearInput, over: Over, plannedAge: number): number | null {
  if (input.readings.length === 0) return null
  const even = firstAge(over, AS_LIKELY_AS_NOT)
  if (even >= plannedAge) return null
  const blind = { ...input, readings: [] }
  const model = modelOf(blind)
  return model === null || overBy(blind, model)(even) >= over(even) ? null : even
}

/** What the survival curve says to a contract: spent well before its day, or far from done on it. */
function adviceOn(over: Over, { age, interval }: Planned, accepted: number, evidenceAge: number): Due['advice'] {
  if (over(age) > Math.min(0.9, 1.5 * accepted)) return 'shorten'
  return evidenceAge - age > interval / 4 ? 'lengthen' : null
}
