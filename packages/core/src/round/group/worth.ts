import { fromEpochDay, toEpochDay } from '../../units'
import { failureProbability, type SurvivalCurve } from '../../wear'

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

/**
 * What leaving the due day costs a stage, a day and in minutes: the mean over its window, before and after the due day, of risk (chance of
 * having ended × what a day past the end costs) less life saved (cost of a change / median life). Both are nothing where the due day
 * is the end of the window.
 */
export function stageWorth(
  curve: SurvivalCurve,
  { dueOn, windowFrom, windowTo, changeMin, medianDays, lateWorth }: WorthTerms,
): StageWorth {
  const saved = changeMin / Math.max(1, medianDays)
  const due = toEpochDay(dueOn)
  const marginal = (day: number): number => (failureProbability(curve, fromEpochDay(Math.round(day))) * lateWorth - 1) * saved
  const mean = (from: number, to: number): number => {
    let sum = 0
    for (let look = 0; look < LOOKS; look++) sum += marginal(from + ((to - from) * (look + 0.5)) / LOOKS)
    return sum / LOOKS
  }
  return {
    latePerDay: Math.max(0, mean(due, Math.max(toEpochDay(windowTo), due + 1))),
    earlyPerDay: Math.max(0, -mean(Math.min(toEpochDay(windowFrom), due - 1), due)),
  }
}
