import { dayCost, type Problem } from './problem'
import type { Solution } from './solution'
import { bestSpot } from './spots'
import type { RoundCost, RoundInput } from './types'
import { UNPLANNED_COST } from './types'

/** What standing on a day costs a visit, term by term, against not being planned; weighted minutes. */
export type DayPrice = Omit<RoundCost, 'unplanned'> & { technician: string; day: number }

export interface WhyThisDay {
  visit: string
  /** Null while it is not planned. */
  now: DayPrice | null
  /** The best place on each day that has one, in the order of days; the day it stands on as it stands. */
  days: DayPrice[]
  dayBefore: DayPrice | null
  dayAfter: DayPrice | null
  /** The cheapest other day. */
  runnerUp: DayPrice | null
}

type Terms = Omit<RoundCost, 'unplanned' | 'total'>

/** The parts of what a plan in the making costs. */
function termsOf(s: Solution): Terms {
  const { p } = s
  const { weights } = p
  const plain: Problem = { ...p, weights: { ...weights, change: 0 } }
  const terms: Terms = { travel: 0, overtime: 0, late: 0, early: 0, unevenness: 0, change: 0 }
  let direct = 0
  s.routes.forEach((_, route) => {
    terms.travel += s.travel[route] as number
    terms.overtime += weights.overtime * (s.over[route] as number)
  })
  for (let v = 0; v < p.nVisits; v++) {
    const route = s.where[v] as number
    if (route < 0) {
      direct += UNPLANNED_COST
      continue
    }
    const day = s.dayOf(route)
    const price = dayCost(plain, v, day)
    if (day > (p.dueDay[v] as number)) terms.late += price
    else terms.early += price
    if ((p.promised[v] as number) >= 0 && p.promised[v] !== day) terms.change += weights.change
  }
  terms.unevenness = s.cost - direct - terms.travel - terms.overtime - terms.late - terms.early - terms.change
  return terms
}

const KEYS = ['travel', 'overtime', 'late', 'early', 'unevenness', 'change'] as const
function priced(s: Solution, without: Terms, route: number): DayPrice {
  const now = termsOf(s)
  const price = {
    technician: (s.p.technicians[s.technicianOf(route)] as Problem['technicians'][number]).id,
    day: s.dayOf(route),
    total: 0,
  } as DayPrice
  for (const key of KEYS) {
    price[key] = now[key] - without[key]
    price.total += price[key]
  }
  return price
}

/** A place a visit could be carried to, with what that costs against where it stands now. */
export interface RoutePrice extends DayPrice {
  /** Its place among that day's stops. */
  at: number
}

interface Prices {
  now: DayPrice | null
  routes: RoutePrice[]
}

/**
 * What a visit costs on every day of everybody who may have it, term by term against not being planned, the rest of the plan left as it
 * is. The plan is given back as it was. What follows the visit by a link keeps its place where it can; where it cannot the day is not offered.
 */
export function routePrices(s: Solution, v: number): Prices {
  const whole = s.snapshot()
  const here = s.where[v] as number
  const at = here < 0 ? -1 : (s.routes[here] as number[]).indexOf(v)
  const followers = s.remove(v).filter((one) => one !== v)
  const places = followers.map((one) => ({ one, route: whole.findIndex((route) => route.includes(one)) }))
  const without = termsOf(s)
  /** Prices a place with everything that follows back where it was. */
  const price = (route: number, spot: number): DayPrice | null => {
    if (!s.insert(v, route, spot)) return null
    const back = [...places]
      .reverse()
      .every(({ one, route: own }) =>
        s.insert(one, own, Math.min((whole[own] as number[]).indexOf(one), (s.routes[own] as number[]).length)),
      )
    const made = back ? priced(s, without, route) : null
    s.remove(v)
    return made
  }
  const routes: RoutePrice[] = []
  for (let route = 0; route < s.routes.length; route++) {
    if (!s.mayStand(v, route)) continue
    const spot = route === here ? at : bestSpot(s, v, route).at
    const made = spot < 0 ? null : price(route, spot)
    if (made) routes.push({ ...made, at: spot })
  }
  s.restore(whole)
  const { technicians, nDays } = s.p
  const own = here < 0 ? null : { technician: technicians[Math.floor(here / nDays)]?.id, day: s.dayOf(here) }
  return { now: routes.find(({ technician, day }) => technician === own?.technician && day === own?.day) ?? null, routes }
}

/** Why a visit stands on its day: the best place on every other day, term by term, and of those the day before, after and the cheapest. */
export function whyThisDay(s: Solution, v: number): WhyThisDay {
  const visit = (s.p.input.visits[v] as RoundInput['visits'][number]).id
  const { now, routes } = routePrices(s, v)
  const best = new Map<number, DayPrice>()
  for (const { at: _, ...price } of routes) {
    const known = best.get(price.day)
    const stands = price.day === now?.day && price.technician === now?.technician
    if (stands || known === undefined || (price.total < known.total && price.day !== now?.day)) best.set(price.day, price)
  }
  const days = [...best.values()].sort((a, b) => a.day - b.day)
  const on = (day: number): DayPrice | null => days.find((one) => one.day === day) ?? null
  const others = days.filter(({ day }) => day !== now?.day).sort((a, b) => a.total - b.total)
  return {
    visit,
    now: now ? on(now.day) : null,
    days,
    dayBefore: now ? on(now.day - 1) : null,
    dayAfter: now ? on(now.day + 1) : null,
    runnerUp: others[0] ?? null,
  }
}
