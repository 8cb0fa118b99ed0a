import { planRound, type RoundInput, roundCost } from '..'
import { lowerBound } from '../bound'
import { legsOf } from '../legs'
import { type Crossing, driveMinutes, NOT_TODAY_MIN, sailingOf, travelAcross, travelOn } from '.'
import { crossingOn } from './by-day'

/** As in crossings.test.ts: three minutes of land on either side. */
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
  seasons: [{ from: '11-01', to: '03-31', departures: [600], returns: [840] }],
}
const CAUSEWAY: Crossing = {
  ...FERRY,
  id: 'c',
  kind: 'causeway',
  minutes: 4,
  departures: [],
  returns: [],
  seasons: [],
  tides: { '2026-12-01': [[480, 720]], '2026-12-02': [[540, 780]], '2026-12-03': [] },
}
const PLACES = [
  { id: 'yard', lat: 50, lon: 0, island: '' },
  { id: 'house', lat: 50.2, lon: 0, island: 'Holm' },
]

test('a winter over the turn of the year has its own sailings, to its last day', () => {
  for (const day of ['2026-11-01', '2026-12-31', '2027-01-01', '2027-03-31']) expect(crossingOn(FERRY, day).departures).toEqual([600])
  for (const day of ['2026-10-31', '2027-04-01']) expect(crossingOn(FERRY, day).departures).toEqual([540, 660])
  const travel = travelAcross(PLACES, [FERRY], 1.3)
  expect(sailingOf(travelOn(travel, '2026-07-01'), 'yard', 'house', 480)).toBe(540)
  expect(sailingOf(travelOn(travel, '2026-12-01'), 'yard', 'house', 480)).toBe(600)
  // Ten minutes past the only sailing of winter.
  expect(driveMinutes(travelOn(travel, '2026-12-01'), 'yard', 'house', 610)).toBe(NOT_TODAY_MIN)
})

test('a causeway is entered as its table of the day has it, and not at all on a day without an entry', () => {
  const travel = travelAcross(PLACES, [CAUSEWAY], 1.3)
  expect(driveMinutes(travelOn(travel, '2026-12-01'), 'yard', 'house', 480)).toBe(10)
  // Left at 08:00 the other day: at the causeway in the quarter from 08:00, of which 64 minutes last until 09:04.
  expect(driveMinutes(travelOn(travel, '2026-12-02'), 'yard', 'house', 480)).toBe(3 + 64 + 3)
  for (const day of ['2026-12-03', '2026-12-04']) expect(driveMinutes(travelOn(travel, day), 'yard', 'house', 480)).toBe(NOT_TODAY_MIN)
})

const visit = (id: string, from: number, to: number) => ({
  id,
  place: 'house',
  serviceMin: 60,
  dueDay: from,
  windowDays: [from, to] as [number, number],
  latePerDay: 50,
  earlyPerDay: 5,
})
const INPUT: RoundInput = {
  days: ['2026-12-01', '2026-12-02', '2026-12-03', '2026-12-04'],
  technicians: [{ id: 't', base: 'yard', fromMin: 480, toMin: 960, overtimeMin: 60, skills: [], daysOff: [] }],
  places: PLACES,
  travelMin: [],
  ...(({ land }) => (land ? { land } : {}))(travelAcross(PLACES, [CAUSEWAY], 1.3)),
  visits: [visit('a', 2, 3), visit('b', 0, 3), visit('c', 1, 3)],
  weights: { overtime: 2, unevenness: 0, change: 10 },
  seed: 3,
}

test('a round crosses on days the table allows and in their hours; what can cross on no day of its window stays unplanned', () => {
  const plan = planRound(INPUT, { iterations: 300 })
  expect(plan.unplanned.map((one) => one.visit)).toEqual(['a'])
  const { cost, broken } = roundCost(INPUT, plan)
  expect(broken).toEqual([])
  expect(cost.total).toBeCloseTo(plan.cost.total, 6)
  expect(lowerBound(INPUT)).toBeLessThanOrEqual(plan.cost.total)
  const byDay = new Map(plan.days.map((day) => [day.day, day]))
  expect([...byDay.keys()].sort()).toEqual([0, 1])
  // On the second day it opens at 09:00: left then, and not before to wait there.
  expect(byDay.get(1)?.stops[0]?.arriveMin).toBe(550)
  const legs = legsOf(INPUT)(byDay.get(1) as NonNullable<ReturnType<typeof byDay.get>>)
  expect(legs.map(({ travelMin }) => travelMin)).toEqual([10, 10])
})

test('the same days told another way round cost what they cost: a plan that crosses at high water is named', () => {
  const wrong = { days: [{ technician: 't', day: 1, stops: [{ visit: 'b', arriveMin: 490, startMin: 490, leaveMin: 550 }] }] }
  expect(roundCost(INPUT, wrong).broken.map(({ rule }) => rule)).toContain('travel')
})
