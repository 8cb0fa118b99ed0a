import fc from 'fast-check'
import { fromPlan, legsOf, planRound, problemOf, type RoundInput, roundCost, routePrices } from '.'
import { drawRound } from './drawn'

const input: RoundInput = {
  days: ['2026-03-02'],
  technicians: [{ id: 't', base: 'o', fromMin: 480, toMin: 960, overtimeMin: 60, skills: [], daysOff: [] }],
  places: [{ id: 'o' }, { id: 'a' }],
  travelMin: [
    [0, 60],
    [60, 0],
  ],
  travelByHour: [
    {
      fromMin: 540,
      travelMin: [
        [0, 20],
        [20, 0],
      ],
    },
  ],
  visits: [{ id: 'x', place: 'a', serviceMin: 30, dueDay: 0, windowDays: [0, 0], latePerDay: 0, earlyPerDay: 0 }],
  weights: { overtime: 2, unevenness: 0, change: 0 },
  seed: 1,
}

test('by hand: the drive waits for the better road, and is left as late as it still arrives', () => {
  const [line] = planRound(input).days
  expect(line?.stops[0]).toMatchObject({ arriveMin: 560, leaveMin: 590 })
  if (!line) throw new Error('no day was planned')
  expect(legsOf(input)(line)).toEqual([
    { from: 'o', to: 'a', departMin: 540, travelMin: 20 },
    { from: 'a', to: 'o', departMin: 590, travelMin: 20 },
  ])
  expect(legsOf(input)({ technician: 't', day: 0, stops: [] })).toEqual([])
  expect(legsOf(input)({ technician: 'nobody', day: 0, stops: [] })).toEqual([])
})

test('the drives of a plan’s days add up to its travel, follow one another and are there in time', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 500 }), fc.boolean(), (seed, byHour) => {
      const drawn = drawRound(seed, { visits: 14, days: 3, technicians: 2, rich: true, byHour })
      for (const line of planRound(drawn, { iterations: 25 }).days) {
        const legs = legsOf(drawn)(line)
        expect(legs).toHaveLength(line.stops.length + 1)
        expect(legs.reduce((sum, { travelMin }) => sum + travelMin, 0)).toBeCloseTo(line.travelMin, 5)
        legs.forEach(({ from, to, departMin, travelMin }, index) => {
          if (index > 0) {
            expect(from).toBe(legs[index - 1]?.to)
            expect(departMin).toBeGreaterThanOrEqual((line.stops[index - 1]?.leaveMin ?? 0) - 1e-6)
          }
          const stop = line.stops[index]
          if (stop) expect(departMin + travelMin).toBeLessThanOrEqual(stop.arriveMin + 1e-6)
          else expect(to).toBe(legs[0]?.from)
        })
      }
    }),
    { numRuns: 40 },
  )
})

test('what carrying a visit anywhere is said to cost is what the whole plan then costs more', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 500 }), fc.boolean(), (seed, byHour) => {
      const drawn = drawRound(seed, { visits: 10, days: 3, technicians: 2, rich: true, byHour })
      const s = fromPlan(problemOf(drawn), planRound(drawn, { iterations: 25 }))
      const before = s.cost
      const free = drawn.visits.findIndex(({ id, after }) => !after && drawn.visits.every((other) => other.after?.visit !== id))
      const { now, routes } = routePrices(s, free)
      expect(s.cost).toBeCloseTo(before, 6)
      if (!now) return
      for (const { technician, day, at, total } of routes) {
        const route = drawn.technicians.findIndex(({ id }) => id === technician) * drawn.days.length + day
        const whole = s.snapshot()
        s.remove(free)
        expect(s.insert(free, route, at)).toBe(true)
        expect(s.cost - before).toBeCloseTo(total - now.total, 5)
        s.restore(whole)
      }
    }),
    { numRuns: 40 },
  )
})

test('a plan put on the clock costs what the check says, with a level of one’s own too', () => {
  for (let seed = 1; seed <= 10; seed++) {
    const drawn = drawRound(seed, { visits: 12, days: 3, technicians: 2, rich: true, byHour: seed % 2 === 0 })
    const s = fromPlan(problemOf(drawn), planRound(drawn, { iterations: 25 }))
    const plan = planRound(drawn, { iterations: 25 })
    expect(s.cost).toBeCloseTo(roundCost(drawn, plan).cost.total, 5)
  }
})
