import fc from 'fast-check'
import { addDays, daysBetween } from '../units'
import { forecast, type WearInput } from '.'
import { modelOf } from './model'
import { upperTail } from './normal'

interface Case {
  age: number
  days: number
  litres: number
  chlorineMgL: number
}
const anyCase = fc.record({
  age: fc.integer({ min: 0, max: 900 }),
  days: fc.integer({ min: 60, max: 1500 }),
  litres: fc.integer({ min: 300, max: 15_000 }),
  chlorineMgL: fc.double({ min: 0.1, max: 4, noNaN: true }),
})
const input = ({ age, days, litres, chlorineMgL }: Case): WearInput => ({
  today: addDays('2025-01-01', age),
  stage: { media: 'carbon-block', fittedOn: '2025-01-01', rated: { days, litres }, site: { people: 3, source: 'municipal', chlorineMgL } },
  readings: [],
  past: [],
  school: 'earliest',
})
function of(one: WearInput) {
  const result = forecast(one)
  if (!result.ok) throw new Error(result.reason)
  return result
}
const runs = { numRuns: 40 }

describe('laws of the forecast', () => {
  test('a longer rated life never ends earlier', () => {
    fc.assert(
      fc.property(anyCase, fc.integer({ min: 1, max: 400 }), (one, more) => {
        expect(of(input({ ...one, days: one.days + more })).p50 >= of(input(one)).p50).toBe(true)
        expect(of(input({ ...one, litres: one.litres + more * 10 })).p50 >= of(input(one)).p50).toBe(true)
      }),
      runs,
    )
  })
  test('more chlorine never lengthens a carbon’s life', () => {
    fc.assert(
      fc.property(anyCase, fc.double({ min: 0.1, max: 3, noNaN: true }), (one, more) => {
        expect(of(input({ ...one, chlorineMgL: one.chlorineMgL + more })).p50 <= of(input(one)).p50).toBe(true)
      }),
      runs,
    )
  })
  test('time alone teaches nothing: the same window a month later, more of it over, less of the life left', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        const [now, later] = [of(input(one)), of(input({ ...one, age: one.age + 30 }))]
        expect([later.p10, later.p50, later.p90]).toEqual([now.p10, now.p50, now.p90])
        expect(later.ended).toBeGreaterThanOrEqual(now.ended)
        expect(later.remaining).toBeLessThanOrEqual(now.remaining + 1e-6)
      }),
      runs,
    )
  })
  test('the earliest of two causes ends no later than either alone', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        const { p50, causes } = of(input(one))
        for (const cause of causes) expect(daysBetween(p50, cause.p50)).toBeGreaterThanOrEqual(0)
      }),
      runs,
    )
  })
  test('p10, p50 and p90 are the days within which the chance of being over crosses them', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        const { p10, p50, p90 } = of(input(one))
        const model = modelOf(input(one))
        if (model === null) throw new Error('no model')
        for (const [day, share] of [
          [p10, 0.1],
          [p50, 0.5],
          [p90, 0.9],
        ] as const) {
          const served = daysBetween('2025-01-01', day)
          // The root is found to a minute or two of the day's edge: so near to midnight either day is right.
          expect(1 - model.survival.all(served - 0.003)).toBeLessThanOrEqual(share)
          expect(1 - model.survival.all(served + 1.003)).toBeGreaterThanOrEqual(share)
        }
      }),
      { numRuns: 150 },
    )
  })
  test('the same input gives the same answer', () => {
    fc.assert(
      fc.property(anyCase, (one) => {
        expect(forecast(input(one))).toEqual(forecast(input(one)))
      }),
      runs,
    )
  })
})

describe('the normal tail', () => {
  // Standard normal table: P(Z > 1) = 0.158655, P(Z > 1.281552) = 0.1, P(Z > 1.959964) = 0.025; P(Z > 6) = 9.8659e-10.
  test.each([
    [0, 0.5],
    [1, 0.158655],
    [-1, 0.841345],
    [1.281552, 0.1],
    [1.959964, 0.025],
  ])('beyond %d with chance %d', (z, chance) => expect(upperTail(z)).toBeCloseTo(chance, 5))
  test('far out it keeps its relative size', () => {
    expect(upperTail(6) / 9.8659e-10).toBeCloseTo(1, 2)
    // Mills: P(Z > 12) = 1.776482e-33.
    expect(upperTail(12) / 1.776482e-33).toBeCloseTo(1, 3)
    expect([upperTail(-40), upperTail(Number.NEGATIVE_INFINITY)]).toEqual([1, 1])
  })
})
