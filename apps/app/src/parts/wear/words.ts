import type { StageDto } from '@evenround/contract/site'
import type { StageDueDto } from '@evenround/contract/wear'
import { mediumName, monthsToDays } from '@evenround/core/catalogue'
import { daysBetween, type ShownUnits } from '@evenround/core/units'
import { AS_LIKELY_AS_NOT, type Cause } from '@evenround/core/wear'
import { many, numberText, say } from '@evenround/core/words'
import { daySpan, quantity, shortDay } from '../../ui/format'

const CAUSE_WORDS: Record<Cause, string> = {
  calendar: say`calendar`,
  throughput: say`litres`,
  pressure: say`pressure`,
  passage: say`passage`,
  production: say`production`,
  resin: say`resin`,
  breakthrough: say`chlorine after it`,
  lamp: say`lamp hours`,
  intensity: say`intensity`,
}

/** What governs, in a word: "pressure", "litres", or "gallons" where the firm counts in them. */
export const causeWord = (cause: Cause, units: ShownUnits): string =>
  cause === 'throughput' && units.volume === 'gal' ? say`gallons` : CAUSE_WORDS[cause]

export const stageName = (stage: Pick<StageDto, 'media'>): string => {
  const name = mediumName(stage.media)
  return name.charAt(0).toUpperCase() + name.slice(1)
}

/** What the sentences need of a stage; a list's row and a stage's own page have it too. */
export type WornStage = Pick<StageDto, 'media' | 'due'> & {
  forecast: Pick<NonNullable<StageDto['forecast']>, 'governing' | 'p10' | 'p50' | 'p90' | 'remaining'> | null
  part:
    | (Pick<NonNullable<StageDto['part']>, 'partNumber' | 'fittedOn' | 'dateKnown'> & { rated?: NonNullable<StageDto['part']>['rated'] })
    | null
}

/** What a person should see to now: it is over, or its day has passed. */
export const isLate = (due: StageDueDto | null): boolean => due !== null && (due.state === 'spent' || due.state === 'overdue')

/** A chance in whole hundredths, 1 to 99: never quite sure, since nobody looked inside. */
export const hundredths = (share: number): number => Math.min(99, Math.max(1, Math.round(100 * share)))

/** "95 in 100". */
const inHundred = (share: number): string => say`${hundredths(share)} in 100`

/** "1 month", "6 months", "1 year", "2 years". */
export function monthsText(months: number): string {
  if (months % 12 !== 0) return many(months, 'month', 'months')
  return months === 12 ? say`1 year` : say`${months / 12} years`
}

/** Days in months where they are whole ones, else as days. */
function daysText(days: number): string {
  const months = Math.round(days / monthsToDays(1))
  return months > 0 && Math.abs(days - monthsToDays(months)) <= 3 ? monthsText(months) : say`${Math.round(days)} days`
}

/** What the label allows: "6 months", "2,200 L", "9,000 h". */
function labelText({ labelBy, labelAmount }: StageDueDto, units: ShownUnits): string {
  if (labelBy === null || labelAmount === null) return say`its life`
  const amount = numberText(Math.round(labelAmount))
  return {
    days: daysText(labelAmount),
    litres: quantity(labelAmount, 'volume', units),
    hours: say`${amount} h`,
    milliequivalents: say`${amount} meq`,
  }[labelBy]
}

/** What set the day, in a word or two: "contract of 6 months", "label of 12 months", "litres". */
export function reasonText(due: StageDueDto, governing: Cause, units: ShownUnits): string {
  switch (due.setBy) {
    case 'contract':
      return say`contract of ${monthsText(due.rule.months ?? 0)}`
    case 'label':
      return say`label of ${labelText(due, units)}`
    case 'readings':
      return say`its own readings: ${causeWord(due.pastLimit?.cause ?? governing, units)}`
    case 'evidence':
      return causeWord(governing, units)
  }
}

/** "Spent, very likely (95 in 100)". */
export const spentText = ({ ended }: Pick<StageDueDto, 'ended'>): string =>
  `${ended >= 0.8 ? say`Spent, very likely` : say`Probably spent`} (${inHundred(ended)})`

/** Why it is spent: what was measured, what the label said, or how likely it became. */
function spentReason(due: StageDueDto, governing: Cause, today: string, units: ShownUnits): string {
  const { pastLimit, labelDay, spentOn } = due
  if (pastLimit) return say`${causeWord(pastLimit.cause, units)} past its limit on ${shortDay(pastLimit.on, today)}.`
  if (labelDay !== null && labelDay <= today) {
    const text = labelText(due, units)
    return say`${text} by the label ${text.startsWith('1 ') ? say`was` : say`were`} over on ${shortDay(labelDay, today)}.`
  }
  return say`${causeWord(governing, units)}, more likely over than not since ${shortDay(spentOn, today)}.`
}

function chanceText(ended: number): string {
  if (Math.round(100 * ended) === 50) return say`As likely spent as not (${inHundred(ended)}).`
  return ended < AS_LIKELY_AS_NOT
    ? say`Probably still good (${inHundred(ended)} that it is spent).`
    : say`More likely spent than not (${inHundred(ended)}).`
}

/** What a cause is known by, its ISO days as people write them. */
export const evidenceText = (evidence: string, today: string): string =>
  evidence.replace(/\b\d{4}-\d\d-\d\d\b/g, (day) => shortDay(day, today))

/** The day to change in a sentence: the number, the reason and the next act. */
export function dueWords(due: StageDueDto, governing: Cause, today: string, units: ShownUnits): string {
  const reason = reasonText(due, governing, units)
  switch (due.state) {
    case 'spent':
      return say`${spentText(due)}. Change it now: ${spentReason(due, governing, today, units)}`
    case 'overdue':
      return say`Overdue since ${shortDay(due.due, today)}: ${reason}. ${chanceText(due.ended)}`
    case 'any-day':
      return say`Change by ${shortDay(due.due, today)}; any day from now will do.`
    case 'good':
      return say`Change by ${shortDay(due.due, today)} (${daySpan(due.windowFrom, due.windowTo, due.due)}): ${reason}.`
  }
}

const isRated = ({ rated }: NonNullable<WornStage['part']>): boolean => Object.values(rated ?? {}).some((figure) => figure !== null)

/** What is to be done about a stage and when; what is not known is said. */
export function dueSentence({ part, forecast, due }: WornStage, today: string, units: ShownUnits): string {
  if (!part) return say`Nobody knows what is fitted.`
  // Fitted or written down a moment ago, or where there is no network.
  if (!forecast || !due) return isRated(part) ? say`Its day to change is still being worked out.` : say`Nothing rates its life.`
  return dueWords(due, forecast.governing, today, units)
}

/** The same where nothing beside it says which stage is meant. */
export const namedSentence = (stage: WornStage, today: string, units: ShownUnits): string =>
  `${stageName(stage)}: ${lowerFirst(dueSentence(stage, today, units))}`
const lowerFirst = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1)

/** "fitted 8 Apr, 231 days ago", or since when it is at least in where nobody knows. */
export function fittedText({ part }: Pick<WornStage, 'part'>, today: string): string {
  if (!part) return say`part not known`
  const day = shortDay(part.fittedOn, today)
  if (!part.dateKnown) return say`${part.partNumber}, in there already on ${day}; nobody knows since when`
  return say`${part.partNumber}, fitted ${day}, ${daysBetween(part.fittedOn, today)} days ago`
}

/** Where the water stands in a vessel: the life left at the median, and the band up to the late end. Nothing is left of what is spent. */
export function waterOf(
  { part, forecast, due }: WornStage,
  today: string,
): { level: number | null; band: { low: number; high: number } | null; cause: Cause | null } {
  if (!part || !forecast) return { level: null, band: null, cause: null }
  if (due?.state === 'spent') return { level: 0, band: null, cause: forecast.governing }
  const age = daysBetween(part.fittedOn, today)
  const whole = Math.max(1, age + daysBetween(today, forecast.p50))
  const share = (day: string): number => daysBetween(today, day) / whole
  return { level: forecast.remaining, band: { low: share(forecast.p10), high: share(forecast.p90) }, cause: forecast.governing }
}

/** "window 18 weeks" in the words people plan by. */
export function spanWords(days: number): string {
  if (days < 14) return say`${Math.round(days)} days`
  if (days < 180) return say`${Math.round(days / 7)} weeks`
  return say`${Math.round(days / 30.4)} months`
}
