import { type Crossing, driveMinutes, NOT_TODAY_MIN, sailingOf, travelAcross } from '.'

const place = (id: string, lat: number, island = '') => ({ id, lat, lon: 0, island })
/** The mainland lies at 50.0, the holm at 50.2; the slips at 50.01 and 50.19. A hundredth of a degree is 1.11 km: 1.45 km of road, 3.5 minutes. */
const PLACES = [
  place('yard', 50),
  place('farm', 50.02),
  place('house', 50.2, 'Holm'),
  place('mill', 50.21, 'Holm'),
  place('rock', 50.5, 'Rock'),
]
const FERRY: Crossing = {
  id: 'f',
  kind: 'ferry',
  from: { area: '', lat: 50.01, lon: 0 },
  to: { area: 'Holm', lat: 50.19, lon: 0 },
  minutes: 20,
  boardMin: 5,
  departures: [540, 660],
  returns: [600, 900],
  open: [],
}
const LAND = 3

test('within an area it is the road, to another one the ferry with its sailing, and after the last one nothing', () => {
  const travel = travelAcross(PLACES, [FERRY], 1.3)
  expect(driveMinutes(travel, 'house', 'mill', 500)).toBe(LAND)
  expect(sailingOf(travel, 'house', 'mill', 500)).toBeNull()
  // Leaving the yard at 08:00: three minutes to the slip, reached in the quarter from 08:00, of which 80 minutes last until 09:20; three more.
  expect(driveMinutes(travel, 'yard', 'house', 480)).toBe(LAND + 80 + LAND)
  expect(sailingOf(travel, 'yard', 'house', 480)).toBe(540)
  expect(sailingOf(travel, 'house', 'yard', 700)).toBe(900)
  expect(driveMinutes(travel, 'yard', 'house', 700)).toBe(NOT_TODAY_MIN)
})

test('an area that no crossing names belongs to the mainland; one that is named and not joined is not reached', () => {
  const toRock: Crossing = { ...FERRY, id: 'r', from: { area: 'Rock', lat: 50.4, lon: 0 }, to: { area: 'Skerry', lat: 50.45, lon: 0 } }
  expect(driveMinutes(travelAcross(PLACES, [FERRY], 1.3), 'yard', 'rock', 480)).toBeLessThan(120)
  expect(driveMinutes(travelAcross(PLACES, [FERRY, toRock], 1.3), 'yard', 'rock', 480)).toBe(NOT_TODAY_MIN)
})

test('a bridge is there at any hour, a causeway when it is open', () => {
  const bridge = travelAcross(PLACES, [{ ...FERRY, kind: 'bridge', minutes: 4 }], 1.3)
  for (const at of [360, 720, 1100]) expect(driveMinutes(bridge, 'yard', 'house', at)).toBe(LAND + 4 + LAND)
  const causeway = travelAcross(
    PLACES,
    [
      {
        ...FERRY,
        kind: 'causeway',
        minutes: 4,
        open: [
          [300, 600],
          [840, 1260],
        ],
      },
    ],
    1.3,
  )
  expect(driveMinutes(causeway, 'yard', 'house', 540)).toBe(LAND + 4 + LAND)
  expect(driveMinutes(causeway, 'yard', 'house', 660)).toBeGreaterThan(170)
  expect(sailingOf(causeway, 'yard', 'house', 660)).toBeNull()
})
