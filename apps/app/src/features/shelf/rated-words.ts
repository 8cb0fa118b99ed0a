import type { PartDto } from '@evenround/contract/shelf'
import { monthsToDays } from '@evenround/core/catalogue'
import type { ShownUnits } from '@evenround/core/units'
import { quantity } from '../../ui/format'

/** "rated 12 months, 2,200 L", in the firm's units. */
export function ratedWords({ days, litres, milliequivalents, hours }: PartDto['rated'], units: ShownUnits): string {
  const words = [
    ...(days === null ? [] : [`${Math.round(days / monthsToDays(1))} months`]),
    ...(litres === null ? [] : [quantity(litres, 'volume', units)]),
    ...(milliequivalents === null ? [] : [`${milliequivalents.toLocaleString('en-GB')} meq`]),
    ...(hours === null ? [] : [`${hours.toLocaleString('en-GB')} h`]),
  ]
  return words.length > 0 ? `rated ${words.join(', ')}` : 'rated as its medium is'
}
