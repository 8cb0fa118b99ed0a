import type { YearArea, YearCost, YearInput, YearWeek } from './types'

/** A whole day's minutes in an area are one day there, whatever is lost in adding them up. */
const WHOLE = 1e-9

/** Minutes on the way to and in an area in a week: there and back for each working day, and between its visits. */
export const travelIn = (area: YearArea, usualDayMin: number, minutes: number, visits: number): number => {
  if (visits === 0) return 0
  const days = Math.max(0, Math.ceil(minutes / (area.dayMin ?? usualDayMin) - WHOLE))
  return days * area.roundTripMin + visits * area.betweenMin
}

/** Each week's load of these minutes at sites and on the way, beside its level. */
export function weeksOf(
  { capacityMin }: Pick<YearInput, 'capacityMin'>,
  minutes: ArrayLike<number>,
  travel: ArrayLike<number>,
): YearWeek[] {
  const loads = capacityMin.map((_, week) => (minutes[week] as number) + (travel[week] as number))
  const load = loads.reduce((sum, one) => sum + one, 0)
  const capacity = capacityMin.reduce((sum, one) => sum + one, 0)
  return capacityMin.map((own, week) => ({
    week,
    minutes: minutes[week] as number,
    travelMin: travel[week] as number,
    loadMin: loads[week] as number,
    levelMin: capacity > 0 ? (load * own) / capacity : 0,
  }))
}

/** What loads cost; early and late are known by the chains, the minutes of getting in and ready by the visits. */
export function costOfWeeks(
  { capacityMin, weights }: Pick<YearInput, 'capacityMin' | 'weights'>,
  weeks: readonly YearWeek[],
  { readyMin, ...off }: { early: number; late: number; readyMin: number },
): YearCost {
  let [travel, unevenness, overload] = [0, 0, 0]
  for (const { week, travelMin, loadMin, levelMin } of weeks) {
    travel += travelMin
    if (levelMin > 0) unevenness += (loadMin - levelMin) ** 2 / levelMin
    overload += Math.max(0, loadMin - (capacityMin[week] as number))
  }
  const parts = {
    travel: weights.travel * travel,
    unevenness: weights.unevenness * unevenness,
    overload: weights.overload * overload,
    ...(weights.visits ? { visits: weights.visits * readyMin } : {}),
    ...off,
  }
  return { ...parts, total: Object.values(parts).reduce((sum, one) => sum + one, 0) }
}

/** Standard deviation over mean of load by capacity, over the weeks with capacity; 0 without load. */
export function variationOf({ capacityMin }: Pick<YearInput, 'capacityMin'>, weeks: readonly YearWeek[]): number {
  const shares = weeks.flatMap(({ week, loadMin }) => ((capacityMin[week] as number) > 0 ? [loadMin / (capacityMin[week] as number)] : []))
  const mean = shares.reduce((sum, one) => sum + one, 0) / shares.length
  if (!(mean > 0)) return 0
  return Math.sqrt(shares.reduce((sum, one) => sum + (one - mean) ** 2, 0) / shares.length) / mean
}
