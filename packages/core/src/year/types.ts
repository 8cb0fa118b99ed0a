/** A region with its way: there and back once a working day there, and between two sites of it. Minutes. */
export interface YearArea {
  id: string
  roundTripMin: number
  betweenMin: number
  /** Minutes at sites that fit into a working day there, where the way takes some of the usual ones; the year's `dayMin` where it is left out. */
  dayMin?: number
}

export interface YearSite {
  id: string
  area: string
  /** Minutes a visit takes whatever is done. */
  visitMin: number
}

/** One thing that comes back at one site. Weeks are whole numbers from 0. */
export interface YearChain {
  id: string
  site: string
  workMin: number
  /** Weeks from one time to the next. */
  every: number
  /** Week in which it was done last; it may be negative. */
  last: number
  /** Weeks before and after its due in which it may be done. */
  early: number
  late: number
  /** What a week off the due costs. */
  earlyPerWeek: number
  latePerWeek: number
  /** Weeks in which the site cannot be worked at. */
  closed?: readonly number[]
  /** The only week of the first time. */
  pinned?: number
}

export interface YearWeights {
  travel: number
  unevenness: number
  overload: number
  /** For each minute of getting in and ready; nothing where it is left out. */
  visits?: number
}

/** What holds where nobody says otherwise. */
export const USUAL_YEAR_WEIGHTS: Readonly<YearWeights> = { travel: 1, unevenness: 1, overload: 10 }

/** A firm's own year: a minute of getting in is worth one on the way, and evenness is the point of it (tried in `bin/bench year`). */
export const FIRM_YEAR_WEIGHTS: Readonly<YearWeights> = { ...USUAL_YEAR_WEIGHTS, unevenness: 2, visits: 1 }

export interface YearInput {
  weeks: number
  /** Minutes there are to work in each week; 0: nobody works. */
  capacityMin: readonly number[]
  /** Minutes of a working day in an area. */
  dayMin: number
  areas: readonly YearArea[]
  sites: readonly YearSite[]
  chains: readonly YearChain[]
  weights: YearWeights
  seed: number
}

export interface YearVisit {
  site: string
  week: number
  chains: string[]
}

export interface YearCost {
  travel: number
  unevenness: number
  overload: number
  /** Getting in and ready; only where it has a weight. */
  visits?: number
  early: number
  late: number
  total: number
}

export interface YearWeek {
  week: number
  /** At sites. */
  minutes: number
  travelMin: number
  loadMin: number
  /** The load of all weeks, shared out by capacity. */
  levelMin: number
}

export interface YearPlan {
  visits: YearVisit[]
  weeks: YearWeek[]
  cost: YearCost
  /** Standard deviation over mean of the weeks' loads by their capacity. */
  variation: number
}
