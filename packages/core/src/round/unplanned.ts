import { say } from '../words'
import { canStand, type Problem } from './problem'
import type { Solution } from './solution'
import { bestSpot } from './spots'
import type { RoundInput } from './types'

/** Why a visit has no day; a closed list, so that a screen can say for each what to do. `free`: only nobody has planned it yet. */
export type UnplannedReason = 'skill' | 'pin' | 'shut' | 'off' | 'after' | 'gap' | 'full' | 'free'

export interface UnplannedVisit {
  visit: string
  reason: UnplannedReason
  /** The reason as a plain clause. */
  why: string
}

/** The reason and its clause, the most binding first: what no day could help, then what stands in the way on each day. */
function reasonFor(s: Solution, v: number): Omit<UnplannedVisit, 'visit'> {
  const { p } = s
  const visit = p.input.visits[v] as RoundInput['visits'][number]
  const able = p.able[v] as number[]
  const days = Array.from({ length: p.nDays }, (_, day) => day).filter((day) => canStand(p, v, day))
  if (able.length === 0)
    return { reason: 'skill', why: say`nobody who works in these weeks has the skill it needs: ${(visit.skills ?? []).join(', ')}` }
  if (days.length === 0)
    return visit.pinnedDay === undefined
      ? { reason: 'shut', why: say`the site is closed, or the visit forbidden, on every working day of its window` }
      : { reason: 'pin', why: say`it is pinned to a day outside its window, or on which the site is closed` }
  const works = (day: number): boolean => able.some((t) => (p.technicians[t] as Problem['technicians'][number]).off[day] === 0)
  if (!days.some(works)) return { reason: 'off', why: say`whoever could do it is off on every day of its window` }
  const before = p.pred[v] as number
  if (visit.after && (before < 0 || (s.where[before] as number) < 0))
    return { reason: 'after', why: say`${visit.after.visit}, which it follows, has no day` }
  const fits = s.routes.some((_, route) => s.mayStand(v, route) && bestSpot(s, v, route).at >= 0)
  if (fits) return { reason: 'free', why: say`there is a day with room for it: it has only not been planned` }
  if (visit.after) return { reason: 'gap', why: say`no day of its window keeps the gap asked for after ${visit.after.visit}` }
  return { reason: 'full', why: say`no day of its window has room for it within opening hours, working time, overtime and the van’s load` }
}

/** Every visit of a plan in the making that has no day, with the reason, in the order of the input. */
export const unplannedOf = (s: Solution): UnplannedVisit[] =>
  s.p.input.visits.flatMap(({ id }, v) => ((s.where[v] as number) < 0 ? [{ visit: id, ...reasonFor(s, v) }] : []))
