/** Closed lists of the trade's names, in the order the catalogue shows them. */

export const MEDIA = [
  'sediment',
  'carbon-block',
  'sediment-carbon',
  'fluoride-media',
  'membrane',
  'ultrafiltration',
  'post-carbon',
  'remineraliser',
  'deionising-resin',
  'carbon-tank',
  'iron-bed',
  'ph-bed',
  'fridge-internal',
  'fridge-inline',
  'uv-lamp',
  'uv-sleeve',
  'softener',
  'chlorine-feed',
  'air-filter',
] as const
export type StandardMedium = (typeof MEDIA)[number]
/** A kind that the firm named itself; what is known of it is its `OwnKind`. */
export type OwnMedium = `own:${string}`
export type Medium = StandardMedium | OwnMedium

/** Media that are carbon: they shed fines when new, and chlorine or fines of others end them early. */
export const CARBONS: readonly Medium[] = [
  'carbon-block',
  'sediment-carbon',
  'post-carbon',
  'carbon-tank',
  'fridge-internal',
  'fridge-inline',
]

/** Carbon that all the water passes: what takes the supply's chlorine out before anything that it harms. */
export const DECHLORINATES: readonly Medium[] = ['carbon-block', 'sediment-carbon', 'carbon-tank']

export const HOUSINGS = [
  'sump-small',
  'sump-large',
  'quarter-turn',
  'push-fit',
  'threaded',
  'membrane-vessel',
  'media-tank',
  'uv-reactor',
  'fridge-cartridge',
  'dry-slot',
] as const
export type Housing = (typeof HOUSINGS)[number]
