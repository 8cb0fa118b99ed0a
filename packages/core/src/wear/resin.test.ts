import { usualLitresPerDay } from './factors'
import { usualResin } from './resin'

const FILL = { milliequivalents: 880, fittedOn: '2026-10-01', site: { people: 2, source: 'municipal' as const } }

test('capacity is the label’s equivalents over the water’s, and what is used is the usual day’s litres since the fill', () => {
  // 0.88 eq × 50,000 mg / 400 mg/L = 110 L.
  const result = usualResin({ ...FILL, inTdsMgL: 400, outTdsMgL: 3, today: '2026-10-11' })
  expect(result.capacityL).toBeCloseTo(110, 9)
  const perDay = usualLitresPerDay({ media: 'deionising-resin', fittedOn: FILL.fittedOn, rated: {}, site: FILL.site })
  expect(result.usedFraction).toBeCloseTo((10 * perDay) / 110, 9)
  expect(result.verdict).toBe('good')
})

test('a day before the fill counts as its first', () => {
  expect(usualResin({ ...FILL, inTdsMgL: 400, outTdsMgL: 30, today: '2026-09-01' })).toMatchObject({
    usedFraction: 0,
    verdict: 'past-target',
  })
})
