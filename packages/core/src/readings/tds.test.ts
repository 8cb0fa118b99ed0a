import fc from 'fast-check'
import { type TdsInput, tds } from '.'

const input = (more: Partial<TdsInput> = {}): TdsInput => ({
  display: 412,
  multiplier: 1,
  quantity: 'ec',
  scale: 0.64,
  compensated: false,
  temperatureC: 11,
  ...more,
})

test('the published example: 412 µS/cm at 11 °C', () => {
  const { tdsMgL, ec25UsCm, flags } = tds(input({ coefficientPerC: 0.02 }))
  expect(ec25UsCm).toBeCloseTo(572.2222, 4)
  expect(tdsMgL).toBeCloseTo(366.2222, 4)
  expect(flags).toEqual([])
})

test('a TDS display is first turned into EC by its scale: 320 mg/L at 0.64 is 500 µS/cm', () => {
  const result = tds(input({ display: 320, quantity: 'tds', compensated: true, temperatureC: null }))
  expect(result).toEqual({ tdsMgL: 320, ec25UsCm: 500, flags: [] })
})

test('the ten-times mark multiplies the display', () => {
  expect(tds(input({ display: 41.2, multiplier: 10 })).tdsMgL).toBeCloseTo(366.2222, 4)
})

test('uncompensated without a temperature is left as it is and flagged', () => {
  expect(tds(input({ display: 100, temperatureC: null }))).toEqual({ tdsMgL: 64, ec25UsCm: 100, flags: ['temperature-missing'] })
})

test.each([
  [[400, 410, 405], 41, true],
  [[400, 410, 405], 405 / 7, true],
  [[400, 410, 405], 405 / 14, true],
  [[400, 410, 405], 405 / 14.1, false],
  [[400, 410, 405], 405 / 6.9, false],
  [[40, 41, 42, 43], 415, true],
  [[400, 410], 41, false],
  [[0, 0, 0], 41, false],
  [[400, 410, 405], 0, false],
])('history %j, value %d: tenfold asked about is %s', (siteHistoryMgL, display, asked) => {
  const { flags } = tds({ display, multiplier: 1, quantity: 'tds', scale: 0.5, compensated: true, temperatureC: null, siteHistoryMgL })
  expect(flags.includes('tenfold?')).toBe(asked)
})

test('an even history is judged by the mean of the middle two', () => {
  // Middle two 100 and 300: median 200, so 20 is tenfold and 50 (a quarter) is not.
  const history = {
    multiplier: 1 as const,
    quantity: 'tds' as const,
    scale: 0.5 as const,
    compensated: true,
    temperatureC: null,
    siteHistoryMgL: [300, 90, 100, 310],
  }
  expect(tds({ display: 20, ...history }).flags).toEqual(['tenfold?'])
  expect(tds({ display: 50, ...history }).flags).toEqual([])
})

test('warmer water reads higher, so its corrected value is lower', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.1, max: 5000, noNaN: true }), fc.double({ min: -2, max: 99, noNaN: true }), (display, temperatureC) => {
      expect(tds(input({ display, temperatureC: temperatureC + 1 })).ec25UsCm).toBeLessThan(tds(input({ display, temperatureC })).ec25UsCm)
    }),
  )
})

test('an impossible correction throws with the figure', () => {
  expect(() => tds(input({ temperatureC: -2, coefficientPerC: 0.04 }))).toThrow(/over 0, got -0.08/)
  expect(() => tds(input({ display: -1 }))).toThrow('display must be at least 0, got -1')
})
