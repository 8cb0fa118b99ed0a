import { mapFeatureSchema } from '@evenround/contract/geo'
import { boxRound, outlinesRound } from './outlines'

const lengthOf = (features: ReturnType<typeof outlinesRound>, what: 'coast' | 'border'): number =>
  features.filter(({ properties }) => properties.kind === 'outline' && properties.what === what).length

test('at a mouth of a river there is a coast, on it a border; in the middle of an ocean there is neither', () => {
  // The mouth of the Minho: sea to the west, two countries north and south of it.
  const mouth = outlinesRound([{ lat: 41.87, lon: -8.86 }])
  expect([lengthOf(mouth, 'coast') > 0, lengthOf(mouth, 'border') > 0]).toEqual([true, true])
  for (const feature of mouth) expect(mapFeatureSchema.safeParse(feature).success).toBe(true)
  expect(outlinesRound([{ lat: 58.3, lon: -21.6 }])).toEqual([])
  expect(outlinesRound([])).toEqual([])
})

test('every stretch touches the box, which leaves half the span round the places', () => {
  const places = [
    { lat: 41, lon: -9 },
    { lat: 42, lon: -8 },
  ]
  const box = boxRound(places)
  expect(box).toEqual({ west: -9.5, east: -7.5, south: 40.5, north: 42.5 })
  for (const { geometry } of outlinesRound(places))
    expect(
      (geometry.coordinates as [number, number][]).some(([lon, lat]) => lon >= -9.5 && lon <= -7.5 && lat >= 40.5 && lat <= 42.5),
    ).toBe(true)
})

test('one house on the wrong side of the earth brings no more than the coasts where the others are', () => {
  const home = Array.from({ length: 9 }, (_, index) => ({ lat: 41.5 + index / 100, lon: -8.7 }))
  const features = outlinesRound([...home, { lat: -41, lon: 174 }])
  expect(JSON.stringify(features).length).toBeLessThan(1_000_000)
  expect(lengthOf(features, 'coast')).toBeGreaterThan(0)
  for (const { geometry } of features)
    if (geometry.type === 'LineString') expect(geometry.coordinates.some(([lon = 0]) => lon < 10)).toBe(true)
})
