import { lowerBound, planRound, type RoundInput, roundCost } from '..'
import { drawRound } from '../drawn'
import { type Crossing, driveMinutes, leastMinutes, sailingOf, travelAcross, travelAmong, wayBetween } from '.'

const ferry = (id: string, lat: number, lon: number, departures: number[], returns: number[]): Crossing => ({
  id,
  kind: 'ferry',
  from: { area: '', lat, lon },
  to: { area: 'Holm', lat: lat + 0.1, lon },
  minutes: 20,
  boardMin: 5,
  departures,
  returns,
  open: [],
})

describe('of several ferries the one that gets there first', () => {
  // A tenth of a degree of longitude at 50° is 7.15 km: 9.29 km of road. Both ways to the western slip take that much longer.
  const east = ferry('east', 50, 0, [720], [840])
  const west = ferry('west', 50, -0.1, [540, 660], [600])
  const places = [
    { id: 'quay', lat: 50, lon: 0, island: '' },
    { id: 'house', lat: 50.1, lon: 0, island: 'Holm' },
  ]
  const travel = travelAcross(places, [east, west], 1.3)
  const byLand = driveMinutes(
    travelAcross([places[0] as (typeof places)[0], { id: 'slip', lat: 50, lon: -0.1, island: '' }], [], 1.3),
    'quay',
    'slip',
    0,
  )

  test('the further slip is taken where its ferry sails sooner, the near one where that comes first', () => {
    // 2 km at 25 km/h and 7.29 at 45: 4.8 + 9.7 = 14.5 minutes.
    expect(byLand).toBe(15)
    // Leaving at 08:00 one is at the western slip at 08:15: 09:00, there at 09:20. A tenth of a degree further north
    // the same longitude is 9.27 km of road, 14.49 minutes: at the house at 09:34. The eastern one sails at noon.
    expect([driveMinutes(travel, 'quay', 'house', 480), sailingOf(travel, 'quay', 'house', 480)]).toEqual([94, 540])
    // Leaving at 11:00 the western one has gone for the day: noon, 12:20, and a minute from the slip.
    expect([driveMinutes(travel, 'quay', 'house', 660), sailingOf(travel, 'quay', 'house', 660)]).toEqual([81, 720])
  })

  test('back it is as the returns are; the least of the day is the least at any time of leaving', () => {
    expect(sailingOf(travel, 'house', 'quay', 480)).toBe(600)
    expect(sailingOf(travel, 'house', 'quay', 700)).toBe(840)
    const all = Array.from({ length: 64 }, (_, quarter) => driveMinutes(travel, 'quay', 'house', 300 + quarter * 15))
    expect(leastMinutes(travel, 0, 1)).toBe(Math.min(...all))
  })

  test('some of the places keep their areas and ways', () => {
    const few = travelAmong(travel, ['house', 'quay'])
    expect(few.land?.water?.island).toEqual(['Holm', ''])
    for (const at of [400, 480, 660, 1200]) expect(driveMinutes(few, 'quay', 'house', at)).toBe(driveMinutes(travel, 'quay', 'house', at))
  })
})

test('five thousand places and their ferries are written in a line each, not in a table', () => {
  const places = Array.from({ length: 5_000 }, (_, at) => ({
    id: `p${at}`,
    lat: 50 + (at % 70) / 700,
    lon: 0.1 + at / 50_000,
    island: at % 2 === 0 ? '' : 'Holm',
  }))
  const text = JSON.stringify(travelAcross(places, [ferry('f', 50, 0, [540], [600])], 1.3))
  expect(text.length / places.length).toBeLessThan(60)
})

/** A drawn round on both sides of a water with two ferries and a causeway: once as a table by the quarter of an hour, once as places only. */
function twins(seed: number): { table: RoundInput; places: RoundInput } {
  const drawn = drawRound(seed, { visits: 24, days: 5, technicians: 2, rich: true })
  const placed = drawn.places.map(({ id }, at) => {
    const island = at % 3 === 0 ? 'Holm' : ''
    return { id, island, lat: (island === '' ? 47 : 47.2) + ((at * 37) % 101) / 1000, lon: 8 + ((at * 53) % 97) / 600 }
  })
  const slip = (id: string, lon: number, departures: number[]): Crossing => ({
    ...ferry(
      id,
      47.1,
      lon,
      departures,
      departures.map((at) => at + 30),
    ),
    minutes: 15,
  })
  const causeway: Crossing = {
    ...slip('sand', 8.2, []),
    kind: 'causeway',
    minutes: 9,
    open: [
      [420, 600],
      [780, 990],
    ],
  }
  const { land } = travelAcross(placed, [slip('a', 8.01, [420, 540, 660, 780, 900]), slip('b', 8.12, [480, 840]), causeway], 1.3)
  if (!land) throw new Error('expected estimated ways')
  const at = (minute: number): number[][] => placed.map((_, from) => placed.map((__, to) => wayBetween(land, from, to, minute).minutes))
  const hours = Array.from({ length: 96 }, (_, quarter) => ({ fromMin: quarter * 15, travelMin: at(quarter * 15) }))
  return {
    table: { ...drawn, travelMin: at(0), travelByHour: hours.slice(1) },
    places: { ...drawn, travelMin: [], travelByHour: [], land },
  }
}

test('a round over water is planned, priced and bounded as by a table of the same ways', () => {
  const { table, places } = twins(11)
  const plan = planRound(table, { iterations: 60 })
  expect(plan.days.some(({ stops }) => stops.length > 1)).toBe(true)
  expect(planRound(places, { iterations: 60 })).toEqual(plan)
  expect(roundCost(places, plan)).toEqual(roundCost(table, plan))
  const bound = lowerBound(places)
  expect(bound).toBeLessThanOrEqual(lowerBound(table) + 1e-9)
  expect(bound).toBeGreaterThan(lowerBound(table) * 0.7)
  expect(bound).toBeLessThanOrEqual(roundCost(table, plan).cost.total)
})
