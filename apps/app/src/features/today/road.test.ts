import type { RoadDayDto, RoadStopDto } from '@evenround/contract/office'
import { roadLine, standingOf } from './road'

const stop = (id: string, leaveMin: number, more: Partial<RoadStopDto> = {}): RoadStopDto => ({
  id,
  siteName: id,
  leaveMin,
  arriveMin: leaveMin + 20,
  workMin: 40,
  travelMin: 20,
  promise: null,
  state: 'planned',
  ...more,
})
/** 8:00 at the first, 9:00 left for the second, 10:00 left for the third, home at 11:20. */
const day = (...stops: RoadStopDto[]): RoadDayDto => ({
  personId: 'tam',
  name: 'Tam Orrin',
  fromMin: 460,
  toMin: 1020,
  homeMin: 680,
  heardAt: null,
  stops,
})
const done = stop('a', 480, { state: 'done' })

test('who is at a stop past its planned end is behind by so much, and so is what follows', () => {
  const standing = standingOf(day(done, stop('b', 540, { state: 'begun' }), stop('c', 600)), 640)
  // Planned from 9:20 to 10:00; it is 10:40. Planned home at 11:20.
  expect(standing).toMatchObject({ behindMin: 40, homeMin: 720, broken: [] })
  expect(standing.at?.id).toBe('b')
})

test('who has not left yet is behind from the time to leave on; less than ten minutes is nothing', () => {
  expect(standingOf(day(done, stop('b', 540)), 549).behindMin).toBe(0)
  expect(standingOf(day(done, stop('b', 540)), 565).behindMin).toBe(25)
})

test('a promise that cannot be kept any more is named', () => {
  const late = day(done, stop('b', 540, { state: 'begun' }), stop('c', 600, { promise: [600, 640] }))
  expect(standingOf(late, 600).broken).toEqual([])
  expect(standingOf(late, 630).broken).toEqual(['c'])
})

test('a day that is done, or long over, is not late', () => {
  expect(standingOf(day(done), 900)).toMatchObject({ at: null, behindMin: 0 })
  expect(standingOf(day(done, stop('b', 540)), 1200).behindMin).toBe(0)
})

test('the line shows what is done, where somebody is, and what comes', () => {
  const stops = day(done, stop('b', 540, { state: 'begun' }), stop('c', 600, { promise: [600, 700] }))
  expect(roadLine(stops, stops.stops[1] ?? null).map(({ state, promised }) => [state, promised])).toEqual([
    ['done', false],
    ['next', false],
    ['later', true],
  ])
})
