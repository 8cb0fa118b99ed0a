import type { LandWays } from './roads/over-land'
import type { UnplannedVisit } from './unplanned'

/** The round's input and output, in the spelling of the scriptable core. Days are indices into `days`; times are minutes after midnight. */
export interface RoundTechnician {
  id: string
  /** Place the day begins and ends at. */
  base: string
  fromMin: number
  toMin: number
  /** The most a day may run over, hard. */
  overtimeMin: number
  skills: readonly string[]
  daysOff: readonly number[]
  /** The most the day's stops may load. */
  vanKg?: number
  /** The load a day should have, minutes; left out it is the mean of this technician's own days in the plan. */
  levelMin?: number
}

export interface RoundVisit {
  id: string
  place: string
  serviceMin: number
  dueDay: number
  /** Hard, both ends included. */
  windowDays: readonly [number, number]
  latePerDay: number
  earlyPerDay: number
  /** Spans in which the whole service lies. */
  open?: readonly (readonly [number, number])[]
  closedDays?: readonly number[]
  skills?: readonly string[]
  loadKg?: number
  /** Hard. */
  pinnedDay?: number
  /** Soft: leaving it costs `change`. */
  promisedDay?: number
  after?: { visit: string; minGapH: number; maxGapH: number }
}

export interface RoundWeights {
  overtime: number
  unevenness: number
  change: number
}

export interface RoundInput {
  /** ISO days, rising. */
  days: readonly string[]
  technicians: readonly RoundTechnician[]
  places: readonly { id: string }[]
  /** Rows and columns in the order of places. */
  travelMin: readonly (readonly number[])[]
  /** The last entry at or before the departure holds; before the first one `travelMin` does. */
  travelByHour?: readonly { fromMin: number; travelMin: readonly (readonly number[])[] }[]
  /** In place of the tables, which are then empty: ways over land, estimated when asked for. */
  land?: LandWays
  visits: readonly RoundVisit[]
  weights: RoundWeights
  seed: number
}

export interface RoundStop {
  visit: string
  arriveMin: number
  startMin: number
  leaveMin: number
}
export interface RoundDay {
  technician: string
  day: number
  stops: RoundStop[]
  travelMin: number
  workMin: number
  overtimeMin: number
}
/** All parts already weighted; `total` is their sum. */
export interface RoundCost {
  travel: number
  overtime: number
  late: number
  early: number
  unevenness: number
  change: number
  unplanned: number
  total: number
}
export interface RoundPlan {
  days: RoundDay[]
  unplanned: UnplannedVisit[]
  cost: RoundCost
  /** What no plan of this round can cost less than; left out where nobody asked. */
  lowerBound?: number
}
export const UNPLANNED_COST = 10_000
