import { activeShare, type Product, strengthNow } from './product'

export interface DoseInput {
  /** Water to be treated, litres, > 0. */
  volumeL: number
  /** Free chlorine wanted, mg/L, > 0. */
  targetMgL: number
  /** What the water itself uses up, mg/L. */
  demandMgL: number
  product: Product
  pH: number
  waterC: number
  /** Each is the full amount. */
  doses: 1 | 2
}

export type DoseWarning = 'ph-high' | 'strength-over-200' | 'product-old' | 'product-thickened'
export interface DoseResult {
  percentNow: number
  availableMgPerMl: number | null
  availableMgPerG: number | null
  perDoseMl: number | null
  perDoseG: number | null
  doses: 1 | 2
  activeShare: number
  /** One in a thousand, before the water's own demand; null for solids. */
  ruleOfThumb: { ml: number; givesMgL: number } | null
  warnings: DoseWarning[]
}

/** Above this most chlorine is in its weak form. */
const PH_HIGH = 8
/** More than this corrodes, gasses and needs a longer flush: refused without a written reason. */
export const STRENGTH_CEILING_MGL = 200
const OLD_SHARE = 0.6

/**
 * Product for one dose, mL of a liquid or g of a solid, unrounded: V·(target + demand)/available.
 * The rule of thumb beside it is 1 mL a litre, with the strength it would really give from this product.
 * Sources: standard waterworks practice for wells, tanks and mains; ageing and active share as in `product`.
 */
export function dose({ volumeL, targetMgL, demandMgL, product, pH, waterC, doses }: DoseInput): DoseResult {
  const { percentNow, available } = strengthNow(product)
  const each = (volumeL * (targetMgL + demandMgL)) / available
  const liquid = product.kind === 'liquid'
  const warnings: DoseWarning[] = []
  if (pH > PH_HIGH) warnings.push('ph-high')
  if (targetMgL > STRENGTH_CEILING_MGL) warnings.push('strength-over-200')
  if (liquid && percentNow < OLD_SHARE * product.percent) warnings.push('product-old')
  if (liquid && product.thickened === true) warnings.push('product-thickened')
  return {
    percentNow,
    availableMgPerMl: liquid ? available : null,
    availableMgPerG: liquid ? null : available,
    perDoseMl: liquid ? each : null,
    perDoseG: liquid ? null : each,
    doses,
    activeShare: activeShare(pH, waterC),
    ruleOfThumb: liquid ? { ml: volumeL, givesMgL: available } : null,
    warnings,
  }
}

export interface TopUp {
  /** What the water would hold with it, mg/L. */
  inAllMgL: number
  /** Not over the ceiling: over it the water is flushed and dosed anew. */
  allowed: boolean
  /** mL of a liquid or g of a solid, as `availableMgPerUnit` is meant; unrounded. */
  amount: number
}

/**
 * A dose on top of water that still holds chlorine: `addMgL` > 0 for `volumeL` > 0 of water, with a product of `availableMgPerUnit` mg in
 * each mL or g. More chlorine never replaces time, and over the ceiling in all it corrodes and gives off gas.
 */
export function topUp(standsMgL: number, addMgL: number, volumeL: number, availableMgPerUnit: number): TopUp {
  const inAllMgL = standsMgL + addMgL
  return { inAllMgL, allowed: inAllMgL <= STRENGTH_CEILING_MGL, amount: (volumeL * addMgL) / availableMgPerUnit }
}
