import fc from 'fast-check'
import { addDays } from '../units'
import type { WearInput } from '.'
import { at } from './exposure'
import { usageOf } from './usage'

const FITTED = '2026-01-01'
const on = (day: number): string => addDays(FITTED, day)
const input = (more: Partial<WearInput> = {}, stage: Partial<WearInput['stage']> = {}): WearInput => ({
  today: on(200),
  stage: { media: 'carbon-block', fittedOn: FITTED, rated: { litres: 2200 }, site: { people: 3, source: 'municipal' }, ...stage },
  readings: [],
  past: [],
  school: 'usage',
  ...more,
})
const counters = (...marks: [day: number, litres: number][]) => marks.map(([day, counterL]) => ({ on: on(day), counterL }))

test('nobody counted: three litres a head, and a wide guess', () => {
  const { litresPerDay, sigma, evidence } = usageOf(input())
  expect(litresPerDay).toBeCloseTo(9, 9)
  // sqrt(ln(1 + 0.5²)) = 0.472, and the weeks' own scatter on top.
  expect(sigma).toBeGreaterThan(0.47)
  expect(sigma).toBeLessThan(0.49)
  expect(evidence).toBe('3 people, no counter')
})

test('a counter over months makes the rate its own', () => {
  const { litresPerDay, sigma } = usageOf(input({ readings: counters([100, 2000]) }))
  expect(litresPerDay).toBeGreaterThan(19)
  expect(litresPerDay).toBeLessThan(20)
  expect(sigma).toBeLessThan(0.12)
})

test('the exposure passes through every count, in days of the believed rate', () => {
  const usage = usageOf(input({ readings: counters([30, 900], [60, 1200], [120, 2400]) }))
  for (const [day, litres] of [
    [30, 900],
    [60, 1200],
    [120, 2400],
  ] as const)
    expect(at(usage.exposure, day) * usage.litresPerDay).toBeCloseTo(litres, 6)
})

test('among three counts one far over both its neighbours is left out; a count that fell is a counter begun anew', () => {
  const calm = usageOf(input({ readings: counters([50, 500], [150, 1500]) }))
  const slip = usageOf(input({ readings: counters([50, 500], [100, 10_000], [150, 1500]) }))
  expect(slip.litresPerDay).toBeCloseTo(calm.litresPerDay, 9)
  const fallen = usageOf(input({ readings: counters([50, 5000], [100, 900]) }))
  const whole = usageOf(input({ readings: counters([50, 5000], [100, 5900]) }))
  expect(fallen.litresPerDay).toBeCloseTo(whole.litresPerDay, 9)
})

test('weeks away are no days of usual use, before and after the count', () => {
  const occupancy = [{ from: on(20), to: on(50), share: 0 }]
  const away = usageOf(input({ occupancy, readings: counters([80, 1000]) }))
  // 80 days less 30 away: a thousand litres in fifty days.
  expect(away.litresPerDay).toBeGreaterThan(18.5)
  expect(at(away.exposure, 50)).toBeCloseTo(at(away.exposure, 20), 9)
})

test('litres of the part before speak, less surely than those of this one', () => {
  const past = [{ fittedOn: on(-365), removedOn: on(0), litres: 7300, found: 'as-expected' as const }]
  const told = usageOf(input({ past }))
  expect(told.litresPerDay).toBeGreaterThan(17)
  expect(told.litresPerDay).toBeLessThan(20)
  const both = usageOf(input({ past, readings: counters([200, 1000]) }))
  expect(both.litresPerDay).toBeLessThan(9)
  expect(both.evidence).toMatch(/^counter at 1000 L/)
})

test('dirt that came through makes every later day count double', () => {
  const usage = usageOf(input({}, { carryOver: [{ on: on(40), share: 0.5 }] }))
  expect(at(usage.exposure, 40)).toBeCloseTo(40, 9)
  expect(at(usage.exposure, 50)).toBeCloseTo(60, 9)
})

test('the exposure never runs backwards, whatever was counted', () => {
  const marks = fc.array(fc.record({ day: fc.integer({ min: 1, max: 400 }), litres: fc.integer({ min: 0, max: 9000 }) }), { maxLength: 8 })
  fc.assert(
    fc.property(marks, (list) => {
      const { exposure, litresPerDay } = usageOf(input({ readings: list.map(({ day, litres }) => ({ on: on(day), counterL: litres })) }))
      expect(litresPerDay).toBeGreaterThan(0)
      for (let day = 1; day < 450; day += 7) expect(at(exposure, day)).toBeGreaterThanOrEqual(at(exposure, day - 1) - 1e-9)
    }),
  )
})
