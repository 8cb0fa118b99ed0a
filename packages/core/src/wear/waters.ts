import type { Medium } from '../catalogue/names'
import type { WearReading } from './types'

/** Feed of a resin that polishes permeate, as a share of the untreated water, where only that was measured. */
const USUAL_PASSAGE = 0.05

/**
 * What the two waters of a visit (TDS, mg/L at 25 °C; null where not measured) say of a stage: a pair for a membrane, the feed for a
 * resin, nothing for the rest or while a water is missing.
 */
export function watersSeenBy(
  media: Medium,
  behindMembrane: boolean,
  { untreated, treated }: { untreated: number | null; treated: number | null },
): Pick<WearReading, 'feedTdsMgL' | 'productTdsMgL'> {
  if (untreated === null) return {}
  if (media === 'membrane') return treated === null ? {} : { feedTdsMgL: untreated, productTdsMgL: treated }
  return media === 'deionising-resin' ? { feedTdsMgL: behindMembrane ? untreated * USUAL_PASSAGE : untreated } : {}
}
