/** Minutes after midnight from which the hours of a day that drives are told apart by begin: the morning, until noon, the afternoon, the evening. */
export const PACE_FROM_MIN = [0, 7 * 60, 9 * 60, 12 * 60, 15 * 60, 18 * 60] as const

/** How long drives take against their ways as they are known, by the area they begin in and when they leave. */
export interface Pace {
  /** Rising, the first 0. */
  fromMin: number[]
  /** By area, a factor for each of these times. */
  areas: Record<string, number[]>
  /** For areas where nobody drove yet. */
  elsewhere: number[]
  /** Drives that say so. */
  drives: number
}

/** The same for places by their index. */
export interface PlacePace {
  fromMin: number[]
  factor: number[][]
  /** The row of `factor` of each place. */
  area: number[]
}

/** A drive that was made between two doors over land. Minutes. */
export interface DriveMade {
  area: string
  /** When it left, minutes after midnight. */
  leaveMin: number
  tookMin: number
  /** What the way is known or estimated to take. */
  plainMin: number
}

/** A drive that took less or more of its way than this was none: somebody ticked late, ate, or fetched a part. */
const [LEAST_RATIO, MOST_RATIO] = [0.5, 2.5]
/** A way so short says nothing about roads: the door and the parking are most of it. */
const LEAST_WAY_MIN = 5
/** So many drives weigh as much as what was thought before. */
const BEFORE = 8
/** Fewer drives than this change nothing. */
const LEAST_DRIVES = 10

const medianOf = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b)
  const middle = sorted.length >> 1
  return sorted.length % 2 === 1 ? (sorted[middle] as number) : Math.sqrt((sorted[middle - 1] as number) * (sorted[middle] as number))
}

/** Between what was thought before and the median of these ratios, on a logarithmic scale: the more drives, the nearer to theirs. */
function towards(before: number, ratios: readonly number[]): number {
  if (ratios.length === 0) return before
  const share = ratios.length / (ratios.length + BEFORE)
  return Math.exp((1 - share) * Math.log(before) + share * Math.log(medianOf(ratios)))
}

export const slotOf = (fromMin: readonly number[], minute: number): number =>
  Math.max(
    0,
    fromMin.findLastIndex((from) => from <= minute),
  )

/**
 * What drives that were made teach: a factor on the known way for each area and time of leaving. A median in each, drawn towards its area's,
 * that towards the firm's, that towards 1, by how many drives there are (shrinkage with a weight of eight drives); drives that cannot have
 * gone straight from door to door are left out. Null where fewer than ten say anything.
 */
export function learnPace(made: readonly DriveMade[]): Pace | null {
  const sound = made.flatMap(({ area, leaveMin, tookMin, plainMin }) => {
    const ratio = tookMin / plainMin
    return plainMin >= LEAST_WAY_MIN && ratio >= LEAST_RATIO && ratio <= MOST_RATIO
      ? [{ area, slot: slotOf(PACE_FROM_MIN, leaveMin), ratio }]
      : []
  })
  if (sound.length < LEAST_DRIVES) return null
  const ratios = (of: (one: (typeof sound)[number]) => boolean): number[] => sound.flatMap((one) => (of(one) ? [one.ratio] : []))
  const firm = towards(
    1,
    sound.map(({ ratio }) => ratio),
  )
  const areas: Record<string, number[]> = {}
  const slots = PACE_FROM_MIN.map((_, slot) => slot)
  for (const area of new Set(sound.map((one) => one.area))) {
    const own = towards(
      firm,
      ratios((one) => one.area === area),
    )
    areas[area] = slots.map((slot) =>
      rounded(
        towards(
          own,
          ratios((one) => one.area === area && one.slot === slot),
        ),
      ),
    )
  }
  const elsewhere = slots.map((slot) =>
    rounded(
      towards(
        firm,
        ratios((one) => one.slot === slot),
      ),
    ),
  )
  return { fromMin: [...PACE_FROM_MIN], areas, elsewhere, drives: sound.length }
}

const rounded = (factor: number): number => Math.round(factor * 100) / 100

/** The pace of places by their areas. */
export function paceOfPlaces({ fromMin, areas, elsewhere }: Pace, areaOf: readonly string[]): PlacePace {
  const names = [...new Set(areaOf)]
  const row = new Map(names.map((name, index) => [name, index]))
  return { fromMin, factor: names.map((name) => areas[name] ?? elsewhere), area: areaOf.map((name) => row.get(name) as number) }
}

export const paceFactor = ({ fromMin, factor, area }: PlacePace, place: number, leaveMin: number): number =>
  factor[area[place] as number]?.[slotOf(fromMin, leaveMin)] ?? 1
export const leastFactor = ({ factor, area }: PlacePace, place: number): number => Math.min(...(factor[area[place] as number] ?? [1]))
