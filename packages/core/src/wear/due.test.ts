import fc from 'fast-check'
import { addDays, daysBetween } from '../units'
import { type DueRule, dueOf, forecast, type WearInput, type WearStage } from '.'

const input = (more: Partial<WearInput> = {}, stage: Partial<WearStage> = {}): WearInput => ({
  today: '2026-01-01',
  stage: { media: 'fluoride-media', fittedOn: '2026-01-01', rated: { days: 365 }, site: { people: 3, source: 'municipal' }, ...stage },
  readings: [],
  past: [],
  school: 'earliest',
  ...more,
})
const due = (one: WearInput, rule: DueRule) => {
  const found = dueOf(one, rule)
  if (found === null) throw new Error('nothing rated')
  return found
}
const EVIDENCE: DueRule = { by: 'evidence' }

describe('label', () => {
  test.each([
    [{ days: 365 }, '2027-01-01'],
    // Three people at a tap draw 9 L a day: 900 L in a hundred days.
    [{ days: 365, litres: 900 }, '2026-04-11'],
    // 9 L × 180 mg/L ÷ 50 = 32.4 meq a day: 3,240 in a hundred.
    [{ milliequivalents: 3240 }, '2026-04-11'],
    // Day and night: 2,400 h in a hundred days.
    [{ hours: 2400 }, '2026-04-11'],
  ])('the first rated value that is used up, as printed: %p on %s', (rated, day) => {
    const told = due(input({}, { rated }), { by: 'label' })
    expect([told.labelDay, told.due]).toEqual([day, day])
  })
  test('no factor of the place moves it, use that was counted does', () => {
    const well = { people: 9, source: 'shallow-well', chlorineMgL: 4 } as const
    expect(due(input({}, { media: 'carbon-block', site: well }), { by: 'label' }).labelDay).toBe('2027-01-01')
    const counted = input({ today: '2026-03-02', readings: [{ on: '2026-03-02', counterL: 600 }] }, { rated: { litres: 900 } })
    // 10 L a day over 60 days; the 300 L that are left at the rate believed now, near ten.
    const { labelDay } = due(counted, { by: 'label' })
    expect(Math.abs(daysBetween('2026-01-01', labelDay ?? '') - 90)).toBeLessThanOrEqual(1)
  })
  test('a closed month pushes out what is used up, not what grows old', () => {
    const occupancy = [{ from: '2026-02-01', to: '2026-03-03', share: 0 }]
    expect(due(input({ occupancy }, { rated: { litres: 900 } }), { by: 'label' }).labelDay).toBe(addDays('2026-04-11', 30))
    expect(due(input({ occupancy }), { by: 'label' }).labelDay).toBe('2027-01-01')
  })
})

describe('contract', () => {
  test.each([
    ['2026-08-31', 6, '2027-02-28'],
    ['2027-08-31', 6, '2028-02-29'],
    ['2026-01-31', 1, '2026-02-28'],
    ['2026-11-30', 3, '2027-02-28'],
    ['2026-05-15', 12, '2027-05-15'],
  ])('fitted on %s, every %d months: %s', (fittedOn, months, day) => {
    expect(due(input({ today: fittedOn }, { fittedOn }), { by: 'contract', months }).due).toBe(day)
  })
  test.each([
    // Half of six months after a change in November is past the end of January: the next is July's.
    ['2026-11-20', '2020-01-31', 6, '2027-07-31'],
    ['2026-10-01', '2020-01-31', 6, '2027-01-31'],
    // Every May, whatever day the last change was made on.
    ['2026-06-02', '2024-05-10', 12, '2027-05-10'],
    ['2026-04-20', '2024-05-10', 12, '2027-05-10'],
    ['2026-01-01', '2030-03-31', 12, '2026-03-31'],
  ])('fitted on %s, from %s every %d months: %s, and no drift', (fittedOn, anchor, months, day) => {
    const told = due(input({ today: fittedOn }, { fittedOn }), { by: 'contract', months, anchor })
    if (anchor !== '2030-03-31') expect(told.due).toBe(day)
    else expect(told.due.slice(5)).toBe('03-31')
  })
  test('the survival curve only advises: spent well before it, far from done, or nothing', () => {
    const rule = (months: number): DueRule => ({ by: 'contract', months })
    expect([6, 12, 24].map((months) => due(input(), rule(months)).advice)).toEqual(['lengthen', null, 'shorten'])
  })
  test('a part that its own readings show to be over is due when it became so', () => {
    const past = input({ today: '2026-07-01', readings: [{ on: '2026-06-20', chlorineAfterMgL: 0.4 }] }, { media: 'carbon-block' })
    const told = due(past, { by: 'contract', months: 12 })
    expect(told.due < '2026-06-20').toBe(true)
    expect(told.state).toBe('spent')
    expect(told.why).toContain('its own readings')
    // Without them the contract stands, however old the part is by the model.
    expect(due({ ...past, readings: [] }, { by: 'contract', months: 12 }).due).toBe('2027-01-01')
  })
})

describe('evidence', () => {
  const REFERENCE = { people: 3, source: 'municipal', chlorineMgL: 1 } as const
  test.each([
    ['fluoride-media', { days: 365 }],
    ['carbon-block', { days: 365, litres: 2200 }],
    ['sediment', { days: 183 }],
    ['membrane', { days: 913 }],
    ['uv-lamp', { days: 365, hours: 9000 }],
    ['deionising-resin', { milliequivalents: 9900 }],
  ] as const)('with nothing known and an ordinary household it is the label’s day: %s', (media, rated) => {
    const told = due(input({}, { media, rated, site: REFERENCE }), EVIDENCE)
    expect(told.due).toBe(told.labelDay)
    expect(told.risk).toBeCloseTo(told.accepted, 6)
  })
  test('a hard site comes earlier, a gentle one never after the label unless the firm allows it', () => {
    const label = '2026-07-03'
    const sediment = (source: 'municipal' | 'shallow-well', past: WearInput['past'] = []): WearInput =>
      input({ past }, { media: 'sediment', rated: { days: 183 }, site: { people: 3, source } })
    const gentle = sediment('municipal', [{ fittedOn: '2025-07-01', removedOn: '2026-01-01', found: 'as-new' }])
    expect(due(sediment('shallow-well'), EVIDENCE).due < label).toBe(true)
    expect(due(gentle, EVIDENCE).due).toBe(label)
    expect(due(gentle, { by: 'evidence', beyondLabel: true }).due > label).toBe(true)
  })
  test('care halves or raises the accepted chance', () => {
    // One cause, the reference household: half of the parts are over on the label's day.
    const of = (care: 'careful' | 'as-label' | 'sparing') => due(input(), { by: 'evidence', care, beyondLabel: true })
    expect(of('as-label').accepted).toBeCloseTo(0.5, 2)
    expect(of('careful').accepted).toBeCloseTo(0.25, 2)
    expect(of('sparing').accepted).toBeCloseTo(0.7, 2)
    expect(of('careful').due < of('as-label').due && of('as-label').due < of('sparing').due).toBe(true)
    for (const care of ['careful', 'as-label', 'sparing'] as const) expect(of(care).risk).toBeCloseTo(of(care).accepted, 1)
  })
})

describe('what stands between people and germs', () => {
  const lamp = (rule: DueRule) => due(input({}, { media: 'uv-lamp', rated: { days: 365 }, site: { people: 1, source: 'municipal' } }), rule)
  test('never passes its label, whatever the rule, and is never sparing', () => {
    expect(lamp({ by: 'contract', months: 24 }).due).toBe('2027-01-01')
    expect(lamp({ by: 'contract', months: 24 }).windowTo).toBe('2027-01-01')
    expect(lamp({ by: 'evidence', beyondLabel: true, care: 'sparing' })).toEqual(lamp(EVIDENCE))
    expect(lamp({ by: 'contract', months: 6 }).due).toBe('2026-07-01')
  })
})

describe('state and window', () => {
  test('from good over any day and overdue to spent, as time goes by', () => {
    const of = (today: string) => due(input({ today }), { by: 'contract', months: 6 })
    // Six months from 1 January: 1 July, a tenth of 181 days to either side.
    expect([of('2026-01-01').due, of('2026-01-01').windowFrom, of('2026-01-01').windowTo]).toEqual([
      '2026-07-01',
      '2026-06-13',
      '2026-07-19',
    ])
    expect(['2026-06-12', '2026-06-13', '2026-07-01', '2026-07-02', '2027-06-01'].map((day) => of(day).state)).toEqual([
      'good',
      'any-day',
      'any-day',
      'overdue',
      'spent',
    ])
  })
  test('a last reading past its limit makes it spent, whatever the day; a doubted one does not', () => {
    const membrane = (readings: WearInput['readings']) =>
      due(input({ today: '2026-11-01', readings }, { media: 'membrane', rated: { days: 913 } }), { by: 'contract', months: 24 })
    const read = (on: string, productTdsMgL: number) => ({ on, feedTdsMgL: 300, productTdsMgL })
    expect(membrane([read('2026-01-01', 15), read('2026-10-30', 31)]).state).toBe('spent')
    const steady = ['2026-01-01', '2026-03-01', '2026-05-01', '2026-07-01'].map((on) => read(on, 15))
    expect(membrane([...steady, read('2026-10-30', 200)]).state).toBe('good')
  })
  const anyRule = fc.oneof(
    fc.record({ by: fc.constant('contract' as const), months: fc.integer({ min: 1, max: 36 }) }),
    fc.record({ by: fc.constant('label' as const) }),
    fc.record({
      by: fc.constant('evidence' as const),
      care: fc.constantFrom('careful' as const, 'as-label' as const, 'sparing' as const),
      beyondLabel: fc.boolean(),
    }),
  )
  test('the window holds the day, a fortnight at least while there is time; the evidence’s day is not after the label’s', () => {
    fc.assert(
      fc.property(
        anyRule,
        fc.integer({ min: 0, max: 900 }),
        fc.integer({ min: 20, max: 1200 }),
        fc.integer({ min: 100, max: 9000 }),
        fc.integer({ min: 1, max: 9 }),
        (rule, age, days, litres, people) => {
          const one = input(
            { today: addDays('2026-01-01', age) },
            { media: 'carbon-block', rated: { days, litres }, site: { people, source: 'municipal' } },
          )
          const told = due(one, rule)
          expect(told.windowFrom <= told.due && told.due <= told.windowTo).toBe(true)
          if (told.state === 'good' || told.state === 'any-day')
            expect(daysBetween(told.windowFrom, told.windowTo)).toBeGreaterThanOrEqual(14)
          if (rule.by === 'evidence' && !rule.beyondLabel) expect(told.due <= (told.labelDay ?? '')).toBe(true)
          const plain = forecast(one)
          expect(told.ended).toBeCloseTo(plain.ok ? plain.ended : Number.NaN, 9)
        },
      ),
      { numRuns: 60 },
    )
  })
  test('a day before the fitting is refused, a part with nothing rated has no day', () => {
    expect(() => dueOf(input({ today: '2025-12-31' }), EVIDENCE)).toThrow('fittedOn 2026-01-01')
    expect(dueOf(input({}, { rated: {} }), EVIDENCE)).toBeNull()
  })
})
