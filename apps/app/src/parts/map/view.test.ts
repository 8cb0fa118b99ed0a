import { dragged, gridOf, type MapView, NEAREST_SPAN, placeAt, projectionOf, viewOf, WORLD, zoomed } from './view'

// 400 px across 4 degrees: 100 px a degree of longitude, by hand; of latitude 100 px ÷ cos φ.
const VIEW: MapView = { lat: 60, lon: -8, span: 4 }

test('a point of the box is the place under it: the middle is the middle, a hundred pixels east is a degree', () => {
  const middle = placeAt(VIEW, 400, 300, 200, 150)
  expect([middle?.lat, middle?.lon]).toEqual([expect.closeTo(60, 9), expect.closeTo(-8, 9)])
  expect(placeAt(VIEW, 400, 300, 300, 150)?.lon).toBeCloseTo(-7, 9)
  // cos 60° is a half: a hundred pixels north are about half a degree (Mercator’s own stretch makes it 0.4957°).
  const north = placeAt(VIEW, 400, 300, 200, 50)?.lat ?? 0
  expect(north).toBeGreaterThan(60.49)
  expect(north).toBeLessThan(60.5)
})

test.each([
  [58.31, -21.62],
  [-41.3, 174.8],
  [0, 180],
])('what lies under a point stays there when the map is moved and zoomed (%d, %d)', (lat, lon) => {
  const view: MapView = { lat, lon, span: 0.5 }
  const place = placeAt(view, 390, 300, 100, 80)
  if (!place) throw new Error('a place lies under every point')
  const moved = dragged(view, 390, 300, [100, 80], [250, 220])
  const at = projectionOf(moved, 390, 300)([place.lon, place.lat])
  expect([at?.[0], at?.[1]]).toEqual([expect.closeTo(250, 4), expect.closeTo(220, 4)])
  const near = zoomed(view, 390, 300, 0.5, [100, 80])
  const kept = placeAt(near, 390, 300, 100, 80)
  expect(kept?.lat).toBeCloseTo(place.lat, 6)
  expect((((kept?.lon ?? 0) - place.lon + 540) % 360) - 180).toBeCloseTo(0, 6)
  expect(near.span).toBe(0.25)
})

test('a view holds its places with room round them; without any it is the world, and nearer than a street it does not go', () => {
  expect(viewOf([])).toEqual(WORLD)
  const view = viewOf([
    { lat: 58.2, lon: -21.7 },
    { lat: 58.4, lon: -21.3 },
  ])
  for (const [lon, lat] of [
    [-21.7, 58.2],
    [-21.3, 58.4],
  ] as const) {
    const at = projectionOf(view, 390, 300)([lon, lat])
    expect(at?.[0]).toBeGreaterThan(20)
    expect(at?.[0]).toBeLessThan(370)
    expect(at?.[1]).toBeGreaterThan(20)
    expect(at?.[1]).toBeLessThan(280)
  }
  expect(zoomed({ ...VIEW, span: NEAREST_SPAN }, 390, 300, 0.5, [1, 1]).span).toBe(NEAREST_SPAN)
})

test.each([360, 40, 3, 0.2, NEAREST_SPAN])('the grid of a view %d degrees across is a handful of lines, on round numbers', (span) => {
  const grid = gridOf({ lat: 58.31, lon: -21.62, span })
  expect(grid.coordinates.length).toBeGreaterThan(4)
  expect(grid.coordinates.length).toBeLessThan(60)
  const meridians = grid.coordinates.filter((line) => line.length === 3).map(([first]) => first?.[0] ?? 0)
  const apart = (meridians[1] ?? 0) - (meridians[0] ?? 0)
  for (const at of meridians) expect(Math.abs(at / apart - Math.round(at / apart))).toBeLessThan(1e-6)
})
