import type { GivenPlan } from './cost'
import type { Problem } from './problem'
import { Solution } from './solution'

/** A plan put into a problem as far as it still fits: stops in their order, what no longer fits is left out. */
export function fromPlan(p: Problem, plan: GivenPlan): Solution {
  const s = new Solution(p)
  const technicianOf = new Map(p.technicians.map(({ id }, t) => [id, t]))
  const visitOf = new Map(p.input.visits.map(({ id }, v) => [id, v]))
  let waiting = plan.days.flatMap(({ technician, day, stops }) => {
    const t = technicianOf.get(technician)
    return t === undefined
      ? []
      : stops.flatMap(({ visit }) => (visitOf.has(visit) ? [{ v: visitOf.get(visit) as number, route: t * p.nDays + day }] : []))
  })
  // What follows another comes after it, whatever technician has it.
  for (let before = -1; before !== waiting.length; ) {
    before = waiting.length
    waiting = waiting.filter(({ v, route }) => (s.where[v] as number) < 0 && !s.insert(v, route, (s.routes[route] as number[]).length))
  }
  return s
}
