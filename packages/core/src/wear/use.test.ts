import { expectedUse, learnedUse, litresPerDayOf, type StatedUse, type Use, type WearInput } from '.'

const NOBODY: StatedUse = { stage: null, system: null, site: null }
const use = (by: Use['by'], amount: number, fillL: number | null = null): Use => ({ by, amount, fillL })
const CARBON = { media: 'carbon-block' as const, rated: { litres: 2200 } }
const HOUSE = { media: 'carbon-tank' as const, rated: { litres: 1_850_000 } }

test.each<[Use, number]>([
  [use('litres-a-day', 12), 12],
  // A quarter of a litre each.
  [use('drinks-a-day', 60), 15],
  [use('covers-a-day', 80), 48],
  // Seven fills of 25 L a week.
  [use('fills-a-week', 7, 25), 25],
  // 36 m³ over 91.3 days.
  [use('cubic-metres-a-quarter', 36), 36_000 / 91.310625],
])('%j is so many litres a day', (one, litres) => expect(litresPerDayOf(one)).toBeCloseTo(litres, 9))

test('the kind of place gives the first guess, by its people', () => {
  const guess = (kind: Parameters<typeof expectedUse>[1], people: number, stage: typeof CARBON | typeof HOUSE = CARBON) =>
    expectedUse({ ...stage, people }, kind, NOBODY, false)
  expect(guess('home', 3)).toEqual({ litresPerDay: 9, from: 'kind' })
  expect(guess('home', 3, HOUSE)).toEqual({ litresPerDay: 390, from: 'kind' })
  // Thirty guests of a café do not live there.
  expect(guess('cafe', 30).litresPerDay).toBeCloseTo(18, 9)
  // One person with a brush and a hose uses a van's tank, not three litres.
  expect(guess('cleaning-round', 1).litresPerDay).toBe(250)
})

test('what was said counts before the guess, the nearest first; a bill is the whole house’s', () => {
  const of = (said: Partial<StatedUse>, stage: typeof CARBON | typeof HOUSE = CARBON) =>
    expectedUse({ ...stage, people: 3 }, 'home', { ...NOBODY, ...said }, false)
  const drinks = use('drinks-a-day', 40)
  const bill = use('cubic-metres-a-quarter', 36)
  expect(of({ site: drinks })).toEqual({ litresPerDay: 10, from: 'site' })
  expect(of({ site: drinks, system: use('litres-a-day', 7) })).toEqual({ litresPerDay: 7, from: 'system' })
  expect(of({ system: use('litres-a-day', 7), stage: use('litres-a-day', 5) })).toEqual({ litresPerDay: 5, from: 'stage' })
  expect(of({ site: bill })).toEqual({ litresPerDay: 9, from: 'kind' })
  expect(of({ site: bill }, HOUSE)).toMatchObject({ from: 'site' })
  expect(of({ site: drinks }, HOUSE)).toMatchObject({ from: 'kind' })
  // Before one tap a stage of the house's kinds sees the tap's water.
  expect(expectedUse({ media: 'sediment', rated: {}, people: 2 }, 'home', NOBODY, true).litresPerDay).toBe(6)
})

test('what was counted replaces what was said, and says so', () => {
  const input: WearInput = {
    today: '2026-05-11',
    stage: {
      media: 'carbon-block',
      fittedOn: '2026-01-01',
      rated: { litres: 2200 },
      site: { people: 3, source: 'municipal', litresPerDay: 9 },
    },
    readings: [],
    past: [],
    school: 'earliest',
  }
  const stated = learnedUse(input)
  expect(stated.litresPerDay).toBeCloseTo(9, 9)
  expect(stated.counted).toBe(false)
  const counted = learnedUse({ ...input, readings: [{ on: '2026-04-11', counterL: 2000 }] })
  // 20 L a day over a hundred days speak louder than a guess of nine.
  expect(Math.abs(counted.litresPerDay - 20)).toBeLessThan(0.5)
  expect(counted.counted).toBe(true)
})
