import { lowerBound } from './bound'
import { roundCost } from './cost'
import { type Problem, problemOf } from './problem'
import { type SearchOptions, search } from './search'
import type { Solution } from './solution'
import type { RoundDay, RoundInput, RoundPlan } from './types'
import { unplannedOf } from './unplanned'

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
  return { days, unplanned: unplannedOf(s), cost: roundCost(input, { days }, p).cost }
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
  return { ...planOfSolution(best ?? search(p, input.seed, options)), lowerBound: lowerBound(input, p) }
}
const SMALL = 60
const SIDES = 4

const byId = <T extends { id: string }>(all: readonly T[]): T[] => [...all].sort((a, b) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0))
/** The order in which things were written down must not matter: the search sees them by id. */
const inOrder = (input: RoundInput): RoundInput => ({ ...input, visits: byId(input.visits), technicians: byId(input.technicians) })
