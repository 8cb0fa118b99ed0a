import fc from 'fast-check'
import { landMinutes, minutesOfRoad, NOT_TODAY_MIN, type Roads, sailingOf, type Travel, travelAnchored, travelOver } from '.'

test('minutes by hand: two kilometres of streets, eight of lanes, thirty of main road, the rest of motorway', () => {
  expect(minutesOfRoad(0)).toBe(0)
  expect(minutesOfRoad(1)).toBeCloseTo(2.4, 9)
  // 2/25 + 8/45 h = 4.8 + 10.667 min.
  expect(minutesOfRoad(10)).toBeCloseTo(15.467, 3)
  // and 30/65 h = 27.692 min, 60/90 h = 40 min.
  expect(minutesOfRoad(100)).toBeCloseTo(83.159, 3)
})

test('a tenth of a degree of latitude is 11.12 km: at a winding of 1.3 14.46 km of road, 19.6 minutes', () => {
  // 4.8 + 10.667 + 4.456/65 · 60 = 4.113.
  expect(landMinutes({ lat: 50, lon: 0 }, { lat: 50.1, lon: 0 })).toBeCloseTo(19.58, 1)
})

test('further is never quicker, and no faster than the motorway', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 2000, noNaN: true }), fc.double({ min: 0, max: 100, noNaN: true }), (km, more) => {
      expect(minutesOfRoad(km + more)).toBeGreaterThanOrEqual(minutesOfRoad(km))
      expect(minutesOfRoad(km)).toBeGreaterThanOrEqual((km / 90) * 60 - 1e-9)
    }),
  )
})

const place = (id: string) => ({ id, name: id, island: id, lon: 0, lat: 0 })
/** A ferry from b to c at 09:00 and 11:00, twenty minutes, aboard five minutes before. */
const NET: Roads = {
  places: ['b', 'c'].map(place),
  roads: [],
  ferries: [
    { from: 'b', to: 'c', minutes: 20, boardMin: 5, departures: [540, 660] },
    { from: 'c', to: 'b', minutes: 20, boardMin: 5, departures: [570, 690] },
  ],
}
const net: Travel = travelOver(NET, { fromMin: 480, toMin: 720 })
/** A farm ten minutes from the slip, a house on the other side five minutes from its own, and a second farm by the first. */
const POINTS = [
  { id: 'farm', anchor: 'b', minutes: 10 },
  { id: 'house', anchor: 'c', minutes: 5 },
  { id: 'barn', anchor: 'b', minutes: 12 },
]
const farms = (from: number, to: number): number | null => (from !== 1 && to !== 1 ? 3 : null)
const over = travelAnchored(net, POINTS, farms)
const minutes = (travel: Travel, from: number, to: number, at: number): number =>
  (travel.travelByHour.findLast(({ fromMin }) => fromMin <= at)?.travelMin ?? travel.travelMin)[from]?.[to] as number

test('to the other side: to the slip, the sailing that is caught there, and on', () => {
  // Left at 08:15 the slip is reached at 08:25: its quarter from 08:15 counts 65 minutes until 09:20, then five more.
  expect(minutes(over, 0, 1, 495)).toBe(10 + 65 + 5)
  expect(sailingOf(over, 'farm', 'house', 495)).toBe(540)
  // Leaving from 08:45 on it is 08:55 at the slip, where from 08:56 on the nine o'clock is missed: 144 minutes until 11:20.
  expect(minutes(over, 0, 1, 525)).toBe(10 + 144 + 5)
  expect(sailingOf(over, 'farm', 'house', 525)).toBe(660)
})

test('on one side it is the land’s minutes at any hour, and after the last ferry nothing', () => {
  for (const at of [480, 525, 660]) {
    expect(minutes(over, 0, 2, at)).toBe(3)
    expect(sailingOf(over, 'farm', 'barn', at)).toBeNull()
  }
  expect(minutes(over, 0, 1, 690)).toBe(NOT_TODAY_MIN)
  expect(minutes(over, 0, 0, 510)).toBe(0)
})

test('points that are the net’s own places travel as the net does', () => {
  const own = travelAnchored(
    net,
    net.places.map((id) => ({ id, anchor: id, minutes: 0 })),
    () => null,
  )
  for (let at = 480; at < 720; at += 15)
    for (const [from, to] of [
      [0, 1],
      [1, 0],
    ] as const)
      expect(minutes(own, from, to, at)).toBe(minutes(net, from, to, at))
})

test('a point that hangs on nothing is said', () => {
  expect(() => travelAnchored(net, [{ id: 'x', anchor: 'nowhere', minutes: 1 }], () => null)).toThrow('got nowhere')
})
