import { isWholeHouse } from './factors'
import { PRIORS } from './priors'
import type { WearInput, WearStage } from './types'
import { usageOf } from './usage'

export const PLACE_KINDS = ['home', 'cafe', 'surgery', 'workshop', 'vehicle', 'cleaning-round'] as const
export type PlaceKind = (typeof PLACE_KINDS)[number]

/** Ways in which people say how much is drawn. */
export const USE_MEASURES = ['litres-a-day', 'drinks-a-day', 'covers-a-day', 'fills-a-week', 'cubic-metres-a-quarter'] as const

/** How much is drawn, as somebody said it. */
export interface Use {
  by: (typeof USE_MEASURES)[number]
  amount: number
  /** Litres of one fill; null where nothing is filled. */
  fillL: number | null
}

/** A cup or a glass with what runs away beside it. */
const DRINK_L = 0.25
/** A guest at a table: drinks, ice, and the kitchen’s pot. */
const COVER_L = 0.6
const QUARTER_DAYS = 365.2425 / 4

/** Litres a day of what somebody said; fills without a size are of ten litres. */
export function litresPerDayOf({ by, amount, fillL }: Use): number {
  switch (by) {
    case 'litres-a-day':
      return amount
    case 'drinks-a-day':
      return amount * DRINK_L
    case 'covers-a-day':
      return amount * COVER_L
    case 'fills-a-week':
      return (amount * (fillL ?? 10)) / 7
    case 'cubic-metres-a-quarter':
      return (amount * 1000) / QUARTER_DAYS
  }
}

/**
 * Litres a day a person draws at a drinking-water point and in the whole house, by the kind of place; at a cleaning round one van’s work
 * whoever does it. A guest of a café or a patient stays an hour, a household lives there. Ours; a typed use or a counter replaces it.
 */
const PER_PERSON: Record<Exclude<PlaceKind, 'cleaning-round'>, { tapL: number; houseL: number }> = {
  home: { tapL: PRIORS.litresPerPersonDrinking, houseL: PRIORS.litresPerPersonHouse },
  cafe: { tapL: COVER_L, houseL: 20 },
  surgery: { tapL: 0.5, houseL: 20 },
  workshop: { tapL: 1.5, houseL: 40 },
  vehicle: { tapL: PRIORS.litresPerPersonDrinking, houseL: 25 },
}
const CLEANING_ROUND_L = 250

/** What may be said of a stage’s use, the nearest first. */
export interface StatedUse {
  stage: Use | null
  system: Use | null
  site: Use | null
}

/** A bill is of the whole house, everything else of one point of it. */
const isOfHouse = ({ by }: Use): boolean => by === 'cubic-metres-a-quarter'

/** The litres a day a stage is taken to see before anything was counted, and where that comes from. */
export interface ExpectedUse {
  litresPerDay: number
  from: 'stage' | 'system' | 'site' | 'kind'
}

/**
 * What a stage is expected to see: what was said of it, of its system, or of its site where that speaks of its water; else a guess by the
 * kind of place. `tapOnly` says that a stage of the house’s kinds stands before one tap.
 */
export function expectedUse(
  stage: Pick<WearStage, 'media' | 'rated'> & { people: number },
  kind: PlaceKind,
  said: StatedUse,
  tapOnly: boolean,
): ExpectedUse {
  const house = !tapOnly && isWholeHouse(stage)
  if (said.stage) return { litresPerDay: litresPerDayOf(said.stage), from: 'stage' }
  if (said.system) return { litresPerDay: litresPerDayOf(said.system), from: 'system' }
  if (said.site && isOfHouse(said.site) === house) return { litresPerDay: litresPerDayOf(said.site), from: 'site' }
  if (kind === 'cleaning-round') return { litresPerDay: CLEANING_ROUND_L, from: 'kind' }
  const { tapL, houseL } = PER_PERSON[kind]
  return { litresPerDay: stage.people * (house ? houseL : tapL), from: 'kind' }
}

/** Litres a day as they are believed now, and what stands behind them. */
export function learnedUse(input: WearInput): { litresPerDay: number; evidence: string; counted: boolean } {
  const { litresPerDay, evidence } = usageOf(input)
  const counted = input.readings.some(({ counterL }) => counterL !== undefined) || input.past.some(({ litres }) => litres !== undefined)
  return { litresPerDay, evidence, counted }
}
