import { inputOfSet } from '@evenround/contract/round-set'
import type { RoundSet, RoundVisitDto, SetPlan } from '@evenround/contract/rounds'
import { legsOf } from '@evenround/core/round'
import { sailingOf } from '@evenround/core/round/roads'
import { addDays, weekStart } from '@evenround/core/units'

export type Whose = string | 'all'

/** A technician's day as it is drawn. */
export interface Line {
  technician: string
  name: string
  day: number
  iso: string
  loadMin: number
  levelMin: number
  fromMin: number
  toMin: number
  homeMin: number | null
  stops: LineStop[]
  /** Drives with a sailing, for the arcs; the way home included. */
  ferries: { fromMin: number; toMin: number; sailsMin: number }[]
  drivingMin: number
  workMin: number
}
export interface LineStop {
  visit: RoundVisitDto
  departMin: number
  driveMin: number
  sailsMin: number | null
  startMin: number
  leaveMin: number
}

const isFor = (whose: Whose) => (technician: string) => whose === 'all' || technician === whose

/** Every working day of a week, stops or none, for one person or everybody. */
export function linesOf(set: RoundSet, plan: SetPlan, week: string, whose: Whose): Line[] {
  const input = inputOfSet(set)
  const visits = new Map(set.visits.map((visit) => [visit.id, visit]))
  const end = addDays(week, 6)
  return set.days.flatMap((iso, day) =>
    iso < week || iso > end
      ? []
      : set.technicians.flatMap((technician): Line[] => {
          if (!isFor(whose)(technician.id) || technician.daysOff.includes(day)) return []
          const planned = plan.days.find((one) => one.day === day && one.technician === technician.id)
          const legs = planned ? legsOf(input, planned) : []
          const sails = legs.map(({ from, to, departMin }) => sailingOf(set.travel, from, to, departMin))
          const stops = (planned?.stops ?? []).flatMap(({ visit: id, startMin, leaveMin }, index): LineStop[] => {
            const visit = visits.get(id)
            const leg = legs[index]
            return visit && leg
              ? [{ visit, departMin: leg.departMin, driveMin: leg.travelMin, sailsMin: sails[index] ?? null, startMin, leaveMin }]
              : []
          })
          const home = legs.at(-1)
          return [
            {
              technician: technician.id,
              name: technician.name,
              day,
              iso,
              loadMin: (planned?.travelMin ?? 0) + (planned?.workMin ?? 0),
              levelMin: technician.levelMin,
              fromMin: technician.fromMin,
              toMin: technician.toMin,
              homeMin: home ? home.departMin + home.travelMin : null,
              stops,
              ferries: legs.flatMap(({ departMin, travelMin }, index) =>
                sails[index] == null ? [] : [{ fromMin: departMin, toMin: departMin + travelMin, sailsMin: sails[index] }],
              ),
              drivingMin: planned?.travelMin ?? 0,
              workMin: planned?.workMin ?? 0,
            },
          ]
        }),
  )
}

export interface WeekLoad {
  week: string
  minutes: number
  /** Inside the days that are planned. */
  planned: boolean
  /** Fewer of its days are in the plan than a week has: it counts for no evenness. */
  part: boolean
}

export interface YearView {
  weeks: WeekLoad[]
  level: number
  /** Coefficient of variation of the planned weeks' loads, and of those beyond. */
  spread: number
  beyond: number
}

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

/** What a plan comes to, in the words of its summary. */
export interface PlanSums {
  visits: number
  drivingMin: number
  ferries: number
  pulled: number
  lostMin: number
  unplanned: number
}

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

/** Visits that two plans have on different days or with different people. */
export function movedBetween(before: SetPlan, after: SetPlan): Set<string> {
  const placeOf = (plan: SetPlan): Map<string, string> =>
    new Map(plan.days.flatMap(({ technician, day, stops }) => stops.map(({ visit }) => [visit, `${technician}/${day}`] as const)))
  const [was, now] = [placeOf(before), placeOf(after)]
  return new Set([...new Set([...was.keys(), ...now.keys()])].filter((visit) => was.get(visit) !== now.get(visit)))
}
