import { travelAcross } from '@evenround/core/round/roads'
import type { YearArea } from '@evenround/core/year'
import { overWeeks } from './over-weeks'

const FERRY = {
  id: 'f',
  kind: 'ferry' as const,
  from: { area: '', lat: 50.01, lon: 0 },
  to: { area: 'Holm', lat: 50.19, lon: 0 },
  minutes: 20,
  boardMin: 5,
  departures: [480, 600],
  returns: [540, 900],
  open: [] as [number, number][],
}
const PLACES = [
  { id: 'yard', lat: 50, lon: 0, island: '' },
  { id: 'house', lat: 50.2, lon: 0, island: 'Holm' },
]
const area = (roundTripMin: number): YearArea[] => [{ id: 'holm', roundTripMin, betweenMin: 4 }]
const over = (areas: YearArea[], seasons: { from: string; to: string; departures: number[]; returns: number[] }[], more: object = {}) =>
  overWeeks(areas, new Map([['holm', 1]]), {
    travel: travelAcross(PLACES, [{ ...FERRY, seasons }], 1.3),
    without: null,
    stopped: [],
    from: '2026-11-30',
    nWeeks: 52,
    bases: ['yard'],
    ...more,
  })

test('a winter without sailings closes its weeks, by the Wednesday of each; the rest of the year stays as it is', () => {
  const areas = area(61)
  // From 1 January, a Friday: the Wednesday of week 5 (6 January) to that of week 12 (24 February); 3 March is after it.
  const cutOff = over(areas, [{ from: '01-01', to: '02-28', departures: [], returns: [] }])
  expect(cutOff.get('holm')).toEqual([5, 6, 7, 8, 9, 10, 11, 12])
  expect(over(area(61), []).size).toBe(0)
})

test('a crossing that stops is gone in its weeks; where another way leads round, it is the mean way that grows', () => {
  const none = travelAcross(PLACES, [], 1.3)
  const apart = travelAcross(PLACES, [{ ...FERRY, kind: 'causeway', open: [[0, 1]], departures: [], returns: [] }], 1.3)
  const stopped = Array.from({ length: 26 }, (_, week) => week)
  expect(over(area(61), [], { without: apart, stopped }).get('holm')).toEqual(stopped)
  const areas = area(61)
  // Over land it is 22.24 km of air, 28.9 of road: 4.8 + 10.67 + 17.4 minutes, 33 each way.
  expect(over(areas, [], { without: none, stopped }).size).toBe(0)
  // By ferry 142: left in the quarter from 07:15, the slip's own quarter from 07:15 lasts 65 minutes until 08:20, with three on either side 71;
  // back in the same way for the one at nine.
  expect(areas[0]?.roundTripMin).toBe((142 + 66) / 2)
})
