import { parseQuantity, type ShownUnits } from '@evenround/core/units'
import type { ExpectedUse, Use } from '@evenround/core/wear'
import { figure } from '../../ui/format'

export const MEASURE_WORDS: Record<Use['by'], { name: string; unit: string }> = {
  'litres-a-day': { name: 'Litres a day', unit: 'L a day' },
  'drinks-a-day': { name: 'Drinks a day', unit: 'drinks a day' },
  'covers-a-day': { name: 'Guests a day', unit: 'guests a day' },
  'fills-a-week': { name: 'Fills a week', unit: 'fills a week' },
  'cubic-metres-a-quarter': { name: 'A bill’s m³', unit: 'm³ a quarter' },
}

/** "80 drinks a day", "8 fills a week of 25 L". */
export function statedText({ by, amount, fillL }: Use): string {
  const size = by === 'fills-a-week' ? ` of ${figure(fillL ?? 10)} L` : ''
  return `${figure(amount)} ${MEASURE_WORDS[by].unit}${size}`
}

export const FROM_USE_WORDS: Record<ExpectedUse['from'], string> = {
  stage: 'said of this stage',
  system: 'said of this system',
  site: 'said of this site',
  kind: 'a guess by the kind of place and its people',
}

const number = (text: string, units: ShownUnits, decimal: '.' | ',', volume: boolean): number | null => {
  const parsed = parseQuantity(text, {
    dimension: volume ? 'volume' : 'number',
    gallon: units.gallon,
    decimal,
    ...(volume ? { unit: 'l' } : {}),
  })
  return parsed.ok && parsed.value > 0 ? parsed.value : null
}

/** What was typed as a use; which field is wrong where it is none. */
export function readUse(
  by: Use['by'],
  amount: string,
  fill: string,
  units: ShownUnits,
  decimal: '.' | ',',
): Use | { wrong: 'amount' | 'fill' } {
  const read = number(amount, units, decimal, by === 'litres-a-day')
  if (read === null || read > 1e6) return { wrong: 'amount' }
  if (by !== 'fills-a-week') return { by, amount: read, fillL: null }
  const fillL = number(fill, units, decimal, true)
  return fillL === null ? { wrong: 'fill' } : { by, amount: read, fillL }
}
