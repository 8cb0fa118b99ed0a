import { inputOfSet } from '@evenround/contract/round-set'
import { isFor, type Whose } from '@evenround/contract/round-sums'
import type { RoundSet, RoundVisitDto, SetPlan } from '@evenround/contract/rounds'
import { legsOf } from '@evenround/core/round'
import { sailingOf, travelOn } from '@evenround/core/round/roads'
import { addDays } from '@evenround/core/units'

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

/** Every working day of a week, stops or none, for one person or everybody. */
export function linesOf(set: RoundSet, plan: SetPlan, week: string, whose: Whose): Line[] {
  const legsOn = legsOf(inputOfSet(set))
  const visits = new Map(set.visits.map((visit) => [visit.id, visit]))
  const end = addDays(week, 6)
  return set.days.flatMap((iso, day) =>
    iso < week || iso > end
      ? []
      : set.technicians.flatMap((technician): Line[] => {
          if (!isFor(whose)(technician.id) || technician.daysOff.includes(day)) return []
          const planned = plan.days.find((one) => one.day === day && one.technician === technician.id)
          const legs = planned ? legsOn(planned) : []
          const travel = travelOn(set.travel, iso)
          const sails = legs.map(({ from, to, departMin }) => sailingOf(travel, from, to, departMin))
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

/** Visits that two plans have on different days or with different people. */
export function movedBetween(before: SetPlan, after: SetPlan): Set<string> {
  const placeOf = (plan: SetPlan): Map<string, string> =>
    new Map(plan.days.flatMap(({ technician, day, stops }) => stops.map(({ visit }) => [visit, `${technician}/${day}`] as const)))
  const [was, now] = [placeOf(before), placeOf(after)]
  return new Set([...new Set([...was.keys(), ...now.keys()])].filter((visit) => was.get(visit) !== now.get(visit)))
}
