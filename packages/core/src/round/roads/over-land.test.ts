import fc from 'fast-check'
import { mulberry32 } from '../../random'
import { kmBetween } from '../../units'
import { lowerBound, planRound, type RoundInput, roundCost } from '..'
import { drawRound } from '../drawn'
import { joinPlans, splitRound } from '../large'
import {
  driveMinutes,
  LandIndex,
  type LandWays,
  landAmong,
  leastMinutes,
  minutesOverLand,
  pacedTravel,
  sailingOf,
  type Travel,
  travelAcross,
  travelAmong,
} from '.'

const point = fc.record({ lat: fc.double({ min: -75, max: 75, noNaN: true }), lon: fc.double({ min: -180, max: 179.99, noNaN: true }) })
const near = fc
  .tuple(
    point,
    fc.array(fc.tuple(fc.double({ min: -0.4, max: 0.4, noNaN: true }), fc.double({ min: -0.4, max: 0.4, noNaN: true })), {
      minLength: 2,
      maxLength: 60,
    }),
  )
  .map(([{ lat, lon }, more]) => more.map(([up, right]) => ({ lat: lat + up, lon: ((lon + right + 540) % 360) - 180 })))
const landOf = (points: readonly { lat: number; lon: number }[]): LandWays => ({
  lat: points.map(({ lat }) => lat),
  lon: points.map(({ lon }) => lon),
  winding: 1.3,
})

test('the nearest other place by the index is the nearest of all, wherever the places lie', () => {
  fc.assert(
    fc.property(fc.oneof(near, fc.array(point, { minLength: 2, maxLength: 40 })), (points) => {
      const land = landOf(points)
      const index = new LandIndex(
        land,
        points.map((_, at) => at),
      )
      points.forEach((here, at) => {
        const far = points.map((other, to) => (to === at ? Number.POSITIVE_INFINITY : kmBetween(here, other)))
        expect(far[index.nearest(at)]).toBeCloseTo(Math.min(...far), 9)
      })
    }),
    { numRuns: 150 },
  )
  expect(new LandIndex(landOf([{ lat: 1, lon: 1 }]), [0]).nearest(0)).toBe(-1)
})

/** A drawn round on the ground round a town, its ways over land once as a table and once as places only. */
function twins(seed: number, visits: number, idle = 0): { table: RoundInput; places: RoundInput } {
  const few = drawRound(seed, { visits, days: 6, technicians: 2, rich: true })
  const drawn = { ...few, places: [...few.places, ...Array.from({ length: idle }, (_, at) => ({ id: `idle-${at}` }))] }
  const land = landOf(drawn.places.map((_, at) => ({ lat: 47 + ((at * 37) % 101) / 400, lon: 8 + ((at * 53) % 97) / 300 })))
  const travelMin = drawn.places.map((_, from) => drawn.places.map((__, to) => minutesOverLand(land, from, to)))
  return { table: { ...drawn, travelMin, travelByHour: [] }, places: { ...drawn, travelMin: [], travelByHour: [], land } }
}

test('a round over land is planned, priced and bounded as by a table of the same ways', () => {
  const { table, places } = twins(5, 40)
  const plan = planRound(table, { iterations: 120 })
  expect(planRound(places, { iterations: 120 })).toEqual(plan)
  expect(roundCost(places, plan)).toEqual(roundCost(table, plan))
  expect(lowerBound(places)).toBeCloseTo(lowerBound(table), 9)
})

test('so it is where there are more places than a table is made for, and each technician’s part takes its own along', () => {
  const { table, places } = twins(8, 40, 600)
  expect(places.places.length).toBeGreaterThan(600)
  const parts = splitRound(places)
  expect(parts.map(({ input }) => input.visits.map(({ id }) => id))).toEqual(
    splitRound(table).map(({ input }) => input.visits.map(({ id }) => id)),
  )
  for (const { input } of parts) expect([input.travelMin, input.land?.lat.length]).toEqual([[], input.places.length])
  const whole = joinPlans(
    places,
    parts.map(({ input }) => planRound(input, { iterations: 5 })),
  )
  expect(roundCost(places, whole)).toEqual(roundCost(table, whole))
  expect(roundCost(places, whole).broken).toEqual([])
})

test('drives over land are said as they are planned: alike at every hour, without a sailing, a minute at the least', () => {
  const land = landOf([
    { lat: 50, lon: 0 },
    { lat: 50.1, lon: 0 },
    { lat: 50.1, lon: 0.0001 },
  ])
  const travel: Travel = { places: ['a', 'b', 'c'], travelMin: [], travelByHour: [], sails: [], land }
  // A tenth of a degree: 19.58 minutes (land.test.ts).
  expect([driveMinutes(travel, 'a', 'b', 480), driveMinutes(travel, 'b', 'a', 1200), leastMinutes(travel, 0, 1)]).toEqual([20, 20, 20])
  expect([driveMinutes(travel, 'b', 'c', 480), driveMinutes(travel, 'b', 'b', 480), sailingOf(travel, 'a', 'b', 480)]).toEqual([1, 0, null])
  expect(travelAmong(travel, ['c', 'a'])).toEqual({
    places: ['c', 'a'],
    travelMin: [],
    travelByHour: [],
    sails: [],
    land: landAmong(land, [2, 0]),
  })
})

test('minutes by road stand where they are known, else the estimate; a round over them costs what it says and no less than its bound', () => {
  // Twenty-six minutes there and thirty-one back, where eleven kilometres through the air are estimated at 20.
  const known = new Map([
    ['50/50.1', 26],
    ['50.1/50', 31],
  ])
  const places = [50, 50.1, 50.2].map((lat) => ({ id: `p${lat}`, lat, lon: 0, island: '' }))
  const road = (a: { lat: number }, b: { lat: number }): number | null => known.get(`${a.lat}/${b.lat}`) ?? null
  const travel = travelAcross(places, [], 1.3, road)
  expect([driveMinutes(travel, 'p50', 'p50.1', 480), driveMinutes(travel, 'p50.1', 'p50', 480)]).toEqual([26, 31])
  expect([driveMinutes(travel, 'p50.1', 'p50.2', 480), travel.estimated]).toEqual([20, true])
  expect(travelAcross(places.slice(0, 2), [], 1.3, road).estimated).toBeUndefined()
  expect(travelAmong(travel, ['p50.1', 'p50']).land?.road).toEqual([
    [0, 31],
    [26, 0],
  ])
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 10_000 }), (seed) => {
      const random = mulberry32(seed)
      const { places: input } = twins(6, 12, 20)
      const land = input.land as LandWays
      const spots = land.lat.map((lat, at) => ({
        id: input.places[at]?.id ?? '',
        lat,
        lon: land.lon[at] as number,
        island: at % 2 === 0 ? 'a' : 'b',
      }))
      const byRoad = travelAcross(spots, [], land.winding, () => (random() < 0.7 ? 1 + Math.floor(random() * 40) : null))
      const pace = { fromMin: [0, 540], areas: { a: [1.4, 0.9] }, elsewhere: [1, 1.1], drives: 30 }
      const paced = pacedTravel(
        byRoad,
        spots.map(({ island }) => island),
        pace,
      )
      const round = { ...input, ...(paced.land ? { land: paced.land } : {}) }
      const plan = planRound(round, { iterations: 20 })
      const { cost, broken } = roundCost(round, plan)
      expect(broken).toEqual([])
      expect(cost.total).toBeCloseTo(plan.cost.total, 6)
      expect(lowerBound(round)).toBeLessThanOrEqual(cost.total + 1e-6)
    }),
    { numRuns: 12 },
  )
})
