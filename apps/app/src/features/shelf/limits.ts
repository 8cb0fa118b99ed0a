import { MEDIA_LIMIT_FIELDS, type MediaLimit } from '@evenround/core/catalogue'
import { parseQuantity, type ShownUnits, unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { bare, quantity } from '../../ui/format'
import { localDecimal } from '../../ui/locale'

export const LIMIT_WORDS: Record<MediaLimit, string> = {
  overCleanKpa: say`pressure drop over clean`,
  flowShare: say`flow, of the clean one`,
  passage: say`passage by the fixed floor`,
  passageRatio: say`passage over its own first`,
  permeateShare: say`permeate, of the first`,
  chlorineMgL: say`free chlorine after it`,
  intensityPercent: say`intensity, of new`,
}
const SHARES: readonly MediaLimit[] = ['flowShare', 'passage', 'permeateShare']
export function limitUnit(limit: MediaLimit, units: ShownUnits): string {
  if (limit === 'overCleanKpa') return unitOf('pressure', units).text
  if (limit === 'chlorineMgL') return 'mg/L'
  return limit === 'passageRatio' ? say`times` : '%'
}

const inHundred = (limit: MediaLimit): number => (SHARES.includes(limit) ? 100 : 1)
export const limitText = (limit: MediaLimit, value: number, units: ShownUnits): string =>
  limit === 'overCleanKpa' ? quantity(value, 'pressure', units) : `${limitBare(limit, value, units)} ${limitUnit(limit, units)}`
export const limitBare = (limit: MediaLimit, value: number, units: ShownUnits): string =>
  limit === 'overCleanKpa'
    ? bare(value, 'pressure', units)
    : String(Math.round(value * inHundred(limit) * 1000) / 1000).replace('.', localDecimal())

/** A typed limit in the core's terms, or what it should have been. */
export function readLimit(limit: MediaLimit, typed: string, units: ShownUnits, decimal: '.' | ','): { value: number } | { error: string } {
  const dimension = limit === 'overCleanKpa' ? ('pressure' as const) : ('number' as const)
  const unit = dimension === 'pressure' ? { unit: unitOf('pressure', units).parse } : {}
  const parsed = parseQuantity(typed, { dimension, gallon: units.gallon, decimal, ...unit })
  const { least, most } = MEDIA_LIMIT_FIELDS[limit].type
  const value = parsed.ok ? parsed.value / inHundred(limit) : Number.NaN
  if (value >= least && value <= most) return { value }
  return { error: say`Between ${limitText(limit, least, units)} and ${limitText(limit, most, units)}` }
}
