import { CARBONS, type Medium } from '../catalogue/names'
import { PRIORS } from './priors'
import type { WaterSource, WearStage } from './types'

/** Media of a drinking-water set, whose calendar life depends on how many people use it. */
const HOUSE_MEDIA: readonly Medium[] = [
  'carbon-tank',
  'iron-bed',
  'ph-bed',
  'softener',
  'chlorine-feed',
  'uv-lamp',
  'uv-sleeve',
  'air-filter',
]
/** They catch the source's dirt. */
const CATCH_DIRT: readonly Medium[] = ['sediment', 'sediment-carbon']

const SEDIMENT_SOURCE: Record<WaterSource, number> = {
  municipal: 1,
  'drilled-well': 0.67,
  'shallow-well': 0.5,
  surface: 0.5,
  roof: 0.5,
}
const CHLORINE = { referenceMgL: 1, least: 0.33, most: 1.5 } as const

/** One person 1.5, two to four 1.0, five or more 0.5: dimensionless, on calendar life of drinking-water sets. */
export function peopleFactor(people: number): number {
  if (people < 2) return 1.5
  return people < 5 ? 1 : 0.5
}

/** Life factor of the source water on sediment stages, dimensionless. */
export const sourceFactor = (source: WaterSource): number => SEDIMENT_SOURCE[source]

/** Reference chlorine over the measured one, kept within 0.33 to 1.5; 1 when chlorine was never measured. */
export function chlorineFactor(chlorineMgL: number | undefined): number {
  if (chlorineMgL === undefined) return 1
  if (chlorineMgL <= 0) return CHLORINE.most
  return Math.min(CHLORINE.most, Math.max(CHLORINE.least, CHLORINE.referenceMgL / chlorineMgL))
}

/** True when the stage works for the whole house rather than one drinking-water tap. */
export function isWholeHouse(stage: Pick<WearStage, 'media' | 'rated'>): boolean {
  const { media, rated } = stage
  const bigPart = (rated.litres ?? 0) >= PRIORS.wholeHouseFromL
  return bigPart || media === 'sediment' || HOUSE_MEDIA.includes(media)
}

/** Carbons, and what the firm says ends like one: chlorine uses it up. */
const takesChlorine = ({ media, causes }: WearStage): boolean => CARBONS.includes(media) || causes?.includes('breakthrough') === true

/** Factor on the calendar life: people for drinking-water sets, source for sediment, chlorine for carbons. */
export function calendarFactor(stage: WearStage): number {
  const { media, site, rated } = stage
  const house = (rated.litres ?? 0) >= PRIORS.wholeHouseFromL || HOUSE_MEDIA.includes(media)
  const people = house ? 1 : peopleFactor(site.people)
  const source = CATCH_DIRT.includes(media) ? sourceFactor(site.source) : 1
  const chlorine = takesChlorine(stage) ? chlorineFactor(site.chlorineMgL) : 1
  return people * source * chlorine
}

/** Factor on rated litres: chlorine for carbons, 1 for the rest (litres know the people through use). */
export const throughputFactor = (stage: WearStage): number => (takesChlorine(stage) ? chlorineFactor(stage.site.chlorineMgL) : 1)

/** Median of the usage prior, litres a day; the site's own figure replaces it. */
export function usualLitresPerDay(stage: WearStage): number {
  const { people, litresPerDay } = stage.site
  if (litresPerDay !== undefined) return litresPerDay
  return people * (isWholeHouse(stage) ? PRIORS.litresPerPersonHouse : PRIORS.litresPerPersonDrinking)
}
