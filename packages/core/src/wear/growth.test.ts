import fc from 'fast-check'
import { addDays, daysBetween } from '../units'
import { forecast, permeateAt25, type WearInput, type WearReading } from '.'
import { at, exposureOf, through } from './exposure'

const FITTED = '2025-01-01'
const good = (input: WearInput) => {
  const result = forecast(input)
  if (!result.ok) throw new Error(result.reason)
  return result
}
const days = (on: string): number => daysBetween(FITTED, on)

/** A membrane whose passage doubles in `life` days, read every `every` days without noise. */
function membrane(life: number, every: number, until: number, more: Partial<WearInput> = {}): WearInput {
  const readings: WearReading[] = []
  for (let day = 0; day <= until; day += every)
    readings.push({ on: addDays(FITTED, day), feedTdsMgL: 300, productTdsMgL: 300 * 0.05 * 2 ** (day / life) })
  return {
    today: addDays(FITTED, until),
    stage: { media: 'membrane', fittedOn: FITTED, rated: { days: 913 }, site: { people: 3, source: 'municipal' } },
    readings,
    past: [],
    school: 'condition',
    ...more,
  }
}
const passage = (input: WearInput) => {
  const found = good(input).causes.find(({ cause }) => cause === 'passage')
  if (!found) throw new Error('no passage')
  return found
}

/** A sediment element on a counted house: the drop grows from 10 to 80 kPa in `litres`. */
function sediment(litres: number, perDay: number, until: number): WearInput {
  const readings: WearReading[] = []
  for (let day = 0; day <= until; day += 15) {
    readings.push({ on: addDays(FITTED, day), counterL: perDay * day, inKpa: 300, outKpa: 300 - 10 * 8 ** ((perDay * day) / litres) })
  }
  return {
    today: addDays(FITTED, until),
    stage: { media: 'sediment', fittedOn: FITTED, rated: { days: 183 }, site: { people: 3, source: 'municipal' } },
    readings,
    past: [],
    school: 'condition',
  }
}

describe('growth causes', () => {
  test('a passage that doubles in 600 days ends after about 600, the window far narrower than without readings', () => {
    const read = passage(membrane(600, 50, 550))
    // Twelve readings of 5.5 % each, 50 days apart: the slope is known to 0.055 / (50·√143) = 8 %, the prior's 913 days to 42 %,
    // so the prior moves the end by 0.08²/(0.08² + 0.42²) of ln(913/600), about 9 days, and being good at 550 by a few more.
    expect(Math.abs(days(read.p50) - 600)).toBeLessThan(30)
    const blind = passage(membrane(600, 50, 550, { readings: [] }))
    expect(daysBetween(read.p10, read.p90)).toBeLessThan(0.35 * daysBetween(blind.p10, blind.p90))
  })
  test('a drop that grows to 70 kPa over clean in 60,000 L ends there, at the counted rate', () => {
    const { p50 } = good(sediment(60_000, 400, 90))
    expect(Math.abs(days(p50) - 150)).toBeLessThan(8)
  })
  test('one wild reading among many moves the end by little and is named; one of two that lies past the limit is believed', () => {
    const calm = membrane(600, 50, 400)
    const wild = calm.readings.map((one, i) => (i === 5 ? { ...one, productTdsMgL: (one.productTdsMgL as number) * 10 } : one))
    expect(Math.abs(daysBetween(passage(calm).p50, passage({ ...calm, readings: wild }).p50))).toBeLessThan(30)
    expect(good({ ...calm, readings: wild }).doubted).toEqual([5])
    const two = membrane(900, 200, 200)
    const slip = two.readings.map((one, i) => (i === 1 ? { ...one, productTdsMgL: (one.productTdsMgL as number) * 10 } : one))
    const told = good({ ...two, readings: slip })
    expect(told.doubted).toEqual([])
    expect(told.ended).toBeGreaterThan(0.95)
  })
  test('a fixed floor of passage counts from where the membrane stands', () => {
    const input = membrane(600, 50, 400)
    // From 5 % at doubling in 600 days, 15 % comes after 600 × log2(3) = 951 days.
    const fixed = passage({ ...input, stage: { ...input.stage, limits: { passage: 0.15 } } })
    expect(Math.abs(days(fixed.p50) - 951)).toBeLessThan(60)
  })
  test('washing starts the loading over', () => {
    const input = sediment(60_000, 400, 120)
    const washed = { ...input, stage: { ...input.stage, washedOn: [addDays(FITTED, 119)] } }
    expect(days(good(washed).p50)).toBeGreaterThan(days(good(input).p50) + 40)
  })
  test('readings from before fitting or washing say nothing', () => {
    const input = membrane(600, 50, 400)
    const stray = { on: '2024-06-01', feedTdsMgL: 300, productTdsMgL: 200 }
    expect(good({ ...input, readings: [stray, ...input.readings] })).toEqual(good(input))
  })
  test('cold permeate is brought to 25 °C by the makers’ tables', () => {
    expect(permeateAt25(0.2, 25)).toBeCloseTo(0.2, 9)
    // e^(3020 · (1/283.15 − 1/298.15)) = 1.7105
    expect(permeateAt25(1, 10)).toBeCloseTo(1.7105, 3)
  })
  test('on average another reading does not widen the window', () => {
    let ratios = 0
    let count = 0
    fc.assert(
      fc.property(fc.integer({ min: 300, max: 1600 }), fc.integer({ min: 20, max: 90 }), (life, every) => {
        const until = Math.min(life - 30, 8 * every)
        const all = membrane(life, every, until)
        const fewer = { ...all, readings: all.readings.slice(0, -1) }
        const window = (input: WearInput): number => daysBetween(passage(input).p10, passage(input).p90)
        ratios += Math.log(window(all) / window(fewer))
        count++
      }),
      { numRuns: 60 },
    )
    expect(ratios / count).toBeLessThanOrEqual(0)
  })
})

describe('exposures', () => {
  test('weeks away stand still, and what is counted bends the exposure through it', () => {
    const exposure = exposureOf([{ from: 10, to: 20, rate: 0 }])
    expect([5, 10, 15, 20, 30].map((day) => at(exposure, day))).toEqual([5, 10, 10, 10, 20])
    const counted = through(exposure, [{ day: 30, value: 40 }])
    expect([10, 20, 30, 31].map((day) => at(counted, day))).toEqual([20, 20, 40, 41])
  })
  test('dirt that came through makes the rest run faster', () => {
    const exposure = exposureOf([{ from: 100, to: Number.POSITIVE_INFINITY, rate: 2 }])
    expect([100, 150].map((day) => at(exposure, day))).toEqual([100, 200])
  })
  test('never falls', () => {
    const stretch = fc.record({
      from: fc.integer({ min: -50, max: 300 }),
      length: fc.integer({ min: 0, max: 200 }),
      rate: fc.double({ min: 0, max: 3, noNaN: true }),
    })
    fc.assert(
      fc.property(
        fc.array(stretch, { maxLength: 6 }),
        fc.array(fc.integer({ min: 0, max: 600 }), { minLength: 2, maxLength: 10 }),
        (stretches, asked) => {
          const exposure = exposureOf(stretches.map(({ from, length, rate }) => ({ from, to: from + length, rate })))
          const values = [...asked].sort((a, b) => a - b).map((day) => at(exposure, day))
          for (let i = 1; i < values.length; i++) expect(values[i] as number).toBeGreaterThanOrEqual((values[i - 1] as number) - 1e-9)
        },
      ),
    )
  })
})
