import type { MediaLimits } from '../catalogue/limits'
import { HOUSINGS, MEDIA } from '../catalogue/names'
import { above, day, type Fields, flag, group, json, line, nullable, number, oneOf, text, whole } from '../records'
import { WATER_SOURCES } from '../wear/types'

const rating = nullable(above(0, 1e9))
/** What a part is rated at; null where it is not rated by that. */
export const RATED = { days: rating, litres: rating, milliequivalents: rating, hours: rating } satisfies Fields

/**
 * What a firm keeps and edits with a version, each thing once: schema, columns, row and answer follow from here, as they do for
 * the kinds of fact.
 */
export const SITE_FIELDS = {
  name: line(120),
  village: line(80),
  island: line(80),
  access: text(1000),
  contact: text(120),
  phone: text(40),
  people: whole(1, 5000),
  source: oneOf(...WATER_SOURCES),
  /** Free chlorine of the supply, mg/L. */
  chlorineMgL: nullable(number(0, 20)),
} satisfies Fields

/** What may change of a part; its medium and housing are what it is. */
export const PART_FIGURES = {
  partNumber: line(60),
  maker: line(80),
  name: line(120),
  rated: group(RATED),
  /** Integer minor units of the firm's currency. */
  priceMinor: whole(0, 100_000_000),
} satisfies Fields
export const PART_FIELDS = { ...PART_FIGURES, media: oneOf(...MEDIA), housing: oneOf(...HOUSINGS) } satisfies Fields

/** What a medium is rated at and limited by in a firm. */
export const MEDIUM_FIELDS = {
  lifeMonths: nullable(above(0, 240)),
  ratedLitres: nullable(above(0, 1e8)),
  ratedHours: nullable(above(0, 200_000)),
  limits: json<MediaLimits>('limits'),
} satisfies Fields

/** Chlorine as the firm buys it, with the day on the jug. */
export const CHLORINE_FIELDS = {
  name: line(120),
  form: oneOf('liquid', 'solid'),
  percent: above(0, 100),
  basis: nullable(oneOf('w/w', 'w/v')),
  densityKgL: nullable(above(0.5, 3)),
  strengthAs: oneOf('available-chlorine', 'sodium-hypochlorite'),
  thickened: flag,
  /** Day it was filled, by its label. */
  filledOn: nullable(day),
  storedAtC: number(-2, 60),
} satisfies Fields
