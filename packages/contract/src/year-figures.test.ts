import { eachWhenDue, USUAL_YEAR_WEIGHTS, type YearChain, type YearInput } from '@evenround/core/year'
import { figuresOf } from './year-figures'
import type { YearKnown } from './year-page'

/** Due once, in this week; an hour with getting in. */
const chain = (id: string, first: number): YearChain => ({
  id,
  site: id,
  workMin: 50,
  every: 10,
  last: first - 10,
  early: 0,
  late: 0,
  earlyPerWeek: 0,
  latePerWeek: 0,
})
const input: YearInput = {
  weeks: 3,
  // An hour is left of the week that runs; the others have ten.
  capacityMin: [60, 600, 600],
  dayMin: 480,
  areas: [{ id: 'quay', roundTripMin: 0, betweenMin: 0 }],
  sites: ['a', 'b', 'c', 'd'].map((id) => ({ id, area: 'quay', visitMin: 10 })),
  chains: [chain('a', 0), chain('b', 0), chain('c', 1), chain('d', 2)],
  weights: USUAL_YEAR_WEIGHTS,
  seed: 1,
}
const known = (today: string): YearKnown => ({
  input,
  from: '2026-11-23',
  today,
  about: {},
  areaNames: {},
  held: [],
  leftOut: 0,
})

test('a week that has begun is no part of how even the year is; the figures of the weeks have it all the same', () => {
  const { variation, weeks } = figuresOf(known('2026-11-27'), input, eachWhenDue(input))
  // Two hours in the hour that is left, and one hour in each of the others: 60 / 600 twice is as even as can be.
  expect(weeks.map(({ loadMin }) => loadMin)).toEqual([120, 60, 60])
  expect(variation).toBe(0)
})

test('a year that begins tomorrow has its first week in it', () => {
  const { variation } = figuresOf(known('2026-11-22'), input, eachWhenDue(input))
  // 2, 0.1 and 0.1 of the hours: mean 2.2 / 3, deviation √((1.2667² + 2 × 0.6333²) / 3) = 0.8957, over the mean 1.2214.
  expect(variation).toBeCloseTo(1.2214, 3)
})
