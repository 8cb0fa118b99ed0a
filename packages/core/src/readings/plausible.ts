import { TENFOLD } from './tds'

export type Water = 'untreated' | 'treated'
/** Why a pair of readings is asked about although each may be right for itself. */
export type PairDoubtWhy = 'outside-source' | 'adds' | 'takes-out-too-much' | 'new-membrane-passes'
export interface PairDoubt {
  /** Whose value is asked about. */
  water: Water
  why: PairDoubtWhy
  /** The ten-times mark would explain it: the value is ten times as much. */
  timesTen: boolean
}

/** TDS that water of this source commonly has, mg/L: from soft upland to hard ground water, rain from a roof. Ours; outside it is asked about. */
const OF_SOURCE = {
  municipal: { least: 20, most: 1500 },
  'drilled-well': { least: 30, most: 5000 },
  'shallow-well': { least: 20, most: 3000 },
  surface: { least: 5, most: 1500 },
  roof: { least: 1, most: 250 },
} as const

/** Treated water may read this much above untreated by meter and moment: a share, and mg/L. A mineral stage adds more. */
const ADDS = { share: 1.3, mgL: 30, mineralMgL: 200 } as const
/** What neither membrane nor resin treats keeps its TDS: less than this share of it cannot be. */
const KEEPS_SHARE = 0.5
/** A membrane this new lets through far less than this share. */
const NEW_MEMBRANE = { days: 30, passage: 0.4 } as const

/** What of a train changes TDS. */
export interface Treats {
  membrane: boolean
  resin: boolean
  minerals: boolean
}

interface Pair {
  /** mg/L, ≥ 0. */
  untreatedMgL: number
  treatedMgL: number
  treats: Treats
  source: keyof typeof OF_SOURCE
  /** Days since the membrane was changed; null where there is none, or nobody knows. */
  membraneDays: number | null
  /** How many earlier values of the untreated water there are: then they say what is usual here. */
  history: number
}

const tenfold = (ratio: number): boolean => ratio >= TENFOLD.from && ratio <= TENFOLD.to

/**
 * Whether a pair of TDS readings can be what this train does to this water; null where it can. Looks at the source (at a site without a
 * history), at treated water with more in it than untreated, at a set of carbon and sediment that would take out TDS, and at a new membrane
 * that would pass as much as a spent one.
 */
export function pairDoubt({ untreatedMgL, treatedMgL, treats, source, membraneDays, history }: Pair): PairDoubt | null {
  const { least, most } = OF_SOURCE[source]
  const outside = untreatedMgL < least || untreatedMgL > most
  if (outside && history < TENFOLD.historyAtLeast) {
    const tenTimes = 10 * untreatedMgL
    return { water: 'untreated', why: 'outside-source', timesTen: untreatedMgL < least && tenTimes >= least && tenTimes <= most }
  }
  const adds = treats.minerals ? ADDS.mineralMgL : ADDS.mgL
  const ratio = untreatedMgL > 0 ? treatedMgL / untreatedMgL : Number.POSITIVE_INFINITY
  if (treatedMgL > ADDS.share * untreatedMgL + adds) {
    const slip = tenfold(ratio)
    return { water: slip ? 'untreated' : 'treated', why: 'adds', timesTen: slip }
  }
  if (!treats.membrane && !treats.resin && ratio < KEEPS_SHARE)
    return { water: 'treated', why: 'takes-out-too-much', timesTen: tenfold(1 / ratio) }
  if (treats.membrane && membraneDays !== null && membraneDays <= NEW_MEMBRANE.days && ratio >= NEW_MEMBRANE.passage) {
    const slip = ratio / 10 < NEW_MEMBRANE.passage / 2
    return { water: slip ? 'untreated' : 'treated', why: 'new-membrane-passes', timesTen: slip && untreatedMgL * 10 <= most }
  }
  return null
}
