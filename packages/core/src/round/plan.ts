import { lowerBound } from './bound'
import { roundCost } from './cost'
import { canStand, type Problem, problemOf } from './problem'
import { type SearchOptions, search } from './search'
import type { Solution } from './solution'
import type { RoundDay, RoundInput, RoundPlan } from './types'

/** A plan as it is handed on: technician-days with work, in the order of technicians and days. */
export function planOfSolution(s: Solution): RoundPlan {
  const { p } = s
  const { input } = p
  const days = s.routes.flatMap((sequence, route): RoundDay[] =>
    sequence.length === 0
      ? []
      : [
          {
            technician: (p.technicians[s.technicianOf(route)] as Problem['technicians'][number]).id,
            day: s.dayOf(route),
            stops: sequence.map((v) => ({
              visit: (input.visits[v] as RoundInput['visits'][number]).id,
              arriveMin: s.arrive[v] as number,
              startMin: s.start[v] as number,
              leaveMin: s.leave[v] as number,
            })),
            travelMin: s.travel[route] as number,
            workMin: s.service[route] as number,
            overtimeMin: s.over[route] as number,
          },
        ],
  )
  const unplanned = input.visits.flatMap(({ id }, v) => ((s.where[v] as number) < 0 ? [{ visit: id, why: whyNot(s, v) }] : []))
  return { days, unplanned, cost: roundCost(input, { days }).cost }
}

/** Why a visit found no place, the plainest reason first. */
function whyNot(s: Solution, v: number): string {
  const { p } = s
  const visit = p.input.visits[v] as RoundInput['visits'][number]
  const able = p.able[v] as number[]
  if (able.length === 0) return `nobody has the skills it wants: ${(visit.skills ?? []).join(', ')}`
  const days = Array.from({ length: p.nDays }, (_, day) => day).filter((day) => canStand(p, v, day))
  if (days.length === 0) return 'no day lies in its window that is neither closed nor forbidden by its pin'
  const someone = days.some((day) => able.some((t) => (p.technicians[t] as Problem['technicians'][number]).off[day] === 0))
  if (!someone) return 'whoever could do it is off on every day of its window'
  const before = p.pred[v] as number
  if (visit.after && (before < 0 || (s.where[before] as number) < 0)) return `${visit.after.visit}, which it follows, is not planned`
  if (visit.after) return `no day of its window keeps its gap after ${visit.after.visit}`
  return 'no day of its window has room for it: opening hours, working time, overtime or the van’s load'
}

/**
 * Plans a round. Deterministic for the same input and seed when it ends by its own rule or by `iterations`; `stop` ends it any time with
 * the best so far. What cannot be planned is named with the reason.
 */
export function planRound(input: RoundInput, options: SearchOptions = {}): RoundPlan {
  const p = problemOf(inOrder(input))
  // A small round is searched from several sides: each costs a moment, and one alone may end in a dell.
  const sides = options.iterations === undefined && p.nVisits > 1 && p.nVisits <= SMALL ? SIDES : 1
  let best: Solution | null = null
  for (let side = 0; side < sides && !(best && options.stop?.()); side++) {
    const found = search(p, input.seed + side * 7919, options)
    if (best === null || found.cost < best.cost) best = found
  }
  return { ...planOfSolution(best ?? search(p, input.seed, options)), lowerBound: lowerBound(input) }
}
const SMALL = 60
const SIDES = 4

const byId = <T extends { id: string }>(all: readonly T[]): T[] => [...all].sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0))
/** The order in which things were written down must not matter: the search sees them by id. */
const inOrder = (input: RoundInput): RoundInput => ({ ...input, visits: byId(input.visits), technicians: byId(input.technicians) })
