import { parseQuantity, type ShownUnits } from '@evenround/core/units'
import type { ExpectedUse, Use } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { figure } from '../../ui/format'

export const MEASURE_WORDS: Record<Use['by'], { name: string; unit: string }> = {
  'litres-a-day': { name: say`Litres a day`, unit: say`L a day` },
  'drinks-a-day': { name: say`Drinks a day`, unit: say`drinks a day` },
  'covers-a-day': { name: say`Guests a day`, unit: say`guests a day` },
  'fills-a-week': { name: say`Fills a week`, unit: say`fills a week` },
  'cubic-metres-a-quarter': { name: say`A bill’s m³`, unit: say`m³ a quarter` },
}

/** "80 drinks a day", "8 fills a week of 25 L". */
export function statedText({ by, amount, fillL }: Use): string {
  const size = by === 'fills-a-week' ? say` of ${figure(fillL ?? 10)} L` : ''
  return `${figure(amount)} ${MEASURE_WORDS[by].unit}${size}`
}

export const FROM_USE_WORDS: Record<ExpectedUse['from'], string> = {
  stage: say`said of this stage`,
  system: say`said of this system`,
  site: say`said of this site`,
  kind: say`a guess by the kind of place and its people`,
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
