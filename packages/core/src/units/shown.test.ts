import fc from 'fast-check'
import { METRIC, parseQuantity, type ShownDimension, type ShownUnits, toShown, unitOf } from '.'

const US: ShownUnits = { volume: 'gal', pressure: 'psi', temperature: 'F', gallon: 'us' }
const IMPERIAL: ShownUnits = { ...US, pressure: 'bar', gallon: 'imperial' }

test.each<[number, ShownDimension, ShownUnits, number, string]>([
  [3.785411784, 'volume', US, 1, 'gal'],
  [4.54609, 'volume', IMPERIAL, 1, 'gal'],
  [689.4757293168, 'pressure', US, 100, 'psi'],
  [250, 'pressure', IMPERIAL, 2.5, 'bar'],
  [100, 'temperature', US, 212, '°F'],
  [0, 'temperature', US, 32, '°F'],
  [7.570823568, 'flow', US, 2, 'gal/min'],
  [12, 'volume', METRIC, 12, 'L'],
])('%d in the units of %s', (value, dimension, units, expected, text) => {
  expect(toShown(value, dimension, units)).toBeCloseTo(expected, 9)
  expect(unitOf(dimension, units).text).toBe(text)
})

test('what is shown, typed back, is the value it came from', () => {
  const anyUnits = fc.record<ShownUnits>({
    volume: fc.constantFrom('L', 'gal'),
    pressure: fc.constantFrom('kPa', 'bar', 'psi'),
    temperature: fc.constantFrom('C', 'F'),
    gallon: fc.constantFrom('us', 'imperial'),
  })
  const dimension = fc.constantFrom<ShownDimension>('volume', 'flow', 'pressure', 'temperature')
  fc.assert(
    fc.property(fc.double({ min: 0.001, max: 99_999, noNaN: true }), dimension, anyUnits, (value, of, units) => {
      const typed = toShown(value, of, units)
      // Decimals of a plain number, never an exponent: as people type.
      const parsed = parseQuantity(typed.toFixed(12), { dimension: of, unit: unitOf(of, units).parse, gallon: units.gallon })
      expect(parsed.ok && Math.abs(parsed.value - value)).toBeLessThan(1e-6 * Math.max(1, value))
    }),
  )
})
