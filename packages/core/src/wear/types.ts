import type { MediaLimits } from '../catalogue/limits'
import type { Medium } from '../catalogue/names'
import type { OwnCause } from '../catalogue/own-kinds'

export const WATER_SOURCES = ['municipal', 'drilled-well', 'shallow-well', 'surface', 'roof'] as const
export type WaterSource = (typeof WATER_SOURCES)[number]
export type WearSchool = 'calendar' | 'usage' | 'condition' | 'earliest'
export type FoundGrade = 'as-new' | 'light' | 'as-expected' | 'heavy' | 'spent'
export type Cause = 'calendar' | 'throughput' | 'pressure' | 'passage' | 'production' | 'resin' | 'breakthrough' | 'lamp' | 'intensity'

export interface WearStage {
  media: Medium
  /** Of a kind of the firm's own: what can end it; whatever rates it where nobody said. */
  causes?: readonly OwnCause[]
  /** ISO day. */
  fittedOn: string
  /** Nobody knows when it went in: `fittedOn` is the day it was first seen, and anything up to a median life may have passed before. */
  ageUnknown?: boolean
  /** Reference values; a cause takes part only when its rated value is given. */
  rated: { days?: number; litres?: number; milliequivalents?: number; hours?: number }
  site: { people: number; source: WaterSource; litresPerDay?: number; chlorineMgL?: number; turbidityNtu?: number }
  limits?: MediaLimits
  /** Dirt got past the stage before on that day: from then on this one keeps `share` of its expected rest (0 to 1, above 0). */
  carryOver?: readonly { on: string; share: number }[]
  /** Days on which the element was washed: its loading starts over, everything else goes on. */
  washedOn?: readonly string[]
}

export interface WearReading {
  on: string
  /** Litres since fitting. */
  counterL?: number
  feedTdsMgL?: number
  productTdsMgL?: number
  inKpa?: number
  outKpa?: number
  flowLMin?: number
  cleanFlowLMin?: number
  chlorineAfterMgL?: number
  lampHours?: number
  intensityPercent?: number
  productLMin?: number
  waterC?: number
}

/** What is measured at a stage itself, besides its counter and the waters of its system. */
export const STAGE_VALUES = [
  'inKpa',
  'outKpa',
  'flowLMin',
  'cleanFlowLMin',
  'chlorineAfterMgL',
  'lampHours',
  'intensityPercent',
  'productLMin',
  'waterC',
] as const satisfies readonly (keyof WearReading)[]

export interface WearInput {
  /** ISO day. Nothing is assumed of the part on it; what is dated later says nothing. */
  today: string
  stage: WearStage
  readings: readonly WearReading[]
  past: readonly { fittedOn: string; removedOn: string; litres?: number; found: FoundGrade }[]
  /** Share of the usual use in [from, to), 1 elsewhere. */
  occupancy?: readonly { from: string; to: string; share: number }[]
  school: WearSchool
  /** The firm's own spread, learned from its past (`learnSpread`); the priors' when left out. */
  spread?: Spread
}

/** Coefficients of variation: between sites, between parts at one site, of the litres drawn. */
export interface Spread {
  siteCv: number
  unitCv: number
  usageCv: number
}

export interface CauseForecast {
  cause: Cause
  p10: string
  p50: string
  p90: string
  /** This cause's share of the cumulative hazard by the median date, 0 to 1. */
  hazardShare: number
  /** What stands behind it, in words. */
  evidence: string
}

export interface WearForecast {
  p10: string
  p50: string
  p90: string
  governing: Cause
  causes: CauseForecast[]
  /** Share of the life left at the median, 0 to 1. */
  remaining: number
  /** Chance that it is over by today, 0 to 1. */
  ended: number
  /** over: more likely than not; any-day: the 10 % day has come. */
  state: 'over' | 'any-day' | 'good'
  /** Places in `readings` of those that are held for slips, rising. */
  doubted: number[]
  /** What reading would narrow the window most. */
  narrowing: { reading: string; windowDaysAfter: number }[]
}
