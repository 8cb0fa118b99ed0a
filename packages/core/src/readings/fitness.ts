/** How water tastes by its dissolved solids. */
export type Taste = 'excellent' | 'good' | 'fair' | 'poor' | 'unacceptable'

/** Upper limits, mg/L. Source: World Health Organization, Total dissolved solids in drinking-water (2003), panels of tasters. */
const TASTES: readonly (readonly [most: number, taste: Taste])[] = [
  [300, 'excellent'],
  [600, 'good'],
  [900, 'fair'],
  [1200, 'poor'],
]
/** Above this a membrane is worth its while. Source: secondary standard of the US Environmental Protection Agency for TDS, 500 mg/L. */
export const MEMBRANE_WORTH_MGL = 500
/** Glass and panels dry without spots below about this, and batteries and irons ask for no more. Trade practice. */
export const SPOT_FREE_MGL = 10

export interface Fitness {
  taste: Taste
  spotFree: boolean
  /** Untreated water with so much in it that a membrane is worth its while where there is none. */
  membraneWorth: boolean
  /** Nothing here speaks of germs: water of one's own that no lamp stands behind. */
  germsOpen: boolean
}

/** What water of this TDS is fit for, mg/L, ≥ 0: taste, spots, whether a membrane is worth it; TDS never speaks of germs. */
export function fitness({
  untreatedMgL,
  treatedMgL,
  municipal,
  hasMembrane,
  hasLamp,
}: {
  untreatedMgL: number
  treatedMgL: number
  municipal: boolean
  hasMembrane: boolean
  hasLamp: boolean
}): Fitness {
  const taste = TASTES.find(([most]) => treatedMgL <= most)?.[1] ?? 'unacceptable'
  return {
    taste,
    spotFree: treatedMgL <= SPOT_FREE_MGL,
    membraneWorth: !hasMembrane && untreatedMgL > MEMBRANE_WORTH_MGL,
    germsOpen: !municipal && !hasLamp,
  }
}
