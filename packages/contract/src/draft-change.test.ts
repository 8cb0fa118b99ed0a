import fc from 'fast-check'
import { planChange, stateAfter, withChange } from './draft-change'
import type { RoundState, SetPlan } from './rounds'

const COST = { travel: 0, overtime: 0, late: 0, early: 0, unevenness: 0, change: 0, unplanned: 0, total: 0 }

/** A plan that puts each visit on a line or on none. */
function planOf(spots: readonly (number | null)[], order: number): SetPlan {
  const lines = new Map<number, number[]>()
  spots.forEach((spot, visit) => {
    if (spot !== null) lines.set(spot, [...(lines.get(spot) ?? []), visit])
  })
  return {
    days: [...lines].map(([spot, visits]) => ({
      technician: `t${spot % 2}`,
      day: spot,
      stops: (order % 2 === 0 ? visits : [...visits].reverse()).map((visit, index) => ({
        visit: `v${visit}`,
        arriveMin: 480 + 30 * index,
        startMin: 480 + 30 * index,
        leaveMin: 500 + 30 * index,
      })),
      travelMin: 10 * visits.length,
      workMin: 20 * visits.length,
      overtimeMin: 0,
    })),
    unplanned: spots.flatMap((spot, visit) => (spot === null ? [{ visit: `v${visit}`, why: `full ${order}` }] : [])),
    cost: { ...COST, total: order },
  }
}
const plan = fc
  .tuple(fc.array(fc.option(fc.integer({ min: 0, max: 5 })), { minLength: 1, maxLength: 12 }), fc.integer({ min: 0, max: 3 }))
  .map(([spots, order]) => planOf(spots, order))
const sorted = ({ days, unplanned, cost }: SetPlan) => ({
  days: [...days].sort((a, b) => a.day - b.day),
  unplanned: [...unplanned].sort((a, b) => (a.visit < b.visit ? -1 : 1)),
  cost,
})

test('whoever has the plan before and the change has the plan after', () => {
  fc.assert(
    fc.property(plan, plan, (before, after) => expect(sorted(withChange(before, planChange(before, after)))).toEqual(sorted(after))),
  )
})

test('a carry from one line to another says two lines, whatever else the plan holds', () => {
  const before = planOf([0, 0, 1, 2, 3, 4], 0)
  const after = planOf([0, 1, 1, 2, 3, 4], 0)
  const change = planChange(before, after)
  expect(change.days.map(({ day }) => day).sort()).toEqual([0, 1])
  expect(change).toMatchObject({ unplanned: [], placed: [] })
  expect(planChange(before, before)).toMatchObject({ days: [], unplanned: [], placed: [] })
})

test('a change done on another version or another set is not put in place', () => {
  const state: RoundState = {
    setId: 'one',
    draft: { version: 4, plan: planOf([0], 0), changedAt: '2026-11-25T10:00:00.000Z', byName: 'Isla' },
    marks: [],
    publication: null,
    published: [],
    flags: [],
  }
  const change = {
    setId: 'one',
    fromVersion: 4,
    version: 5,
    changedAt: '2026-11-25T10:01:00.000Z',
    byName: 'Tam',
    ...planChange(planOf([0], 0), planOf([1], 0)),
  }
  expect(stateAfter(state, change)?.draft).toMatchObject({ version: 5, byName: 'Tam', plan: { days: [{ day: 1 }] } })
  expect(stateAfter(state, { ...change, fromVersion: 3 })).toBeNull()
  expect(stateAfter(state, { ...change, setId: 'two' })).toBeNull()
})
