import type { StageDto } from '@evenround/contract/site'
import { MEDIA_PROFILES } from '@evenround/core/catalogue'
import { daysBetween } from '@evenround/core/units'
import { AS_LIKELY_AS_NOT, type Cause } from '@evenround/core/wear'
import { daySpan, plainDay, shortDay } from '../../ui/format'

export const CAUSE_WORDS: Record<Cause, string> = {
  calendar: 'calendar',
  throughput: 'litres',
  pressure: 'pressure',
  passage: 'passage',
  production: 'production',
  resin: 'resin',
  breakthrough: 'chlorine after it',
  lamp: 'lamp hours',
  intensity: 'intensity',
}

export const stageName = (stage: Pick<StageDto, 'media'>): string => {
  const { name } = MEDIA_PROFILES[stage.media]
  return name.charAt(0).toUpperCase() + name.slice(1)
}

/** As likely over as not: nobody is promised a later end. */
export const isSpent = ({ ended }: { ended: number }): boolean => ended >= AS_LIKELY_AS_NOT

/** "spent, very likely (95 in 100)": never quite sure, since nobody looked inside. */
export function spentText({ ended }: { ended: number }): string {
  const inHundred = Math.min(99, Math.round(100 * ended))
  return `${ended >= 0.8 ? 'spent, very likely' : 'probably spent'} (${inHundred} in 100)`
}

/** From here the earliest end is near enough to say "any day now". */
const ANY_DAY_DAYS = 14

/** What the sentences need of a stage; a list's row and a stage's own page have it too. */
export type WornStage = Pick<StageDto, 'media' | 'forecast'> & {
  part: Pick<NonNullable<StageDto['part']>, 'partNumber' | 'fittedOn' | 'dateKnown'> | null
}

/** The number, the reason and the next act in one sentence, e.g. "Carbon ends about 4 March (24 Feb–19 Mar): litres." */
export function dueSentence(stage: WornStage, today: string): string {
  const name = stageName(stage)
  if (!stage.part) return `${name}: nobody knows what is fitted.`
  const { forecast } = stage
  if (!forecast) return `${name}: nothing rates its life.`
  const cause = CAUSE_WORDS[forecast.governing]
  if (isSpent(forecast)) return `${name} is ${spentText(forecast)}: ${cause}. Change it now.`
  if (daysBetween(today, forecast.p10) <= ANY_DAY_DAYS)
    return `${name} may be done any day, likely by ${plainDay(forecast.p50)}${forecast.p50.slice(0, 4) === today.slice(0, 4) ? '' : ` ${forecast.p50.slice(0, 4)}`}: ${cause}.`
  return `${name} ends about ${shortDay(forecast.p50, today)} (${daySpan(forecast.p10, forecast.p90, today)}): ${cause}.`
}

/** "fitted 8 Apr, 231 days ago", or since when it is at least in where nobody knows. */
export function fittedText({ part }: WornStage, today: string): string {
  if (!part) return 'part not known'
  const day = shortDay(part.fittedOn, today)
  if (!part.dateKnown) return `${part.partNumber}, in there already on ${day}; nobody knows since when`
  return `${part.partNumber}, fitted ${day}, ${daysBetween(part.fittedOn, today)} days ago`
}

/** Where the water stands in a vessel: the life left at the median, and the band up to the late end. */
export function waterOf(
  stage: WornStage,
  today: string,
): { level: number | null; band: { low: number; high: number } | null; cause: Cause | null } {
  const { part, forecast } = stage
  if (!part || !forecast) return { level: null, band: null, cause: null }
  const age = daysBetween(part.fittedOn, today)
  const whole = Math.max(1, age + daysBetween(today, forecast.p50))
  const share = (day: string): number => daysBetween(today, day) / whole
  return { level: forecast.remaining, band: { low: share(forecast.p10), high: share(forecast.p90) }, cause: forecast.governing }
}

/** "window 18 weeks" in the words people plan by. */
export function spanWords(days: number): string {
  if (days < 14) return `${Math.round(days)} days`
  if (days < 180) return `${Math.round(days / 7)} weeks`
  return `${Math.round(days / 30.4)} months`
}
