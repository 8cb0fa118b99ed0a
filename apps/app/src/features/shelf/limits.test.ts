import { MEDIA, MEDIA_PROFILES, type MediaLimit } from '@evenround/core/catalogue'
import { METRIC, type ShownUnits } from '@evenround/core/units'
import { LIMIT_WORDS, limitBare, limitText, readLimit } from './limits'
import { ratedWords } from './rated-words'

const PSI: ShownUnits = { volume: 'gal', pressure: 'psi', temperature: 'F', gallon: 'us' }
const every = MEDIA.flatMap((media) => Object.entries(MEDIA_PROFILES[media].limits) as [MediaLimit, number][])

test.each(every)('%s of %d reads back as it is shown, in both kinds of units', (limit, value) => {
  for (const units of [METRIC, PSI]) {
    const read = readLimit(limit, limitBare(limit, value, units), units, '.')
    expect('value' in read && Math.abs(read.value - value) / value).toBeLessThan(0.001)
    expect(LIMIT_WORDS[limit].length).toBeGreaterThan(3)
  }
})

test('limits are said in the firm’s units', () => {
  expect(limitText('overCleanKpa', 70, METRIC)).toBe('70 kPa')
  // 70 ÷ 6.894757.
  expect(limitText('overCleanKpa', 70, PSI)).toBe('10.2 psi')
  expect(limitText('flowShare', 0.6, METRIC)).toBe('60 %')
  expect(limitText('passageRatio', 2, METRIC)).toBe('2 times')
})

test.each([
  ['overCleanKpa', '900', 'Between 5 kPa and 500 kPa'],
  ['flowShare', 'most', 'Between 2 % and 95 %'],
  ['chlorineMgL', '-1', 'Between 0.02 mg/L and 4 mg/L'],
] as const)('%s typed as “%s” is answered with its range', (limit, typed, error) => {
  expect(readLimit(limit, typed, METRIC, '.')).toEqual({ error })
})

test('another unit can be typed after the number', () => {
  const read = readLimit('overCleanKpa', '10 psi', METRIC, '.')
  expect('value' in read && read.value).toBeCloseTo(68.94757, 4)
})

test('what a part is rated at, in words', () => {
  expect(ratedWords({ days: 365, litres: 2200, milliequivalents: null, hours: null }, METRIC)).toBe('rated 12 months, 2,200 L')
  // 2,200 ÷ 3.785411784.
  expect(ratedWords({ days: null, litres: 2200, milliequivalents: null, hours: 9000 }, PSI)).toBe('rated 581 gal, 9,000 h')
  expect(ratedWords({ days: null, litres: null, milliequivalents: null, hours: null }, METRIC)).toBe('rated as its medium is')
})
