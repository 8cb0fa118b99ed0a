import type { PartDto } from '@evenround/contract/shelf'
import { monthsToDays } from '@evenround/core/catalogue'
import type { ShownUnits } from '@evenround/core/units'
import { numberText, say } from '@evenround/core/words'
import { quantity } from '../../ui/format'

/** "12 months, 2,200 L", in the firm's units; null where the part says nothing and its medium counts. */
export function ratedFigures({ days, litres, milliequivalents, hours }: PartDto['rated'], units: ShownUnits): string | null {
  const words = [
    ...(days === null ? [] : [say`${Math.round(days / monthsToDays(1))} months`]),
    ...(litres === null ? [] : [quantity(litres, 'volume', units)]),
    ...(milliequivalents === null ? [] : [say`${numberText(milliequivalents)} meq`]),
    ...(hours === null ? [] : [say`${numberText(hours)} h`]),
  ]
  return words.length > 0 ? words.join(', ') : null
}

/** "rated 12 months, 2,200 L". */
export const ratedWords = (rated: PartDto['rated'], units: ShownUnits): string =>
  say`rated ${ratedFigures(rated, units) ?? say`as its medium is`}`
