import fc from 'fast-check'
import { mulberry32 } from '../random'
import { planRound, problemOf, type RoundInput, roundCost, Solution } from '.'
import { isPlainTour, shortenTour } from './tour'

type Spot = readonly [x: number, y: number]
const WEIGHTS = { overtime: 2, unevenness: 0, change: 30 }

/** One long day from the first place round the others, a minute's work at each. */
const dayOf = (spots: readonly Spot[], more: Partial<RoundInput['visits'][number]> = {}): RoundInput => ({
  days: ['2026-03-02'],
  technicians: [{ id: 't', base: '0', fromMin: 0, toMin: 100_000, overtimeMin: 0, skills: [], daysOff: [] }],
  places: spots.map((_, index) => ({ id: String(index) })),
  travelMin: spots.map(([x, y]) => spots.map(([a, b]) => Math.hypot(x - a, y - b))),
  visits: spots.slice(1).map((_, index) => ({
    id: `v${String(index).padStart(3, '0')}`,
    place: String(index + 1),
    serviceMin: 1,
    dueDay: 0,
    windowDays: [0, 0],
    latePerDay: 0,
    earlyPerDay: 0,
    ...more,
  })),
  weights: WEIGHTS,
  seed: 1,
})

/** Visits in the order of the input. */
function asGiven(input: RoundInput): Solution {
  const s = new Solution(problemOf(input))
  for (let v = 0; v < s.p.nVisits; v++) s.insert(v, 0, v)
  return s
}

const spots = (count: number, seed: number): Spot[] => {
  const random = mulberry32(seed)
  return Array.from({ length: count }, () => [random() * 100, random() * 100] as const)
}

/** The shortest closed tour there is, by dynamic programming over subsets (Held and Karp 1962). */
function shortest(places: readonly Spot[]): number {
  const n = places.length
  const leg = (i: number, j: number): number =>
    Math.hypot((places[i]?.[0] ?? 0) - (places[j]?.[0] ?? 0), (places[i]?.[1] ?? 0) - (places[j]?.[1] ?? 0))
  const sets = 1 << (n - 1)
  const best = new Float64Array(sets * (n - 1)).fill(Number.POSITIVE_INFINITY)
  for (let j = 0; j < n - 1; j++) best[(1 << j) * (n - 1) + j] = leg(0, j + 1)
  for (let set = 1; set < sets; set++)
    for (let j = 0; j < n - 1; j++) {
      const here = best[set * (n - 1) + j] as number
      if (here === Number.POSITIVE_INFINITY) continue
      for (let k = 0; k < n - 1; k++) {
        if (set & (1 << k)) continue
        const at = (set | (1 << k)) * (n - 1) + k
        best[at] = Math.min(best[at] as number, here + leg(j + 1, k + 1))
      }
    }
  let least = Number.POSITIVE_INFINITY
  for (let j = 0; j < n - 1; j++) least = Math.min(least, (best[(sets - 1) * (n - 1) + j] as number) + leg(j + 1, 0))
  return least
}

test('a tour is never made longer, keeps every stop once, and costs what it says', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 12, max: 70 }),
      fc.integer({ min: 1, max: 1e6 }),
      fc.integer({ min: 0, max: 60 }),
      (stops, seed, kicks) => {
        const input = dayOf(spots(stops + 1, seed))
        const s = asGiven(input)
        const before = s.cost
        expect(shortenTour(s, 0, kicks, mulberry32(seed))).toBe(true)
        expect([...(s.routes[0] as number[])].sort((a, b) => a - b)).toEqual(Array.from({ length: stops }, (_, v) => v))
        expect(s.cost).toBeLessThanOrEqual(before + 1e-6)
        const stopsThen = (s.routes[0] as number[]).map((v) => ({
          visit: input.visits[v]?.id ?? '',
          arriveMin: s.arrive[v] as number,
          startMin: s.start[v] as number,
          leaveMin: s.leave[v] as number,
        }))
        const { cost, broken } = roundCost(input, { days: [{ technician: 't', day: 0, stops: stopsThen }] })
        expect(broken).toEqual([])
        expect(cost.total).toBeCloseTo(s.cost, 5)
      },
    ),
    { numRuns: 60 },
  )
})

test('with some kicks thirteen places are in the best order there is', () => {
  for (let seed = 1; seed <= 12; seed++) {
    const places = spots(13, seed)
    const s = asGiven(dayOf(places))
    shortenTour(s, 0, 400, mulberry32(seed))
    expect(s.travel[0]).toBeCloseTo(shortest(places), 6)
  }
})

test('places on a circle, given in any order, are gone round', () => {
  const n = 90
  const random = mulberry32(5)
  const circle = Array.from({ length: n }, (_, index): Spot => [Math.cos((2 * Math.PI * index) / n), Math.sin((2 * Math.PI * index) / n)])
  const shuffled = circle.map((spot) => ({ spot, at: random() })).sort((a, b) => a.at - b.at)
  const s = asGiven(dayOf(shuffled.map(({ spot }) => spot)))
  shortenTour(s, 0, 500, mulberry32(1))
  // The sides of a polygon of ninety corners.
  expect(s.travel[0]).toBeCloseTo(n * 2 * Math.sin(Math.PI / n), 6)
})

test('hours to keep, a few stops, and ways that are longer back are left to the other search', () => {
  const many = spots(20, 3)
  const shut = asGiven(dayOf(many, { open: [[0, 50_000]] }))
  const few = asGiven(dayOf(spots(6, 3)))
  const oneWay = dayOf(many)
  const uphill = { ...oneWay, travelMin: oneWay.travelMin.map((row, i) => row.map((leg, j) => (i < j ? leg * 1.5 : leg))) }
  for (const s of [shut, few, asGiven(uphill)]) {
    const before = s.snapshot()
    expect(shortenTour(s, 0, 50, mulberry32(1))).toBe(false)
    expect(s.snapshot()).toEqual(before)
  }
  expect([isPlainTour(shut, 0), isPlainTour(few, 0)]).toEqual([false, false])
  // And the whole search plans them all the same.
  expect(planRound(uphill, { iterations: 30 }).unplanned).toEqual([])
})

test('a search of hundreds of visits that is stopped hands out what it has, and breaks nothing', () => {
  const places = spots(61, 9)
  const one = dayOf(places)
  const days = Array.from({ length: 40 }, (_, index) => `2026-04-${String(index + 1).padStart(2, '0')}`).slice(0, 30)
  const visits = Array.from({ length: 400 }, (_, index) => ({
    ...(one.visits[index % 60] as RoundInput['visits'][number]),
    id: `w${String(index).padStart(3, '0')}`,
    serviceMin: 30,
    dueDay: index % 30,
    windowDays: [Math.max(0, (index % 30) - 6), Math.min(29, (index % 30) + 6)] as [number, number],
  }))
  const input: RoundInput = {
    ...one,
    days,
    visits,
    technicians: one.technicians.map((technician) => ({ ...technician, toMin: 960, overtimeMin: 60 })),
  }
  let asked = 0
  const plan = planRound(input, { stop: () => ++asked > 120 })
  expect(roundCost(input, plan).broken).toEqual([])
  const planned = plan.days.flatMap(({ stops }) => stops).length
  expect(planned).toBeGreaterThan(50)
  expect(planned + plan.unplanned.length).toBe(400)
  // Left alone for a while it plans as many as the days hold.
  const whole = planRound(input, { iterations: 5 })
  expect(roundCost(input, whole).broken).toEqual([])
  expect(whole.unplanned.length).toBeLessThan(plan.unplanned.length)
})
