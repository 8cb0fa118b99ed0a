import { say } from '../words'
import { dayCost, type Problem, problemOf } from './problem'
import { departures, EPS, fitOpen, travelAt } from './timing'
import { type RoundCost, type RoundInput, type RoundStop, UNPLANNED_COST } from './types'

export interface Broken {
  rule: string
  text: string
  visit?: string
  technician?: string
  day?: number
}
export interface GivenPlan {
  days: readonly { technician: string; day: number; stops: readonly RoundStop[] }[]
}

/** Cheapest drive that leaves at `dep` or later and is there by `by`; null where none is. */
function drive(p: Problem, day: number, dep: number, by: number, from: number, to: number): number | null {
  let best: number | null = null
  for (const one of departures(p, day, dep)) {
    const leg = travelAt(p, day, one, from, to)
    if (one + leg <= by + EPS && (best === null || leg < best)) best = leg
  }
  return best
}

/** The way home: the departure that is cheapest in travel and overtime together. */
function homeward(p: Problem, day: number, dep: number, from: number, technician: number): { leg: number; over: number } {
  const { base, toMin } = p.technicians[technician] as Problem['technicians'][number]
  const all = departures(p, day, dep).map((one) => {
    const leg = travelAt(p, day, one, from, base)
    return { leg, over: Math.max(0, one + leg - toMin) }
  })
  const price = ({ leg, over }: { leg: number; over: number }): number => leg + p.weights.overtime * over
  return all.reduce((best, one) => (price(one) < price(best) - EPS ? one : best))
}

const sumOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0)

/**
 * What a plan costs and what hard rule it breaks, worked out from the plan alone, by no code the search shares beside the roads. Never
 * refuses a wrong plan: what is broken is named and the rest is still priced. `p` is the input as it was read before, where it was.
 */
export function roundCost(input: RoundInput, plan: GivenPlan, p: Problem = problemOf(input)): { cost: RoundCost; broken: Broken[] } {
  const { visits, technicians, weights } = input
  const visitOf = new Map(visits.map(({ id }, v) => [id, v]))
  const technicianOf = new Map(technicians.map(({ id }, t) => [id, t]))
  const broken: Broken[] = []
  const seen = new Map<number, { day: number; stop: RoundStop }>()
  const loads = technicians.map(() => new Float64Array(p.nDays))
  const routes = new Set<string>()
  let [travel, overtime, late, early, change] = [0, 0, 0, 0, 0]
  for (const { technician, day, stops } of plan.days) {
    const t = technicianOf.get(technician)
    const at = { technician, day }
    if (t === undefined) {
      broken.push({ rule: 'technician', text: say`there is no technician ${technician}`, ...at })
      continue
    }
    if (!Number.isInteger(day) || day < 0 || day >= p.nDays) {
      broken.push({ rule: 'day', text: say`there is no day ${day}`, ...at })
      continue
    }
    const own = p.technicians[t] as Problem['technicians'][number]
    if (routes.has(`${t}/${day}`)) broken.push({ rule: 'twice', text: say`${technician} has day ${day} twice`, ...at })
    routes.add(`${t}/${day}`)
    if (own.off[day] === 1 && stops.length > 0) broken.push({ rule: 'day-off', text: say`${technician} is off on day ${day}`, ...at })
    const known = stops.flatMap((stop) => {
      const v = visitOf.get(stop.visit)
      if (v === undefined) {
        broken.push({ rule: 'visit', text: say`there is no visit ${stop.visit}`, visit: stop.visit, ...at })
        return []
      }
      return [{ v, stop }]
    })
    let [time, place, load, kg] = [own.fromMin, own.base, 0, 0]
    for (const { v, stop } of known) {
      const of = { visit: stop.visit, ...at }
      const to = p.place[v] as number
      const leg = drive(p, day, time, stop.arriveMin, place, to)
      if (leg === null)
        broken.push({ rule: 'travel', text: say`${stop.visit} is reached at ${stop.arriveMin}, sooner than the road allows`, ...of })
      const minutes = leg ?? travelAt(p, day, time, place, to)
      travel += minutes
      load += minutes + (p.serviceMin[v] as number)
      kg += p.loadKg[v] as number
      if (stop.startMin < stop.arriveMin - EPS)
        broken.push({ rule: 'start', text: say`${stop.visit} begins before anybody is there`, ...of })
      if (Math.abs(stop.leaveMin - stop.startMin - (p.serviceMin[v] as number)) > EPS)
        broken.push({
          rule: 'service',
          text: say`${stop.visit} is left ${stop.leaveMin - stop.startMin} minutes after its start, not ${p.serviceMin[v] ?? 0}`,
          ...of,
        })
      if (Math.abs(fitOpen(p, v, stop.startMin) - stop.startMin) > EPS)
        broken.push({ rule: 'open', text: say`${stop.visit} is not open for the whole service from ${stop.startMin}`, ...of })
      for (const text of dayRules(p, v, day, t)) broken.push({ ...text, ...of })
      const before = seen.get(v)
      if (before) broken.push({ rule: 'again', text: say`${stop.visit} is planned twice`, ...of })
      else {
        seen.set(v, { day, stop })
        const price = dayCost({ ...p, weights: { ...weights, change: 0 } }, v, day)
        if (day > (p.dueDay[v] as number)) late += price
        else early += price
        if ((p.promised[v] as number) >= 0 && p.promised[v] !== day) change += weights.change
      }
      time = stop.leaveMin
      place = to
    }
    if (known.length === 0) continue
    const home = homeward(p, day, time, place, t)
    travel += home.leg
    overtime += weights.overtime * home.over
    if (home.over > own.overtimeMin + EPS)
      broken.push({ rule: 'overtime', text: say`${technician} is back ${home.over} minutes late, over ${own.overtimeMin}`, ...at })
    if (kg > own.vanKg + EPS) broken.push({ rule: 'load', text: say`${kg} kg are loaded, over ${own.vanKg}`, ...at })
    const loadsOf = loads[t] as Float64Array
    loadsOf[day] = (loadsOf[day] as number) + load + home.leg
  }
  broken.push(...linkRules(p, seen))
  const unevenness = weights.unevenness * sumOf(loads.map((days, t) => deviation(days, p.technicians[t] as Problem['technicians'][number])))
  const unplanned = UNPLANNED_COST * (p.nVisits - seen.size)
  return {
    cost: {
      travel,
      overtime,
      late,
      early,
      unevenness,
      change,
      unplanned,
      total: travel + overtime + late + early + unevenness + change + unplanned,
    },
    broken,
  }
}

/** Σ (load − level)²/level over the days that are not off. */
function deviation(loads: Float64Array, { off, days, level: own }: Problem['technicians'][number]): number {
  if (days === 0) return 0
  const counted = [...loads].filter((_, day) => off[day] === 0)
  const level = own ?? sumOf(counted) / days
  return level > 0 ? sumOf(counted.map((load) => (load - level) ** 2)) / level : 0
}

function dayRules(p: Problem, v: number, day: number, t: number): { rule: string; text: string }[] {
  const { id } = p.input.visits[v] as RoundInput['visits'][number]
  const found: { rule: string; text: string }[] = []
  if (day < (p.firstDay[v] as number) || day > (p.lastDay[v] as number))
    found.push({ rule: 'window', text: say`${id} stands outside its window of days ${p.firstDay[v] ?? ''} to ${p.lastDay[v] ?? ''}` })
  if (p.closed[v]?.has(day)) found.push({ rule: 'closed', text: say`${id} is closed on day ${day}` })
  if ((p.pinned[v] as number) >= 0 && p.pinned[v] !== day)
    found.push({ rule: 'pinned', text: say`${id} is pinned to day ${p.pinned[v] ?? ''}` })
  if (!(p.able[v] as number[]).includes(t))
    found.push({ rule: 'skills', text: say`${p.technicians[t]?.id ?? ''} lacks a skill that ${id} wants` })
  return found
}

function linkRules(p: Problem, seen: ReadonlyMap<number, { day: number; stop: RoundStop }>): Broken[] {
  const found: Broken[] = []
  for (const [v, { day, stop }] of seen) {
    const { after, id } = p.input.visits[v] as RoundInput['visits'][number]
    if (!after) continue
    const earlier = seen.get(p.pred[v] as number)
    if (!earlier) {
      found.push({ rule: 'link', text: say`${id} is planned without ${after.visit}, which it follows`, visit: id, day })
      continue
    }
    const between = (p.midnight[day] as number) - (p.midnight[earlier.day] as number)
    const gap = (between + stop.startMin - earlier.stop.leaveMin) / 60
    if (gap < after.minGapH - EPS || gap > after.maxGapH + EPS)
      found.push({
        rule: 'link',
        text: say`${id} begins ${gap} hours after ${after.visit}, not ${after.minGapH} to ${after.maxGapH}`,
        visit: id,
        day,
      })
  }
  return found
}
