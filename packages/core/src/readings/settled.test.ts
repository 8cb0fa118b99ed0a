import fc from 'fast-check'
import { settled } from '.'

test.each([
  [[410, 411, 410], 1, true],
  [[380, 400, 408, 411, 412, 411], 1, true],
  [[380, 400, 408], 1, false],
  [[411, 411], 1, false],
  [[0.02, 0.03, 0.02], 0.01, true],
  [[2000, 2008, 2009], 1, true],
])('%j by steps of %d: %s', (values, step, is) => expect(settled(values, step)).toBe(is))

test('what came before the last three says nothing', () => {
  const value = fc.integer({ min: 0, max: 5000 })
  fc.assert(
    fc.property(fc.array(value), fc.tuple(value, value, value), (earlier, last) => {
      expect(settled([...earlier, ...last])).toBe(settled([...last]))
    }),
  )
})
