import { planOfSolution } from '../plan'
import { problemOf } from '../problem'
import { fromPlan } from '../resume'
import { bestSpot } from '../spots'
import type { RoundDay, RoundInput, RoundPlan } from '../types'

/** Visits of a large round that found no place are tried on each day of their window this often at the most. */
const TRIES = 3

/**
 * Puts the parts of a firm's round together again, and what found no place in its part with whoever has room for it, cheapest day first.
 */
export function joinPlans(input: RoundInput, parts: readonly { days: readonly RoundDay[] }[]): RoundPlan {
  const p = problemOf(input)
  const s = fromPlan(p, { days: parts.flatMap(({ days }) => days) })
  for (let round = 0; round < TRIES; round++) {
    let placed = 0
    for (let v = 0; v < p.nVisits; v++) {
      if ((s.where[v] as number) >= 0) continue
      let best = { delta: Number.POSITIVE_INFINITY, at: -1, route: -1 }
      for (const t of p.able[v] as number[])
        for (let day = Math.max(0, p.firstDay[v] as number); day <= Math.min(p.nDays - 1, p.lastDay[v] as number); day++) {
          const route = t * p.nDays + day
          if (!s.mayStand(v, route)) continue
          const spot = bestSpot(s, v, route)
          if (spot.at >= 0 && spot.delta < best.delta) best = { ...spot, route }
        }
      if (best.route >= 0 && s.insert(v, best.route, best.at)) placed++
    }
    if (placed === 0) break
  }
  return planOfSolution(s)
}
