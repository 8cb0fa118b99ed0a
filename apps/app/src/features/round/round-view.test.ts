import { inputOfSet } from '@evenround/contract/round-set'
import { sumsOf, yearOf } from '@evenround/contract/round-sums'
import type { SetPlan } from '@evenround/contract/rounds'
import { planRound, roundCost } from '@evenround/core/round'
import { addDays, weekStart } from '@evenround/core/units'
import { ROUND_SET, roundVisit as visit } from '../../testing/round'
import { minuteOf } from '../../ui/minute'
import { spansOf } from '../../ui/spans'
import { linesOf, movedBetween } from './plan-view'
import { inputFor, mendingInput } from './planner-acts'
import { carried, carryPrices, keyOf, signed, termsOf, whyNot } from './price'
import { weekdayWord, weekNumber } from './words'

const SET = ROUND_SET
const made = planRound(inputOfSet(SET), { iterations: 200 })
const PLAN: SetPlan = { days: made.days, unplanned: made.unplanned, cost: made.cost }

test('lines: drives, work and home of each working day, days off left out', () => {
  const lines = linesOf(SET, PLAN, '2026-11-30', 'all')
  expect(lines).toHaveLength(7)
  for (const line of lines) {
    const planned = PLAN.days.find((one) => keyOf(one) === keyOf(line))
    expect(line.loadMin).toBe((planned?.travelMin ?? 0) + (planned?.workMin ?? 0))
    for (const { departMin, driveMin, startMin } of line.stops) expect(departMin + driveMin).toBeLessThanOrEqual(startMin + 1e-6)
  }
  expect(linesOf(SET, PLAN, '2026-11-30', 't')).toHaveLength(4)
  expect(linesOf(SET, PLAN, '2026-12-07', 'all')).toEqual([])
})

test('what a carry is said to cost is what the plan then costs more, by the core’s own check', () => {
  for (const { id } of SET.visits) {
    const prices = carryPrices(SET, PLAN, id)
    if (!prices.now) throw new Error('everything is planned here')
    for (const place of prices.to.values()) {
      const after = carried(SET, PLAN, id, place)
      const { cost, broken } = roundCost(inputOfSet(SET), after)
      expect(broken).toEqual([])
      expect(cost.total - PLAN.cost.total).toBeCloseTo(place.total - prices.now.total, 6)
      const sum = termsOf(prices.now, place).reduce((total, { minutes }) => total + minutes, 0)
      // Terms under a quarter of a minute are not said.
      expect(Math.abs(sum - (place.total - prices.now.total))).toBeLessThan(1.6)
    }
  }
})

test('where it cannot go says why', () => {
  expect(whyNot(SET, 'w', { technician: 't', day: 0 })).toContain('licence')
  expect(whyNot(SET, 'x', { technician: 'u', day: 1 })).toContain('off')
  expect(whyNot({ ...SET, visits: [visit('x', 'a', { windowDays: [1, 2] })] }, 'x', { technician: 't', day: 3 })).toContain(
    'past its window',
  )
  expect(whyNot({ ...SET, visits: [visit('x', 'a', { pinnedDay: 2 })] }, 'x', { technician: 't', day: 1 })).toContain('another day')
})

test('a week is part of one where it has fewer days than weeks have; one with more makes no other so', () => {
  const weekOf = (monday: string, days: number): string[] => Array.from({ length: days }, (_, at) => addDays(monday, at))
  const days = [...weekOf('2026-11-30', 7), ...weekOf('2026-12-07', 4), ...weekOf('2026-12-14', 4), ...weekOf('2026-12-21', 1)]
  const year = days.filter((iso) => weekStart(iso) === iso).map((week) => ({ week, minutes: 0 }))
  const { weeks } = yearOf({ ...SET, days, year }, { ...PLAN, days: [] }, 'all')
  expect(weeks.map(({ part }) => part)).toEqual([false, false, false, true])
})

test('the year: planned weeks as planned, the rest as it falls due; a person has a share of the rest', () => {
  const year = yearOf(SET, PLAN, 'all')
  expect(year.weeks.map(({ planned }) => planned)).toEqual([true, true, false, false])
  const load = PLAN.days.reduce((sum, { travelMin, workMin }) => sum + travelMin + workMin, 0)
  expect(year.weeks[1]?.minutes).toBe(load)
  // 300 and 500 about 400: a hundred of four hundred.
  expect(year.beyond).toBeCloseTo(0.25, 9)
  expect(yearOf(SET, PLAN, 't').weeks[2]?.minutes).toBe(150)
  // The hours that are there: each person's working day, on the days they are not off.
  const there = SET.technicians.reduce(
    (sum, { fromMin, toMin, daysOff }) => sum + (toMin - fromMin) * SET.days.filter((_, day) => !daysOff.includes(day)).length,
    0,
  )
  expect(year.filled).toBeCloseTo(load / there, 9)
  expect(year.weeks.reduce((sum, { availableMin }) => sum + (availableMin ?? 0), 0)).toBe(there)
})

test('sums name what was pulled forward with its worth; moves are told from where things stood', () => {
  expect(sumsOf(SET, PLAN, 'all')).toMatchObject({ visits: 3, pulled: 3, lostMin: 18, unplanned: 0, ferries: 0 })
  expect(movedBetween(PLAN, PLAN).size).toBe(0)
  expect(movedBetween({ ...PLAN, days: [] }, PLAN).size).toBe(3)
})

test('one person’s round leaves the others’ as it is; mending holds everything to its day', () => {
  const page = { set: SET, draft: { plan: PLAN } } as never
  const own = inputFor(page, 't')
  expect(own.technicians.map(({ id }) => id)).toEqual(['t'])
  const theirs = PLAN.days.filter(({ technician }) => technician === 'u').flatMap(({ stops }) => stops.map(({ visit: id }) => id))
  expect(own.visits.every(({ id }) => !theirs.includes(id))).toBe(true)
  for (const { id, promisedDay } of mendingInput(page).visits)
    expect(promisedDay).toBe(PLAN.days.find(({ stops }) => stops.some((stop) => stop.visit === id))?.day)
})

test('times, spans and weeks as people type and say them', () => {
  expect(['9', '9:30', '09.30', '930', '24', '25', '9:70', 'x'].map(minuteOf)).toEqual([540, 570, 570, 570, 1440, null, null, null])
  expect(spansOf('8-12, 13:30-16')).toEqual([
    [480, 720],
    [810, 960],
  ])
  expect([spansOf(''), spansOf('8'), spansOf('12-8'), spansOf('8-12, 11-14')]).toEqual([[], null, null, null])
  expect([signed(31.4), signed(-9), signed(0.2)]).toEqual(['+ 31 min', '− 9 min', '± 0 min'])
  expect([weekNumber('2026-12-31'), weekNumber('2027-01-03'), weekNumber('2027-01-04')]).toEqual([53, 53, 1])
  expect(weekdayWord('2026-11-26')).toBe('Thu 26 Nov')
})
