import type { Medium } from './names'

/** What the catalogue knows of a medium before a firm or a fitted part says otherwise ("our default"). */
export interface MediaProfile {
  /** Plain trade name, lower case. */
  name: string
  /** Reference calendar life in months: two to four people, clear municipal water. Null when time does not end it. */
  lifeMonths: number | null
  /** Rated throughput in litres for the reference case; null when litres do not end it. */
  ratedLitres: number | null
  /** Rated lamp hours. */
  ratedHours: number | null
  /** What is flushed before service, and why; null when nothing is. */
  flush: {
    litres: number
    minutes: number
    kind: 'to-clear' | 'fines' | 'alone' | 'preservative' | 'cloud' | 'grey' | 'first-litres'
  } | null
}

/** Mean Gregorian month, so that 12 months are a year. */
const DAYS_PER_MONTH = 365.2425 / 12

/** Months as days, unrounded. */
export const monthsToDays = (months: number): number => months * DAYS_PER_MONTH

/** What a part is rated at that comes with no figures of its own: days rounded to whole ones. */
export const ratedAs = ({ lifeMonths, ratedLitres, ratedHours }: Pick<MediaProfile, 'lifeMonths' | 'ratedLitres' | 'ratedHours'>) => ({
  days: lifeMonths === null ? null : Math.round(monthsToDays(lifeMonths)),
  litres: ratedLitres,
  milliequivalents: null,
  hours: ratedHours,
})

/** Source: our default figures for each medium; every one can be edited by the firm and overridden by the fitted part. */
export const MEDIA_PROFILES: Record<Medium, MediaProfile> = {
  sediment: { name: 'sediment', lifeMonths: 6, ratedLitres: null, ratedHours: null, flush: { litres: 5, minutes: 2, kind: 'to-clear' } },
  'carbon-block': { name: 'carbon', lifeMonths: 12, ratedLitres: 2200, ratedHours: null, flush: { litres: 8, minutes: 10, kind: 'fines' } },
  'fluoride-media': {
    name: 'fluoride media',
    lifeMonths: 12,
    ratedLitres: 4000,
    ratedHours: null,
    flush: { litres: 20, minutes: 10, kind: 'alone' },
  },
  membrane: {
    name: 'membrane',
    lifeMonths: 30,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 8, minutes: 15, kind: 'preservative' },
  },
  'post-carbon': {
    name: 'post carbon',
    lifeMonths: 12,
    ratedLitres: 3000,
    ratedHours: null,
    flush: { litres: 4, minutes: 5, kind: 'grey' },
  },
  remineraliser: {
    name: 'remineraliser',
    lifeMonths: 12,
    ratedLitres: 4000,
    ratedHours: null,
    flush: { litres: 4, minutes: 5, kind: 'cloud' },
  },
  'deionising-resin': {
    name: 'mixed-bed resin',
    lifeMonths: null,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 10, minutes: 5, kind: 'first-litres' },
  },
  'carbon-tank': {
    name: 'carbon tank',
    lifeMonths: 60,
    ratedLitres: 1_850_000,
    ratedHours: null,
    flush: { litres: 120, minutes: 33, kind: 'fines' },
  },
  'fridge-internal': {
    name: 'refrigerator cartridge',
    lifeMonths: 6,
    ratedLitres: 1000,
    ratedHours: null,
    flush: { litres: 12, minutes: 8, kind: 'fines' },
  },
  'fridge-inline': {
    name: 'refrigerator inline',
    lifeMonths: 12,
    ratedLitres: 3000,
    ratedHours: null,
    flush: { litres: 8, minutes: 8, kind: 'fines' },
  },
  'uv-lamp': { name: 'ultraviolet lamp', lifeMonths: 12, ratedLitres: null, ratedHours: 9000, flush: null },
  'uv-sleeve': { name: 'ultraviolet sleeve', lifeMonths: 36, ratedLitres: null, ratedHours: null, flush: null },
  softener: { name: 'softener', lifeMonths: null, ratedLitres: null, ratedHours: null, flush: null },
  'air-filter': { name: 'air filter', lifeMonths: 6, ratedLitres: null, ratedHours: null, flush: null },
}
