import { inputOfSet } from '@evenround/contract/round-set'
import type { RoundSet, SetPlan } from '@evenround/contract/rounds'
import { fromPlan, planOfSolution, problemOf, type RoutePrice, routePrices } from '@evenround/core/round'
import { say } from '@evenround/core/words'

/** What carrying a visit to each day costs against leaving it; minutes, weighted as the firm weighs them. */
export interface CarryPrices {
  now: RoutePrice | null
  /** By `technician/day`. */
  to: Map<string, RoutePrice>
  /** The cheapest other place. */
  best: RoutePrice | null
}

export const keyOf = ({ technician, day }: { technician: string; day: number }): string => `${technician}/${day}`

/** Prices every place a visit could be carried to, before it is let go. */
export function carryPrices(set: RoundSet, plan: SetPlan, visitId: string): CarryPrices {
  const s = fromPlan(problemOf(inputOfSet(set)), plan)
  const v = set.visits.findIndex(({ id }) => id === visitId)
  if (v < 0) return { now: null, to: new Map(), best: null }
  const { now, routes } = routePrices(s, v)
  const stands = now as RoutePrice | null
  const others = routes.filter((one) => stands === null || keyOf(one) !== keyOf(stands))
  const best = others.reduce<RoutePrice | null>((least, one) => (least === null || one.total < least.total ? one : least), null)
  return { now: stands, to: new Map(routes.map((one) => [keyOf(one), one])), best }
}

export interface Term {
  words: string
  minutes: number
}

/** The difference two places make, term by term, in words; terms of less than a quarter of a minute are left out. */
export function termsOf(from: RoutePrice | null, to: RoutePrice): Term[] {
  const by = (key: 'travel' | 'overtime' | 'late' | 'early' | 'unevenness' | 'change'): number => to[key] - (from?.[key] ?? 0)
  const terms: Term[] = [
    { words: by('travel') >= 0 ? say`more driving` : say`less driving`, minutes: by('travel') },
    { words: say`overtime`, minutes: by('overtime') },
    { words: by('unevenness') <= 0 ? say`more even days` : say`less even days`, minutes: by('unevenness') },
    { words: say`risk`, minutes: by('late') },
    { words: by('early') <= 0 ? say`part life kept` : say`unused part life`, minutes: by('early') },
    { words: by('change') <= 0 ? say`back to its published day` : say`moves a published day`, minutes: by('change') },
  ]
  return terms.filter(({ minutes }) => Math.abs(minutes) >= 0.25)
}

/** "+ 31 min", "− 9 min", "± 0 min". */
export function signed(minutes: number): string {
  const whole = Math.round(minutes)
  return whole === 0 ? say`± 0 min` : say`${whole > 0 ? '+' : '−'} ${Math.abs(whole)} min`
}

/** Why a visit cannot stand on a day, as far as it can be said without trying. */
export function whyNot(set: RoundSet, visitId: string, { technician, day }: { technician: string; day: number }): string {
  const visit = set.visits.find(({ id }) => id === visitId)
  const person = set.technicians.find(({ id }) => id === technician)
  if (!visit || !person) return say`it is not in this plan`
  if (person.daysOff.includes(day)) return say`${person.name} is off that day`
  if (visit.skills.includes('wells') && !person.skills.includes('wells')) return say`${person.name} has no licence for wells`
  if (visit.skills.some((skill) => skill.startsWith('only:'))) return say`it goes on from earlier work of somebody else`
  if (visit.pinnedDay !== null && visit.pinnedDay !== day) return say`it is held to another day`
  if (day < visit.windowDays[0]) return say`it is before its window`
  if (day > visit.windowDays[1]) return say`it is past its window`
  if (visit.closedDays.includes(day)) return say`the place is shut, or the day is forbidden`
  return say`the day has no room for it: opening hours, working time or the van`
}

/** The plan with a visit carried to a place; the plan as it is where it does not fit there. */
export function carried(set: RoundSet, plan: SetPlan, visitId: string, to: RoutePrice): SetPlan {
  const s = fromPlan(problemOf(inputOfSet(set)), plan)
  const v = set.visits.findIndex(({ id }) => id === visitId)
  const t = set.technicians.findIndex(({ id }) => id === to.technician)
  if (v < 0 || t < 0) return plan
  s.remove(v)
  if (!s.insert(v, t * set.days.length + to.day, to.at)) return plan
  const { days, unplanned, cost } = planOfSolution(s)
  return { days, unplanned, cost }
}
