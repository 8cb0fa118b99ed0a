import fc from 'fast-check'
import { formatPosition, kmBetween, parsePosition } from '.'

test.each([
  ['58.31, -21.62', 58.31, -21.62],
  ['58.31 -21.62', 58.31, -21.62],
  ['58.31;-21.62', 58.31, -21.62],
  ['58,31 -21,62', 58.31, -21.62],
  ['58,31; -21,62', 58.31, -21.62],
  ['58°18′36″N 21°37′12″W', 58.31, -21.62],
  ['58°18\'36"N, 21°37\'12"W', 58.31, -21.62],
  ['N 58 18.6 W 21 37.2', 58.31, -21.62],
  ['21.62 W, 58.31 N', 58.31, -21.62],
  ['geo:58.31,-21.62', 58.31, -21.62],
  ['geo:58.31,-21.62?z=12', 58.31, -21.62],
  ['-33, 151.2', -33, 151.2],
])('%s', (text, lat, lon) => {
  const position = parsePosition(text)
  expect(position?.lat).toBeCloseTo(lat, 9)
  expect(position?.lon).toBeCloseTo(lon, 9)
})

test.each(['', 'Weir', '58.31', '91, 0', '0, 181', '58 N 59 N', '1, 2, 3', '58°61′N 21°W', '-58 S, 3'])('%p is no position', (text) => {
  expect(parsePosition(text)).toBeNull()
})

test('what is written is read back to within a metre', () => {
  fc.assert(
    fc.property(fc.double({ min: -90, max: 90, noNaN: true }), fc.double({ min: -180, max: 180, noNaN: true }), (lat, lon) => {
      const back = parsePosition(formatPosition({ lat, lon }))
      expect(back && kmBetween(back, { lat, lon })).toBeLessThan(0.0011)
    }),
  )
})

test('a degree of the meridian is 111.195 km, a quarter of the globe 10 007.6; and both ways are as long', () => {
  expect(kmBetween({ lat: 10, lon: 5 }, { lat: 11, lon: 5 })).toBeCloseTo(111.195, 2)
  expect(kmBetween({ lat: 0, lon: 0 }, { lat: 90, lon: 0 })).toBeCloseTo(10_007.6, 0)
  expect(kmBetween({ lat: 60, lon: 0 }, { lat: 60, lon: 1 })).toBeCloseTo(55.6, 1)
  // Over the date line it is near.
  expect(kmBetween({ lat: 0, lon: 179.9 }, { lat: 0, lon: -179.9 })).toBeCloseTo(22.24, 1)
})
