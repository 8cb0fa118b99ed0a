import { addDays, daysBetween, fromEpochDay, toEpochDay } from '../../units'
import { dayOfChance, failureProbability, type SurvivalCurve } from '../../wear'

export interface StageWorth {
  /** Minutes of a technician's time that a day past the due day costs: risk grown beyond the life saved. */
  latePerDay: number
  /** Minutes that a day before the due day throws away: life not used, less the risk not run. */
  earlyPerDay: number
}

export interface WorthTerms {
  dueOn: string
  windowFrom: string
  windowTo: string
  /** Part and work of one change, minutes of a technician's time. */
  changeMin: number
  /** Median life, days. */
  medianDays: number
  /** What a day past the end costs, in days of life. */
  lateWorth: number
}

/** Days looked at between the ends of a window: enough for a mean of a smooth curve. */
const LOOKS = 8

/** What a day off the due day costs, in minutes, as the mean of the days looked at: after it up to a day, or before it from a day on. */
function offDue(curve: SurvivalCurve, { dueOn, changeMin, medianDays, lateWorth }: Omit<WorthTerms, 'windowFrom' | 'windowTo'>) {
  const saved = changeMin / Math.max(1, medianDays)
  const due = toEpochDay(dueOn)
  const marginal = (day: number): number => (failureProbability(curve, fromEpochDay(Math.round(day))) * lateWorth - 1) * saved
  const mean = (from: number, to: number): number => {
    let sum = 0
    for (let look = 0; look < LOOKS; look++) sum += marginal(from + ((to - from) * (look + 0.5)) / LOOKS)
    return sum / LOOKS
  }
  return {
    lateTo: (day: string): number => Math.max(0, mean(due, Math.max(toEpochDay(day), due + 1))),
    earlyFrom: (day: string): number => Math.max(0, -mean(Math.min(toEpochDay(day), due - 1), due)),
  }
}

/**
 * What leaving the due day costs a stage, a day and in minutes: the mean over its window, before and after the due day, of risk (chance of
 * having ended × what a day past the end costs) less life saved (cost of a change / median life). Both are nothing where the due day
 * is the end of the window.
 */
export function stageWorth(curve: SurvivalCurve, { windowFrom, windowTo, ...terms }: WorthTerms): StageWorth {
  const { lateTo, earlyFrom } = offDue(curve, terms)
  return { latePerDay: lateTo(windowTo), earlyPerDay: earlyFrom(windowFrom) }
}

/** Nobody is visited more often than every four weeks for what wears out faster: that wants a larger part, not more drives. */
const LEAST_INTERVAL_DAYS = 28

/** A coming change as a round and a year plan it: its window, what leaving the due day costs, and how often it comes round. */
export interface ComingDue extends StageWorth {
  dueOn: string
  windowFrom: string
  windowTo: string
  everyDays: number
  /** Before its window from this day on, where that saves more driving than it throws away; the window's first day where it may not. */
  soonestOn: string
  /** Minutes that a day before the due day throws away, as its mean from there on. */
  soonerPerDay: number
}

/** So much of a part's time may be given up, at most, for the sake of a drive that is made anyway. */
const MOST_GIVEN_UP = 0.2

/**
 * The coming change of what a survival curve tells of: priced by its own median life, coming round as long after as it has lasted until it
 * is due. `held`: its window is a promise, and none of its time is given up.
 */
export function comingDue(
  curve: SurvivalCurve,
  { held = false, ...terms }: Omit<WorthTerms, 'medianDays'> & { held?: boolean },
): ComingDue {
  const { dueOn, windowFrom, windowTo } = terms
  const medianDays = Math.max(LEAST_INTERVAL_DAYS, dayOfChance(curve, 0.5))
  const everyDays = Math.max(LEAST_INTERVAL_DAYS, daysBetween(curve.fittedOn, dueOn))
  const givenUp = addDays(dueOn, -Math.floor(MOST_GIVEN_UP * everyDays))
  const soonestOn = held || givenUp > windowFrom ? windowFrom : givenUp
  const { lateTo, earlyFrom } = offDue(curve, { ...terms, medianDays })
  const earlyPerDay = earlyFrom(windowFrom)
  return {
    dueOn,
    windowFrom,
    windowTo,
    latePerDay: lateTo(windowTo),
    earlyPerDay,
    everyDays,
    soonestOn,
    soonerPerDay: soonestOn === windowFrom ? earlyPerDay : earlyFrom(soonestOn),
  }
}
