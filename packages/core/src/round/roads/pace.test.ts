import fc from 'fast-check'
import { type DriveMade, driveMinutes, learnPace, type Travel, travelAcross } from '.'
import { pacedTravel } from './paced'

const drives = (n: number, one: Partial<DriveMade>): DriveMade[] =>
  Array.from({ length: n }, () => ({ area: 'Great', leaveMin: 8 * 60, tookMin: 30, plainMin: 20, ...one }))

test('a median drawn towards what was thought before, by hand: forty drives half as long again, sixteen at noon as expected', () => {
  const pace = learnPace([...drives(40, {}), ...drives(16, { leaveMin: 13 * 60, tookMin: 20 })])
  // All 56: the median is 1.5, drawn to 1 by 8: 1.5^(56/64) = 1.426; the area has the same drives: 1.426^(1/8) · 1.5^(7/8) = 1.491.
  // Mornings: 1.491^(8/48) · 1.5^(40/48) = 1.498. After noon: 1.491^(8/24) · 1 = 1.142. Where nobody drove: the area's 1.491.
  expect(pace).toEqual({
    fromMin: [0, 420, 540, 720, 900, 1080],
    areas: { Great: [1.49, 1.5, 1.49, 1.14, 1.49, 1.49] },
    // Elsewhere as the whole firm drives: 1.426^(8/48) · 1.5^(40/48) = 1.487, and 1.426^(8/24) = 1.126.
    elsewhere: [1.43, 1.49, 1.43, 1.13, 1.43, 1.43],
    drives: 56,
  })
})

test('too few drives, lunches and drives round the corner teach nothing', () => {
  expect(learnPace(drives(9, {}))).toBeNull()
  expect(
    learnPace([
      ...drives(9, {}),
      ...drives(50, { tookMin: 95 }),
      ...drives(50, { tookMin: 4 }),
      ...drives(50, { plainMin: 4, tookMin: 6 }),
    ]),
  ).toBeNull()
})

test('whatever was driven, a factor lies between 1 and what the drives say, and more of the same drives bring it nearer', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.55, max: 2.4, noNaN: true }), fc.integer({ min: 10, max: 200 }), (ratio, n) => {
      const factor = (count: number): number => learnPace(drives(count, { tookMin: 20 * ratio }))?.areas.Great?.[1] as number
      const [few, many] = [factor(n), factor(n * 3)]
      expect(few).toBeGreaterThanOrEqual(Math.min(1, ratio) - 0.006)
      expect(few).toBeLessThanOrEqual(Math.max(1, ratio) + 0.006)
      expect(Math.abs(many - ratio)).toBeLessThanOrEqual(Math.abs(few - ratio) + 0.01)
    }),
  )
})

const PACE = { fromMin: [0, 540], areas: { Great: [2, 1] }, elsewhere: [1, 1], drives: 20 }
/** A hundredth of a degree is 1.11 km: 1.45 km of road, 3.47 minutes. */
const PLACES = [
  { id: 'yard', lat: 50, lon: 0, island: 'Great' },
  { id: 'farm', lat: 50.01, lon: 0, island: 'Great' },
  { id: 'house', lat: 50.02, lon: 0, island: 'Little' },
]

test('over land a way is as much longer as drives were, by where it begins and when', () => {
  const travel = pacedTravel(travelAcross(PLACES, [], 1.3), ['Great', 'Great', 'Little'], PACE)
  expect(driveMinutes(travel, 'yard', 'farm', 480)).toBe(7)
  expect(driveMinutes(travel, 'yard', 'farm', 540)).toBe(3)
  expect(driveMinutes(travel, 'house', 'farm', 480)).toBe(3)
})

test('of a table only ways within an area change; what crosses the water keeps its timetable', () => {
  const table: Travel = {
    places: ['yard', 'farm', 'house'],
    travelMin: [
      [0, 10, 40],
      [10, 0, 50],
      [40, 50, 0],
    ],
    travelByHour: [
      {
        fromMin: 600,
        travelMin: [
          [0, 10, 90],
          [10, 0, 95],
          [90, 95, 0],
        ],
      },
    ],
    sails: [],
  }
  const travel = pacedTravel(table, ['Great', 'Great', 'Little'], PACE)
  expect([400, 540, 600].map((at) => driveMinutes(travel, 'yard', 'farm', at))).toEqual([20, 10, 10])
  expect([400, 540, 600].map((at) => driveMinutes(travel, 'yard', 'house', at))).toEqual([40, 40, 90])
})
