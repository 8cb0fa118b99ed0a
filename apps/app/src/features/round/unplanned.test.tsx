import type { RoundPage, SetPlan } from '@evenround/contract/rounds'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { ROUND_SET, roundVisit } from '../../testing/round'
import { Unplanned } from './unplanned'

afterEach(cleanup)

const COST = { travel: 0, overtime: 0, late: 0, early: 0, unevenness: 0, change: 0, unplanned: 0, total: 0 }
const pageOf = (visits: RoundPage['set']['visits'], unplanned: SetPlan['unplanned'], leftOut: RoundPage['set']['leftOut'] = []) => {
  const plan: SetPlan = { days: [], unplanned, cost: COST }
  const page: RoundPage = {
    set: { ...ROUND_SET, visits, leftOut },
    draft: { version: 1, plan, changedAt: ROUND_SET.madeAt, byName: 'Isla' },
    marks: [],
    publication: null,
    published: [],
    flags: [],
  }
  return { page, plan }
}

test('a visit without a day says why, and what to do about it', () => {
  const { page, plan } = pageOf(
    [roundVisit('x', 'a'), roundVisit('w', 'b', { skills: ['wells'] })],
    [
      { visit: 'x', reason: 'shut', why: 'the site is shut on every day of its window' },
      { visit: 'w', reason: 'skill', why: 'nobody on the road has its skill' },
    ],
  )
  const choose = jest.fn()
  render(<Unplanned page={page} plan={plan} onChoose={choose} />)
  expect(screen.getByRole('heading', { level: 2 }).textContent).toBe('Unscheduled: 2')
  expect(screen.getByText(/^The site is shut on every day of its window\. Allow a day again/)).toBeTruthy()
  expect(screen.getByText(/^Nobody on the road has its skill\. Give somebody the skill/)).toBeTruthy()
  fireEvent.click(screen.getByText('Site w'))
  expect(choose).toHaveBeenCalledWith('w')
})

test('one that only nobody has planned yet says no reason', () => {
  const { page, plan } = pageOf([roundVisit('x', 'a')], [{ visit: 'x', reason: 'free', why: 'a day is free' }])
  render(<Unplanned page={page} plan={plan} onChoose={() => undefined} />)
  expect(screen.getByText('Site x')).toBeTruthy()
  expect(screen.queryByText(/free/)).toBeNull()
})

test('of many the first few stand there, by the end of their windows; the others on asking', () => {
  const visits = Array.from({ length: 9 }, (_, index) => roundVisit(`v${index}`, 'a', { windowDays: [0, 8 - index] }))
  const { page, plan } = pageOf(
    visits,
    visits.map(({ id }) => ({ visit: id, reason: 'free' as const, why: '' })),
    [{ siteId: 'h', siteName: 'Youth hostel', why: 'it is closed on every working day of these weeks.' }],
  )
  render(<Unplanned page={page} plan={plan} onChoose={() => undefined} />)
  const names = () => screen.getAllByText(/^Site v/).map(({ textContent }) => textContent)
  expect(names()).toEqual(['v8', 'v7', 'v6', 'v5', 'v4', 'v3'].map((id) => `Site ${id}`))
  expect(screen.getByText('Youth hostel is not planned: it is closed on every working day of these weeks.')).toBeTruthy()
  fireEvent.click(screen.getByText('All 9'))
  expect(names()).toHaveLength(9)
})
