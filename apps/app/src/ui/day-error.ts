import { isIsoDay } from '@evenround/core/units'
import { say } from '@evenround/core/words'

/** What is wrong with a day as it was typed, under its field; nothing while the field is empty. A last day may be the first one too. */
export function dayError(text: string, first = '', sameDayToo = true): string | undefined {
  if (text === '') return undefined
  if (!isIsoDay(text)) return say`Choose the day`
  if (isIsoDay(first) && (text < first || (text === first && !sameDayToo))) return say`after the first day`
  return undefined
}
