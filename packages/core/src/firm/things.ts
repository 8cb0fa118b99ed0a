import type { MediaLimits } from '../catalogue/limits'
import { HOUSINGS, type Medium } from '../catalogue/names'
import { above, day, type Field, type Fields, flag, group, json, line, nullable, number, oneOf, otherwise, text, whole } from '../records'
import { CARES, DUE_BASES } from '../wear/due'
import { WATER_SOURCES } from '../wear/types'
import { PLACE_KINDS, USE_MEASURES } from '../wear/use'

const rating = nullable(above(0, 1e9))
/** What a part is rated at; null where it is not rated by that. */
export const RATED = { days: rating, litres: rating, milliequivalents: rating, hours: rating } satisfies Fields

/** Somebody else to ask for at a site. */
export interface SiteContact {
  name: string
  /** What they are there: caretaker, tenant, who pays. */
  role: string
  phone: string
  email: string
}

/**
 * What a firm keeps and edits with a version, each thing once: schema, columns, row and answer follow from here, as they do for
 * the kinds of fact.
 */
export const SITE_FIELDS = {
  name: line(120),
  /** House and street. */
  street: otherwise('', text(120)),
  postcode: otherwise('', text(20)),
  /** Town or village. */
  village: text(80),
  /** Island, district or whatever the firm sorts its work by. */
  island: text(80),
  country: otherwise('', text(60)),
  /** WGS 84 degrees, both or neither. */
  lat: otherwise(null, nullable(number(-90, 90))),
  lon: otherwise(null, nullable(number(-180, 180))),
  access: text(1000),
  contact: text(120),
  phone: text(40),
  email: otherwise('', text(254)),
  /** More people to ask for, each with what they are there. */
  contacts: otherwise([], json<SiteContact[]>('contacts')),
  people: whole(1, 5000),
  source: oneOf(...WATER_SOURCES),
  /** Free chlorine of the supply, mg/L. */
  chlorineMgL: nullable(number(0, 20)),
  kind: otherwise('home', oneOf(...PLACE_KINDS)),
} satisfies Fields

/** The day to change, as a firm keeps it for itself, a medium, a site, a system or a stage. */
export const DUE_RULE_FIELDS = {
  by: oneOf(...DUE_BASES),
  months: nullable(whole(1, 240)),
  /** A day the contract counts from. */
  anchor: nullable(day),
  care: oneOf(...CARES),
  beyondLabel: flag,
} satisfies Fields
/** Where a rule may be chosen, the widest first: the nearest to the stage holds. */
export const RULE_LEVELS = ['firm', 'medium', 'site', 'system', 'stage'] as const
export type RuleLevel = (typeof RULE_LEVELS)[number]

/** How much is drawn at a site, a system or a stage, as somebody said it. */
export const USE_FIELDS = {
  by: oneOf(...USE_MEASURES),
  amount: above(0, 1e6),
  fillL: nullable(above(0, 1e5)),
} satisfies Fields
export const USE_LEVELS = ['site', 'system', 'stage'] as const

/** What may change of a part; its medium and housing are what it is. */
export const PART_FIGURES = {
  partNumber: line(60),
  maker: line(80),
  name: line(120),
  rated: group(RATED),
  /** Integer minor units of the firm's currency. */
  priceMinor: whole(0, 100_000_000),
  /** What is printed as a code on its box. */
  barcode: otherwise('', text(40)),
  /** Whom it is bought from. */
  supplier: otherwise('', text(80)),
} satisfies Fields
const MEDIUM: Field<Medium> = { type: { is: 'medium' }, nullable: false }
export const PART_FIELDS = { ...PART_FIGURES, media: MEDIUM, housing: oneOf(...HOUSINGS) } satisfies Fields

/** What a medium is rated at and limited by in a firm. */
export const MEDIUM_FIELDS = {
  lifeMonths: nullable(above(0, 240)),
  ratedLitres: nullable(above(0, 1e8)),
  ratedHours: nullable(above(0, 200_000)),
  limits: json<MediaLimits>('limits'),
  /** What a day past the end costs, in days of life; null while ours stands. */
  lateDaysWorth: otherwise(null, nullable(number(0.5, 30))),
} satisfies Fields

/** Chlorine as the firm buys it, with the date on the container. */
export const CHLORINE_FIELDS = {
  name: line(120),
  form: oneOf('liquid', 'solid'),
  percent: above(0, 100),
  basis: nullable(oneOf('w/w', 'w/v')),
  densityKgL: nullable(above(0.5, 3)),
  strengthAs: oneOf('available-chlorine', 'sodium-hypochlorite'),
  thickened: flag,
  /** With cyanuric acid: for pools, never for water that is drunk. */
  stabilised: otherwise(false, flag),
  /** Day it was filled, by its label. */
  filledOn: nullable(day),
  storedAtC: number(-2, 60),
} satisfies Fields
