import type { GivenPlan } from './cost'
import { type RoutePrice, routePrices } from './explain'
import { problemOf } from './problem'
import { fromPlan } from './resume'
import type { RoundInput, RoundTechnician, RoundVisit } from './types'

/**
 * What could be given up for a visit that has no day: its hold on a day, a day the site is shut or forbidden, its window, its hours, the
 * skill, a day off, the limit of overtime. In the order in which they are asked for.
 */
export const WAYS_OUT = ['unpin', 'shut-day', 'outside-window', 'other-hours', 'overtime', 'day-off', 'skill'] as const
export type WayOutKind = (typeof WAYS_OUT)[number]

/** The cheapest place a visit would have with one thing given up, priced as any other place is. */
export interface WayOut extends RoutePrice {
  kind: WayOutKind
}

/** Working days beyond either end of a window that are looked at. */
const BEYOND_DAYS = 10
/** Overtime beyond what is allowed, minutes a day. */
const MORE_OVERTIME_MIN = 120

type Given = Pick<RoundInput, 'visits' | 'technicians'>

/** The input with one thing given up for one visit; null where there is nothing to give up. */
function without(
  kind: WayOutKind,
  { days, visits, technicians }: Pick<RoundInput, 'days' | 'visits' | 'technicians'>,
  v: number,
): Given | null {
  const visit = visits[v] as RoundVisit
  const last = days.length - 1
  const other = (more: Partial<RoundVisit>): Given => ({
    technicians,
    visits: visits.map((one, index) => (index === v ? { ...one, ...more } : one)),
  })
  const others = (more: (one: RoundTechnician) => Partial<RoundTechnician>): Given => ({
    visits,
    technicians: technicians.map((one) => ({ ...one, ...more(one) })),
  })
  switch (kind) {
    case 'unpin': {
      const { pinnedDay, ...rest } = visit
      return pinnedDay === undefined ? null : { technicians, visits: visits.map((one, index) => (index === v ? rest : one)) }
    }
    case 'shut-day':
      return (visit.closedDays ?? []).length === 0 ? null : other({ closedDays: [] })
    case 'outside-window':
      return other({ windowDays: [Math.max(0, visit.windowDays[0] - BEYOND_DAYS), Math.min(last, visit.windowDays[1] + BEYOND_DAYS)] })
    case 'other-hours': {
      const { open, ...rest } = visit
      return open === undefined ? null : { technicians, visits: visits.map((one, index) => (index === v ? rest : one)) }
    }
    case 'overtime':
      return others(({ overtimeMin }) => ({ overtimeMin: overtimeMin + MORE_OVERTIME_MIN }))
    case 'day-off':
      return technicians.every(({ daysOff }) => daysOff.length === 0) ? null : others(() => ({ daysOff: [] }))
    case 'skill':
      return (visit.skills ?? []).length === 0 ? null : other({ skills: [] })
  }
}

/**
 * The ways out for a visit without a day: for each thing that could be given up, by itself, the cheapest place it would then have; the
 * cheapest first. Empty for a visit that has a day or could have one, and where no single thing helps. Throws nothing for an unknown visit.
 */
export function waysOut(input: RoundInput, plan: GivenPlan, visitId: string): WayOut[] {
  const v = input.visits.findIndex(({ id }) => id === visitId)
  if (v < 0) return []
  const asIs = fromPlan(problemOf(input), plan)
  if ((asIs.where[v] as number) >= 0 || routePrices(asIs, v).routes.length > 0) return []
  const found = WAYS_OUT.flatMap((kind): WayOut[] => {
    const given = without(kind, input, v)
    if (given === null) return []
    const { routes } = routePrices(fromPlan(problemOf({ ...input, ...given }), plan), v)
    const best = routes.reduce<RoutePrice | null>((least, one) => (least === null || one.total < least.total ? one : least), null)
    return best === null ? [] : [{ kind, ...best }]
  })
  return found.sort((a, b) => a.total - b.total)
}
