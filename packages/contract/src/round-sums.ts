import { legsOf } from '@evenround/core/round'
import { sailingOf } from '@evenround/core/round/roads'
import { weekStart } from '@evenround/core/units'
import { inputOfSet } from './round-set'
import type { PlanSums, RoundSet, SetPlan, YearView } from './rounds'

/** One person's share of a round, or everybody's. */
export type Whose = string | 'all'
export const isFor = (whose: Whose) => (technician: string) => whose === 'all' || technician === whose

type WeekLoad = YearView['weeks'][number]

const mean = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length
const cv = (values: readonly number[]): number => {
  const level = mean(values)
  return level === 0 ? 0 : Math.sqrt(mean(values.map((value) => (value - level) ** 2))) / level
}

/** The year's weeks: the planned ones as planned, those beyond as they fall due; a person's share of the latter is alike for all. */
export function yearOf(set: RoundSet, plan: SetPlan, whose: Whose): YearView {
  const loads = new Map<string, number>()
  const days = new Map<string, number>()
  for (const iso of set.days) days.set(weekStart(iso), (days.get(weekStart(iso)) ?? 0) + 1)
  for (const { technician, day, travelMin, workMin } of plan.days) {
    if (!isFor(whose)(technician)) continue
    const week = weekStart(set.days[day] ?? set.today)
    loads.set(week, (loads.get(week) ?? 0) + travelMin + workMin)
  }
  const usual = Math.max(1, ...days.values())
  const share = whose === 'all' || set.technicians.length === 0 ? 1 : 1 / set.technicians.length
  const last = weekStart(set.days.at(-1) ?? set.today)
  const weeks = set.year.map(({ week, minutes }): WeekLoad => {
    const planned = week <= last
    return {
      week,
      minutes: planned ? (loads.get(week) ?? 0) : minutes * share,
      planned,
      part: planned && (days.get(week) ?? 0) < usual * 0.7,
    }
  })
  const whole = weeks.filter(({ planned, part }) => planned && !part).map(({ minutes }) => minutes)
  const after = weeks.filter(({ planned }) => !planned).map(({ minutes }) => minutes)
  return { weeks, level: mean(whole.some((minutes) => minutes > 0) ? whole : after), spread: cv(whole), beyond: cv(after) }
}

/** What a plan comes to. */
export function sumsOf(set: RoundSet, plan: SetPlan, whose: Whose): PlanSums {
  const input = inputOfSet(set)
  const visits = new Map(set.visits.map((visit) => [visit.id, visit]))
  const sums: PlanSums = { visits: 0, drivingMin: 0, ferries: 0, pulled: 0, lostMin: 0, unplanned: plan.unplanned.length }
  for (const line of plan.days) {
    if (!isFor(whose)(line.technician)) continue
    sums.drivingMin += line.travelMin
    sums.ferries += legsOf(input, line).filter(({ from, to, departMin }) => sailingOf(set.travel, from, to, departMin) !== null).length
    for (const { visit: id } of line.stops) {
      const visit = visits.get(id)
      if (!visit) continue
      sums.visits += 1
      const tasks = visit.stops.flatMap(({ tasks: own }) => own)
      sums.pulled += tasks.filter(({ pulledDays }) => pulledDays > 0).length
      sums.lostMin += tasks.reduce((sum, { lostMin }) => sum + lostMin, 0)
    }
  }
  return sums
}
