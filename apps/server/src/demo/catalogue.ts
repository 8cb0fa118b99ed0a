import type { Housing, Medium } from '@evenround/core/catalogue'
import { profileOf, ratedAs } from '@evenround/core/catalogue'
import { USUAL_RESIN_EQ_PER_L } from '@evenround/core/readings'

interface DemoPart {
  partNumber: string
  maker: 'Brackwell' | 'Loom & Tarn'
  name: string
  media: Medium
  housing: Housing
  litres?: number
  milliequivalents?: number
  priceMinor: number
}

const part = (
  partNumber: string,
  name: string,
  media: Medium,
  housing: Housing,
  priceMinor: number,
  more: Partial<DemoPart> = {},
): DemoPart => ({
  partNumber,
  maker: partNumber.startsWith('BRK') ? 'Brackwell' : 'Loom & Tarn',
  name,
  media,
  housing,
  priceMinor,
  ...more,
})

const WHOLE_HOUSE_CARBON_L = 74_000

export const DEMO_PARTS: readonly DemoPart[] = [
  part('BRK-SED-10', 'Sediment, pleated, small', 'sediment', 'sump-small', 940),
  part('BRK-SED-20', 'Sediment, wound, large', 'sediment', 'sump-large', 2250),
  part('BRK-SED-20W', 'Sediment, washable, large', 'sediment', 'sump-large', 5400),
  part('BRK-CB-10', 'Carbon block, small', 'carbon-block', 'sump-small', 1680),
  part('BRK-CB-20', 'Carbon block, large', 'carbon-block', 'sump-large', 5900, { litres: WHOLE_HOUSE_CARBON_L }),
  part('LT-FL-10', 'Fluoride media, small', 'fluoride-media', 'sump-small', 4350),
  part('BRK-RO-75', 'Membrane', 'membrane', 'membrane-vessel', 6900),
  part('LT-PC-06', 'Post carbon, inline', 'post-carbon', 'push-fit', 1450),
  part('LT-DI-10', 'Mixed bed, small', 'deionising-resin', 'sump-small', 3900, { milliequivalents: 1.6 * USUAL_RESIN_EQ_PER_L * 1000 }),
  part('BRK-UV-30', 'Ultraviolet lamp', 'uv-lamp', 'uv-reactor', 8800),
  part('BRK-UVS-30', 'Quartz sleeve', 'uv-sleeve', 'uv-reactor', 5200),
  part('LT-CT-48', 'Carbon for media tank', 'carbon-tank', 'media-tank', 31_000),
  part('BRK-QT-S', 'Sediment, quarter-turn', 'sediment', 'quarter-turn', 1390),
  part('BRK-QT-C', 'Carbon, quarter-turn', 'carbon-block', 'quarter-turn', 2480),
  part('LT-PC-07T', 'Post carbon, threaded inline', 'post-carbon', 'threaded', 1620),
  part('LT-RM-07T', 'Remineraliser, threaded inline', 'remineraliser', 'threaded', 2750),
  part('LT-RM-20', 'Remineraliser, large', 'remineraliser', 'sump-large', 9800, { litres: WHOLE_HOUSE_CARBON_L }),
  part('BRK-FI-02', 'Refrigerator cartridge', 'fridge-internal', 'fridge-cartridge', 3700),
  part('BRK-FA-02', 'Refrigerator air filter', 'air-filter', 'dry-slot', 1100),
  part('LT-CB-10', 'Carbon block, small, long-life', 'carbon-block', 'sump-small', 2190, { litres: 3000 }),
  part('BRK-FR-06', 'Refrigerator inline', 'fridge-inline', 'push-fit', 2900),
]

/** What a part is rated at: its own figures, else the medium's default. */
export function ratedColumns(entry: DemoPart) {
  const usual = ratedAs(profileOf(entry))
  return {
    ratedDays: usual.days,
    ratedLitres: entry.litres ?? usual.litres,
    ratedMilliequivalents: entry.milliequivalents ?? null,
    ratedHours: usual.hours,
  }
}

/** Which part a stage of this medium and housing takes next; null for what is not changed as a part. */
export const partFor = (media: Medium, housing: Housing, washable: boolean): DemoPart | null =>
  DEMO_PARTS.find((entry) => entry.media === media && entry.housing === housing && entry.partNumber.endsWith('W') === washable) ?? null

/** Parts that stand in for one another in this firm. */
export const DEMO_EQUIVALENTS = [['BRK-CB-10', 'LT-CB-10']] as const
