import type { Housing, Medium } from '../catalogue'
import type { FamilyStage } from '../train'
import type { Rated } from '../visit'
import type { PlaceKind, WaterSource } from '../wear'
import type { FamilyKey, OutletUse, Pump } from './cells'
import type { ReadRow, RowReading } from './rows'

export interface KnownStagePart {
  id: string
  position: number
  media: Medium
  /** Parts the book has for it already: number and day, null where the day was not known. */
  parts: readonly { partNumber: string; fittedOn: string | null }[]
}
export interface KnownSystem {
  id: string
  name: string
  stages: readonly KnownStagePart[]
  /** Readings the book has already, by `readingKey`. */
  readings: ReadonlySet<string>
}
export interface KnownSite {
  id: string
  name: string
  village: string
  systems: readonly KnownSystem[]
}
export interface KnownPart {
  id: string
  partNumber: string
  media: Medium
  housing: Housing
  rated: Rated
}
export interface Known {
  sites: readonly KnownSite[]
  parts: readonly KnownPart[]
  /** What a part of this medium is rated at when nobody says. */
  ratedAs: (media: Medium) => Rated
}

export interface PlannedSite {
  key: string
  /** Of the site that is there already; null for a new one. */
  id: string | null
  name: string
  street: string
  postcode: string
  village: string
  island: string
  country: string
  lat: number | null
  lon: number | null
  kind: PlaceKind
  contact: string
  phone: string
  email: string
  access: string
  people: number
  source: WaterSource
  chlorineMgL: number | null
}
export interface PlannedStage extends FamilyStage {
  id: string | null
  position: number
}
export interface PlannedSystem {
  key: string
  siteKey: string
  id: string | null
  name: string
  family: FamilyKey | null
  /** On its plate, where a line says it. */
  serialNo?: string
  pump?: Pump
  outlets?: readonly OutletUse[]
  bypass?: 'none' | 'all' | readonly [from: number, to: number]
  mustGoOn?: boolean
  stages: PlannedStage[]
}
export interface PlannedPart {
  line: number
  systemKey: string
  position: number
  partId: string | null
  partNumber: string
  rated: Rated
  /** Null where nobody knows when it was fitted. */
  fittedOn: string | null
}
export interface PlannedReading extends RowReading {
  line: number
  systemKey: string
  /** Of the stage whose gauges these are; null where the reading is of the whole system. */
  position: number | null
}
/** What was promised to a customer, by a line that speaks of a part, of a system, or of the site as a whole. */
export interface PlannedContract {
  line: number
  siteKey: string
  systemKey: string | null
  position: number | null
  months: number
  /** Month of the year, 1 to 12; null counts from each change. */
  month: number | null
}
export interface IntakePlan {
  rows: ReadRow[]
  sites: PlannedSite[]
  systems: PlannedSystem[]
  parts: PlannedPart[]
  readings: PlannedReading[]
  contracts: PlannedContract[]
}

/** A system while its lines are gathered. */
export interface DraftSystem extends PlannedSystem {
  rows: ReadRow[]
  known: KnownSystem | null
}

/** A part a line speaks of, by the catalogue or by its kind. */
export interface FoundPart {
  part: KnownPart | null
  media: Medium
  housing: Housing
}
