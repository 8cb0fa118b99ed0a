import { legsOf } from '@evenround/core/round'
import { anySails, sailingOf, travelOn } from '@evenround/core/round/roads'
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
  const available = new Map<string, number>()
  for (const { id, fromMin, toMin, daysOff } of set.technicians) {
    if (!isFor(whose)(id)) continue
    const off = new Set(daysOff)
    set.days.forEach((iso, day) => {
      if (!off.has(day)) available.set(weekStart(iso), (available.get(weekStart(iso)) ?? 0) + toMin - fromMin)
    })
  }
  const sum = (values: Iterable<number>): number => [...values].reduce((all, one) => all + one, 0)
  const there = sum(available.values())
  // The middle one: a week with a disinfection's weekend in it has more days than weeks have.
  const counts = [...days.values()].sort((a, b) => a - b)
  const usual = Math.max(1, counts[Math.floor(counts.length / 2)] ?? 1)
  const share = whose === 'all' || set.technicians.length === 0 ? 1 : 1 / set.technicians.length
  const last = weekStart(set.days.at(-1) ?? set.today)
  const weeks = set.year.map(({ week, minutes }): WeekLoad => {
    const planned = week <= last
    return {
      week,
      minutes: planned ? (loads.get(week) ?? 0) : minutes * share,
      availableMin: planned ? (available.get(week) ?? 0) : null,
      planned,
      part: planned && (days.get(week) ?? 0) < usual * 0.7,
    }
  })
  const whole = weeks.filter(({ planned, part }) => planned && !part).map(({ minutes }) => minutes)
  const after = weeks.filter(({ planned }) => !planned).map(({ minutes }) => minutes)
  return {
    weeks,
    level: mean(whole.some((minutes) => minutes > 0) ? whole : after),
    filled: there > 0 ? sum(loads.values()) / there : null,
    spread: cv(whole),
    beyond: cv(after),
  }
}

const none = (plan: SetPlan): PlanSums => ({
  visits: 0,
  drivingMin: 0,
  ferries: 0,
  pulled: 0,
  lostMin: 0,
  unplanned: plan.unplanned.length,
})

/** What a plan comes to, for everybody and for each person of it. */
export function sumsByPerson(set: RoundSet, plan: SetPlan): Map<Whose, PlanSums> {
  // Only ferries are counted by their drives: where none sails nothing is put together for it.
  const legsOn = anySails(set.travel) ? legsOf(inputOfSet(set)) : () => []
  const visits = new Map(set.visits.map((visit) => [visit.id, visit]))
  const sums = new Map<Whose, PlanSums>(['all', ...set.technicians.map(({ id }) => id)].map((whose) => [whose, none(plan)]))
  for (const line of plan.days) {
    const seen = line.stops.flatMap(({ visit }) => visits.get(visit) ?? [])
    const tasks = seen.flatMap(({ stops }) => stops.flatMap(({ tasks: own }) => own))
    const travel = travelOn(set.travel, set.days[line.day] ?? set.today)
    const own = {
      drivingMin: line.travelMin,
      ferries: legsOn(line).filter(({ from, to, departMin }) => sailingOf(travel, from, to, departMin) !== null).length,
      visits: seen.length,
      pulled: tasks.filter(({ pulledDays }) => pulledDays > 0).length,
      lostMin: tasks.reduce((sum, { lostMin }) => sum + lostMin, 0),
    }
    for (const sum of [sums.get('all'), sums.get(line.technician)])
      if (sum) for (const name of ['drivingMin', 'ferries', 'visits', 'pulled', 'lostMin'] as const) sum[name] += own[name]
  }
  return sums
}

/** What one person's share of a plan comes to, or everybody's. */
export const sumsOf = (set: RoundSet, plan: SetPlan, whose: Whose): PlanSums => sumsByPerson(set, plan).get(whose) ?? none(plan)
