import fc from 'fast-check'
import { seeded } from '../simulate'
import { addDays, daysBetween } from '../units'
import { type FoundGrade, forecast, learnSpread, narrowing, readSurvivalCurve, survivalCurveOf, type WearInput } from '.'

const FITTED = '2026-01-01'
function input(more: Partial<WearInput> = {}, stage: Partial<WearInput['stage']> = {}): WearInput {
  return {
    today: FITTED,
    stage: { media: 'fluoride-media', fittedOn: FITTED, rated: { days: 365 }, site: { people: 3, source: 'municipal' }, ...stage },
    readings: [],
    past: [],
    school: 'earliest',
    ...more,
  }
}
const good = (one: WearInput) => {
  const result = forecast(one)
  if (!result.ok) throw new Error(result.reason)
  return result
}
const medianDays = (one: WearInput): number => daysBetween(one.stage.fittedOn, good(one).p50)
const windowDays = (one: WearInput): number => daysBetween(good(one).p10, good(one).p90)

const GRADES: FoundGrade[] = ['as-new', 'light', 'as-expected', 'heavy', 'spent']
const changes = (found: FoundGrade, count: number, every = 365): WearInput['past'] =>
  Array.from({ length: count }, (_, i) => ({
    fittedOn: addDays(FITTED, -every * (count - i)),
    removedOn: addDays(FITTED, -every * (count - i - 1)),
    found,
  }))

describe('what was found teaches the site', () => {
  test('the dirtier the past parts at the same interval, the earlier the next end', () => {
    const medians = GRADES.map((found) => medianDays(input({ past: changes(found, 2) })))
    for (let i = 1; i < medians.length; i++) expect(medians[i] as number).toBeLessThan(medians[i - 1] as number)
    expect(medians[0] as number).toBeGreaterThan(500)
    expect(medians[4] as number).toBeLessThan(280)
  })
  test('as expected three times keeps the median and narrows the window', () => {
    const told = input({ past: changes('as-expected', 3) })
    // Found between 75 % and 110 % of life at 365 days: lives around 365/0.92 ≈ 395 days.
    expect(Math.abs(medianDays(told) - 390)).toBeLessThan(25)
    expect(windowDays(told)).toBeLessThan(0.8 * windowDays(input()))
  })
  test('more changes, narrower windows', () => {
    const windows = [0, 1, 2, 4].map((count) => windowDays(input({ past: changes('as-expected', count) })))
    for (let i = 1; i < windows.length; i++) expect(windows[i] as number).toBeLessThan(windows[i - 1] as number)
  })
  test('counts in every school', () => {
    for (const school of ['calendar', 'usage', 'condition', 'earliest'] as const) {
      const spent = input({ school, past: changes('spent', 2) }, { rated: { days: 365, litres: 4000 } })
      expect(medianDays(spent)).toBeLessThan(medianDays({ ...spent, past: [] }))
    }
  })
  test('litres of the past part set the rate where no counter was read since', () => {
    const past = changes('as-expected', 1).map((one) => ({ ...one, litres: 7300 }))
    const told = input({ school: 'usage', past }, { rated: { litres: 4000 } })
    // 7,300 L in a year is 20 L a day; half a life more than rated was drawn and found as expected, so the site is kind too.
    expect(medianDays(told)).toBeGreaterThan(4000 / 20)
    expect(medianDays(told)).toBeLessThan(medianDays({ ...told, past: changes('as-expected', 1) }))
  })
})

describe('what cuts and what stretches a life', () => {
  const anyCase = fc.record({
    litres: fc.integer({ min: 500, max: 9000 }),
    counter: fc.integer({ min: 50, max: 1500 }),
    more: fc.integer({ min: 1, max: 800 }),
  })
  test('more litres never lengthen a life', () => {
    fc.assert(
      fc.property(anyCase, ({ litres, counter, more }) => {
        const at = (counterL: number) =>
          good(input({ today: addDays(FITTED, 60), readings: [{ on: addDays(FITTED, 60), counterL }] }, { rated: { days: 365, litres } }))
        expect(at(counter + more).p50 <= at(counter).p50).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  test('dirt past the stage before halves the rest', () => {
    const on = addDays(FITTED, 100)
    const plain = medianDays(input({ today: on }))
    const dirty = medianDays(input({ today: on }, { carryOver: [{ on, share: 0.5 }] }))
    expect(Math.abs(dirty - (100 + (plain - 100) / 2))).toBeLessThanOrEqual(2)
  })
  test('a closed winter pushes litres out and leaves the calendar', () => {
    const occupancy = [{ from: '2026-01-15', to: '2026-04-15', share: 0 }]
    const usage = input({ school: 'usage' }, { rated: { litres: 1800 } })
    expect(Math.abs(medianDays({ ...usage, occupancy }) - medianDays(usage) - 90)).toBeLessThanOrEqual(2)
    expect(good(input({ school: 'calendar', occupancy }))).toEqual(good(input({ school: 'calendar' })))
  })
})

describe('the survival curve that is stored', () => {
  const anyStage = fc.record({
    age: fc.integer({ min: 0, max: 700 }),
    days: fc.integer({ min: 90, max: 1500 }),
    found: fc.constantFrom(...GRADES),
  })
  test('read on any day, it says what the forecast says', () => {
    fc.assert(
      fc.property(anyStage, ({ age, days, found }) => {
        const one = input({ past: changes(found, 1) }, { rated: { days, litres: 4000 } })
        const curve = survivalCurveOf(one)
        if (!curve) throw new Error('no curve')
        const today = addDays(FITTED, age)
        const read = readSurvivalCurve(curve, today)
        const told = good({ ...one, today })
        for (const p of ['p10', 'p50', 'p90'] as const) {
          const exact = daysBetween(FITTED, told[p])
          expect(Math.abs(read[p] - exact)).toBeLessThan(2 + 0.02 * exact)
        }
      }),
      { numRuns: 40 },
    )
  })
})

describe('a part of unknown age', () => {
  test('ends earlier and within a wider share of its life than one known to be new', () => {
    const known = input()
    const unknown = input({}, { ageUnknown: true })
    expect(medianDays(unknown)).toBeLessThan(0.75 * medianDays(known))
    const relative = (one: WearInput): number => windowDays(one) / medianDays(one)
    expect(relative(unknown)).toBeGreaterThan(1.2 * relative(known))
  })
  test('the survival curve says what the forecast says, and both begin at the day it was first seen', () => {
    const unknown = input({ today: addDays(FITTED, 40) }, { ageUnknown: true })
    const curve = survivalCurveOf(unknown)
    if (!curve) throw new Error('no curve')
    expect(curve.fittedOn).toBe(FITTED)
    expect(curve.survival[0]).toBe(1)
    for (let i = 1; i < curve.survival.length; i++) expect(curve.survival[i] as number).toBeLessThanOrEqual(curve.survival[i - 1] as number)
    const told = good(unknown)
    expect(Math.abs(readSurvivalCurve(curve, unknown.today).p50 - daysBetween(FITTED, told.p50))).toBeLessThan(1.5)
  })
})

describe('what would narrow the window', () => {
  test('a counter for a part that lives on litres, a gauge pair for one that clogs', () => {
    const today = addDays(FITTED, 60)
    const byLitres = input({ today, school: 'usage' }, { rated: { litres: 2200 } })
    const [first] = narrowing(byLitres, good(byLitres))
    expect(first?.reading).toBe('counter')
    expect(first?.windowDaysAfter).toBeLessThan(0.9 * windowDays(byLitres))
    const clogs = input({ today, school: 'condition' }, { media: 'sediment', rated: { days: 183 } })
    expect(narrowing(clogs, good(clogs)).map(({ reading }) => reading)).toEqual(['pressure-pair'])
  })
  test('nothing to read, nothing promised', () => expect(narrowing(input(), good(input()))).toEqual([]))
})

describe('a firm’s own spread', () => {
  /** Stages with two past parts whose lives scatter by `site` between places and `unit` within one (standard deviations of the logarithm). */
  function fleet(site: number, unit: number): WearInput[] {
    const rng = seeded(5)
    return Array.from({ length: 150 }, () => {
      const place = site * rng.normal()
      const past = [2, 1].map((back) => {
        const share = 1 / Math.exp(place + unit * rng.normal())
        const found = share < 0.35 ? 'as-new' : share < 0.75 ? 'light' : share < 1.1 ? 'as-expected' : share < 1.5 ? 'heavy' : 'spent'
        return { fittedOn: addDays(FITTED, -365 * back), removedOn: addDays(FITTED, -365 * (back - 1)), found: found as FoundGrade }
      })
      return input({ past })
    })
  }
  test('is learned from its past changes, and stays ours where there are none', () => {
    expect(learnSpread([input()])).toEqual({ siteCv: 0.35, unitCv: 0.25, usageCv: 0.5 })
    const calm = learnSpread(fleet(0.15, 0.1))
    const wide = learnSpread(fleet(0.7, 0.5))
    expect(calm.siteCv).toBeLessThan(0.3)
    expect(calm.unitCv).toBeLessThan(0.25)
    expect(wide.siteCv).toBeGreaterThan(0.45)
    expect(wide.unitCv).toBeGreaterThan(0.25)
  })
  test('can be stopped', () => {
    let asked = 0
    learnSpread(fleet(0.3, 0.2).slice(0, 5), () => ++asked < 2)
    expect(asked).toBe(2)
  })
})
