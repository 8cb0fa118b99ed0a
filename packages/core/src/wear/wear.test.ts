import fc from 'fast-check'
import { addDays, daysBetween } from '../units'
import {
  calendarFactor,
  chlorineFactor,
  forecast,
  peopleFactor,
  throughputFactor,
  usualLitresPerDay,
  type WearInput,
  type WearStage,
} from '.'

const stage = (more: Partial<WearStage> = {}): WearStage => ({
  media: 'carbon-block',
  fittedOn: '2026-01-01',
  rated: { days: 365 },
  site: { people: 3, source: 'municipal' },
  ...more,
})
const input = (more: Partial<WearInput> = {}): WearInput => ({
  today: '2026-01-01',
  stage: stage(),
  readings: [],
  past: [],
  school: 'earliest',
  ...more,
})

function good(one: WearInput) {
  const result = forecast(one)
  if (!result.ok) throw new Error(result.reason)
  return result
}

describe('factors of the reference life', () => {
  test.each([
    [1, 1.5],
    [2, 1],
    [4, 1],
    [5, 0.5],
    [12, 0.5],
  ])('%d people: %d', (people, factor) => expect(peopleFactor(people)).toBe(factor))
  test.each([
    [undefined, 1],
    [1, 1],
    [2, 0.5],
    [0.5, 1.5],
    [0, 1.5],
    [9, 0.33],
  ])('chlorine %s: %d', (chlorine, factor) => expect(chlorineFactor(chlorine)).toBe(factor))
  test('source acts on sediment, chlorine on carbon, people not on whole-house stages', () => {
    const well = { people: 3, source: 'drilled-well' as const, chlorineMgL: 2 }
    expect(calendarFactor(stage({ media: 'sediment', site: well }))).toBeCloseTo(0.67, 9)
    expect(calendarFactor(stage({ media: 'carbon-block', site: well }))).toBeCloseTo(0.5, 9)
    expect(throughputFactor(stage({ site: well }))).toBe(0.5)
    expect(throughputFactor(stage({ media: 'fluoride-media', site: well }))).toBe(1)
    expect(calendarFactor(stage({ rated: { litres: 74_000 }, site: { people: 9, source: 'municipal' } }))).toBe(1)
  })
  test('litres a day: 3 a person at a tap, 130 in the house, the site’s own figure before both', () => {
    expect(usualLitresPerDay(stage())).toBe(9)
    expect(usualLitresPerDay(stage({ rated: { litres: 74_000 } }))).toBe(390)
    expect(usualLitresPerDay(stage({ site: { people: 3, source: 'municipal', litresPerDay: 20 } }))).toBe(20)
  })
})

describe('forecast', () => {
  test('a new part with one cause: the median is the rated life, the window its log-normal', () => {
    const { p10, p50, p90, governing, remaining } = good(input({ stage: stage({ media: 'fluoride-media' }) }))
    expect(Math.abs(daysBetween('2026-01-01', p50) - 365)).toBeLessThanOrEqual(1)
    // sigma² = ln(1 + 0.25²) + ln(1 + 0.35²); 365·exp(∓1.28155·0.4203) = 213 and 626 days, by hand.
    expect(Math.abs(daysBetween('2026-01-01', p10) - 213)).toBeLessThanOrEqual(5)
    expect(Math.abs(daysBetween('2026-01-01', p90) - 626)).toBeLessThanOrEqual(10)
    expect(governing).toBe('calendar')
    expect(remaining).toBeCloseTo(1, 6)
  })
  test('litres decide where they run out first', () => {
    const result = good(input({ stage: stage({ rated: { days: 365, litres: 900 } }) }))
    expect(result.governing).toBe('throughput')
    // 900 L at 9 L a day: about a hundred days.
    const days = daysBetween('2026-01-01', result.p50)
    expect(days).toBeGreaterThan(70)
    expect(days).toBeLessThanOrEqual(101)
  })
  test('a counter replaces the guess about use', () => {
    const readings = [{ on: '2026-03-02', counterL: 600 }]
    const counted = good(input({ today: '2026-03-02', stage: stage({ rated: { litres: 2000 } }), readings, school: 'usage' }))
    const guessed = good(input({ today: '2026-03-02', stage: stage({ rated: { litres: 2000 } }), school: 'usage' }))
    // 600 L in 60 days is 10 L a day: 200 days in all.
    expect(Math.abs(daysBetween('2026-01-01', counted.p50) - 200)).toBeLessThan(10)
    expect(daysBetween(counted.p10, counted.p90)).toBeLessThan(daysBetween(guessed.p10, guessed.p90))
  })
  test('schools choose the causes; calendar stands in where a school leaves none', () => {
    const rated = { days: 365, litres: 900 }
    expect(good(input({ stage: stage({ rated }), school: 'calendar' })).causes.map(({ cause }) => cause)).toEqual(['calendar'])
    expect(good(input({ stage: stage({ rated }), school: 'usage' })).causes.map(({ cause }) => cause)).toEqual(['throughput'])
    expect(good(input({ stage: stage(), school: 'usage' })).governing).toBe('calendar')
  })
  test('a lamp burns day and night, a resin by what it takes up', () => {
    const lamp = good(input({ stage: stage({ media: 'uv-lamp', rated: { hours: 9000 } }) }))
    expect(lamp.governing).toBe('lamp')
    expect(Math.abs(daysBetween('2026-01-01', lamp.p50) - 375)).toBeLessThanOrEqual(1)
    const resin = good(
      input({
        stage: stage({
          media: 'deionising-resin',
          rated: { milliequivalents: 9900 },
          site: { people: 2, source: 'municipal', litresPerDay: 50 },
        }),
        readings: [{ on: '2026-01-01', feedTdsMgL: 180 }],
      }),
    )
    // 50 L × 180 mg/L / 50 = 180 meq a day: 55 days.
    expect(resin.governing).toBe('resin')
    expect(Math.abs(daysBetween('2026-01-01', resin.p50) - 55)).toBeLessThanOrEqual(1)
  })
  test('nothing rated gives a reason and no date', () => {
    expect(forecast(input({ stage: stage({ rated: {} }) }))).toEqual({ ok: false, reason: 'no-rated-life' })
  })
  test('a day before fitting is refused with both days', () => {
    expect(() => forecast(input({ today: '2025-12-31' }))).toThrow('fittedOn 2026-01-01, got 2025-12-31')
  })

  const anyInput = fc.record({
    age: fc.integer({ min: 0, max: 1500 }),
    days: fc.integer({ min: 30, max: 2000 }),
    litres: fc.integer({ min: 100, max: 19_000 }),
    people: fc.integer({ min: 1, max: 12 }),
  })
  const build = ({ age, days, litres, people }: { age: number; days: number; litres: number; people: number }): WearInput =>
    input({ today: addDays('2026-01-01', age), stage: stage({ rated: { days, litres }, site: { people, source: 'municipal' } }) })

  test('always fitted ≤ p10 ≤ p50 ≤ p90, shares sum to one, what remains and what is over are shares', () => {
    fc.assert(
      fc.property(anyInput, (one) => {
        const { p10, p50, p90, causes, remaining, ended } = good(build(one))
        expect('2026-01-01' <= p10 && p10 <= p50 && p50 <= p90).toBe(true)
        expect(ended >= 0 && ended <= 1).toBe(true)
        expect(causes.reduce((sum, { hazardShare }) => sum + hazardShare, 0)).toBeCloseTo(1, 6)
        expect(remaining).toBeGreaterThanOrEqual(0)
        expect(remaining).toBeLessThanOrEqual(1)
      }),
      { numRuns: 60 },
    )
  })
  test('more people never lengthen a life', () => {
    fc.assert(
      fc.property(anyInput, (one) => {
        expect(good(build({ ...one, people: one.people + 1 })).p50 <= good(build(one)).p50).toBe(true)
      }),
      { numRuns: 40 },
    )
  })
})
