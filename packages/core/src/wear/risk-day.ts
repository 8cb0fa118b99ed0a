import { fromEpochDay, toEpochDay } from '../units'
import { type Belief, dayOfChance } from './belief'

/** What a change costs and what a day past the end costs, in any one money. */
export interface DueCosts {
  /** Part and work of one change. */
  change: number
  /** One day run past the end: complaint, fouled next stage, unsafe water. */
  latePerDay: number
  /** True where running over is cheap and harmless: the window may be wider. */
  harmless?: boolean
}

export interface RiskDay {
  dueOn: string
  windowFrom: string
  windowTo: string
}

const WINDOW = [0.02, 0.6] as const
const WIDE_WINDOW = [0.01, 0.75] as const

/**
 * How a belief becomes a plan's day. dueOn is the day on which one more day's risk (chance of having ended × latePerDay) costs as much
 * as one more day's life saves (change cost / median life); the window runs from the 2 % to the 60 % day, wider where running over
 * is harmless. Nothing is assumed of today's state, so the day does not creep while nobody looks.
 */
export function riskDay(belief: Belief, { change, latePerDay, harmless = false }: DueCosts): RiskDay {
  const fitted = toEpochDay(belief.fittedOn)
  const median = Math.max(1, dayOfChance(belief, 0.5))
  const savedPerDay = change / median
  const worthIt = Math.min(0.9, Math.max(0.005, savedPerDay / latePerDay))
  const [from, to] = harmless ? WIDE_WINDOW : WINDOW
  const day = (p: number): number => Math.floor(fitted + dayOfChance(belief, p))
  const due = day(worthIt)
  return { dueOn: fromEpochDay(due), windowFrom: fromEpochDay(Math.min(due, day(from))), windowTo: fromEpochDay(Math.max(due, day(to))) }
}
