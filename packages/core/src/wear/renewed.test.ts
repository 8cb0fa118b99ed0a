import { forecast, renewed, type WearInput } from '.'

const BEFORE: WearInput = {
  today: '2026-11-25',
  stage: {
    media: 'sediment',
    fittedOn: '2026-05-25',
    ageUnknown: true,
    rated: { days: 183 },
    site: { people: 3, source: 'municipal' },
    carryOver: [{ on: '2026-08-01', share: 0.5 }],
    washedOn: ['2026-09-01'],
  },
  readings: [
    { on: '2026-08-01', inKpa: 300, outKpa: 260 },
    { on: '2026-11-24', counterL: 1800 },
  ],
  past: [{ fittedOn: '2025-11-25', removedOn: '2026-05-25', found: 'as-expected' }],
  school: 'earliest',
}
const NEW = { fittedOn: '2026-11-25', rated: { days: 365 }, found: 'light', readings: [] } as const

test('the old part’s time becomes a past one with its litres; its readings, washes and dirt go with it', () => {
  const after = renewed(BEFORE, NEW)
  expect(after.past).toEqual([...BEFORE.past, { fittedOn: '2026-05-25', removedOn: '2026-11-25', found: 'light', litres: 1800 }])
  expect(after.stage).toEqual({ media: 'sediment', fittedOn: '2026-11-25', rated: { days: 365 }, site: BEFORE.stage.site })
  expect([after.readings, after.today]).toEqual([[], '2026-11-25'])
})

test('what nobody looked at teaches nothing, a part without figures is rated as the one before', () => {
  const after = renewed(BEFORE, { ...NEW, found: null, rated: {} })
  expect(after.past).toEqual(BEFORE.past)
  expect(after.stage.rated).toEqual({ days: 183 })
})

test('a counter looked at long ago is left out', () => {
  const after = renewed({ ...BEFORE, readings: [{ on: '2026-09-01', counterL: 900 }] }, NEW)
  expect(after.past.at(-1)).toEqual({ fittedOn: '2026-05-25', removedOn: '2026-11-25', found: 'light' })
})

test('a place whose parts come out light is believed gentler: the new part lasts longer than by its label’s household', () => {
  const light = forecast(renewed(BEFORE, NEW))
  const heavy = forecast(renewed(BEFORE, { ...NEW, found: 'heavy' }))
  if (!light.ok || !heavy.ok) throw new Error('nothing rated')
  expect(light.p50 > heavy.p50).toBe(true)
})
