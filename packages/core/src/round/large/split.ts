import { plainLeg, problemOf } from '../problem'
import { landAmong } from '../roads/over-land'
import type { RoundInput } from '../types'

/** One technician's share of a firm's round. */
export interface RoundPart {
  technician: string
  input: RoundInput
}

/** Of a working day this much is filled by what a technician is given: the rest is for what comes in. */
const FILL = 0.92
/** Share of the way from the base and back that a visit costs when it stands among others of its day. */
const SHARE_OF_WAY = 0.35

/**
 * Parts a firm's round by technician: visits go where their way from the base is shortest, those with most to lose by going elsewhere
 * first, as long as there is time; linked visits go together. Each part is a round of its own, with only the places it needs. Technicians
 * without a visit get no part. Deterministic; visits nobody has the skills for are in no part.
 */
export function splitRound(input: RoundInput): RoundPart[] {
  const p = problemOf(input)
  const leg = plainLeg(p)
  const room = p.technicians.map(({ days, fromMin, toMin }) => days * (toMin - fromMin) * FILL)
  const way = (t: number, v: number): number => {
    const base = (p.technicians[t] as { base: number }).base
    const place = p.place[v] as number
    return leg(base, place) + leg(place, base)
  }
  const loose = new Set(p.place.keys())
  const bundles: number[][] = p.chains.map((chain) => [...chain])
  for (const chain of p.chains) for (const v of chain) loose.delete(v)
  for (const v of loose) bundles.push([v])
  const wanted = bundles.map((visits) => {
    const able = (p.able[visits[0] as number] as number[]).filter((t) => visits.every((v) => (p.able[v] as number[]).includes(t)))
    const ways = able.map((t) => ({ t, way: visits.reduce((sum, v) => sum + way(t, v), 0) })).sort((a, b) => a.way - b.way || a.t - b.t)
    const regret = ways.length < 2 ? Number.POSITIVE_INFINITY : (ways[1]?.way ?? 0) - (ways[0]?.way ?? 0)
    return { visits, ways, regret, key: input.visits[visits[0] as number]?.id ?? '' }
  })
  wanted.sort((a, b) => b.regret - a.regret || (a.key < b.key ? -1 : 1))
  const own: number[][] = p.technicians.map(() => [])
  for (const { visits, ways } of wanted) {
    const service = visits.reduce((sum, v) => sum + (p.serviceMin[v] as number), 0)
    const takes = ({ t, way: long }: { t: number; way: number }): boolean => (room[t] as number) >= service + SHARE_OF_WAY * long
    const chosen = ways.find(takes) ?? [...ways].sort((a, b) => (room[b.t] as number) - (room[a.t] as number))[0]
    if (!chosen) continue
    own[chosen.t]?.push(...visits)
    room[chosen.t] = (room[chosen.t] as number) - service - SHARE_OF_WAY * chosen.way
  }
  return own.flatMap((visits, t) =>
    visits.length === 0 ? [] : [{ technician: p.technicians[t]?.id ?? '', input: partOf(input, t, visits) }],
  )
}

/** The round of one technician with these visits. */
function partOf(input: RoundInput, t: number, visits: readonly number[]): RoundInput {
  const technician = input.technicians[t] as RoundInput['technicians'][number]
  const taken = visits.map((v) => input.visits[v] as RoundInput['visits'][number])
  const needed = new Set([technician.base, ...taken.map(({ place }) => place)])
  const rows = input.places.flatMap(({ id }, index) => (needed.has(id) ? [index] : []))
  const cut = (matrix: readonly (readonly number[])[]): number[][] =>
    rows.map((from) => rows.map((to) => (matrix[from] as readonly number[])[to] as number))
  return {
    ...input,
    technicians: [technician],
    places: rows.map((row) => input.places[row] as { id: string }),
    travelMin: input.land ? [] : cut(input.travelMin),
    ...(input.land ? { land: landAmong(input.land, rows) } : {}),
    ...(input.travelByHour ? { travelByHour: input.travelByHour.map((step) => ({ ...step, travelMin: cut(step.travelMin) })) } : {}),
    visits: taken,
  }
}
