import type { RoundPage, RoundVisitDto } from '@evenround/contract/rounds'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import type { ReactNode } from 'react'
import { ROUND_SET, roundVisit } from '../../testing/round'
import { WaysOut } from './ways-out'

jest.mock('expo-router', () => ({
  Link: ({ children, href }: { children: ReactNode; href: string }) => <a href={href}>{children}</a>,
}))
afterEach(cleanup)

const COST = { travel: 0, overtime: 0, late: 0, early: 0, unevenness: 0, change: 0, unplanned: 0, total: 0 }
const pageOf = (visit: RoundVisitDto): RoundPage => ({
  set: { ...ROUND_SET, visits: [visit] },
  draft: { version: 1, plan: { days: [], unplanned: [], cost: COST }, changedAt: ROUND_SET.madeAt, byName: 'Isla' },
  marks: [],
  publication: null,
  published: [],
  flags: [],
})

test('a visit that no day takes says what would help, with its day and price; the act is one press, or a link to where it is done', () => {
  const visit = roundVisit('x', 'a', { windowDays: [0, 0], closedDays: [0] })
  const act = jest.fn()
  const { rerender } = render(<WaysOut page={pageOf(visit)} visit={visit} mayPlan act={act} />)
  expect(screen.getByText('What would help')).toBeTruthy()
  expect(screen.getByText(/^The customer opens on Mon 30 Nov: (Tam|Wren)$/)).toBeTruthy()
  expect(screen.getByText(/^Outside its window, Tue 1 Dec: (Tam|Wren)$/)).toBeTruthy()
  // There and back are twice twenty minutes.
  expect(screen.getAllByText(/more driving \+ 40/).length).toBeGreaterThan(0)
  fireEvent.click(screen.getByRole('button', { name: 'Pin to Mon 30 Nov' }))
  expect(act).toHaveBeenCalledTimes(1)
  const well = roundVisit('w', 'a', { skills: ['diving'] })
  rerender(<WaysOut page={pageOf(well)} visit={well} mayPlan act={act} />)
  expect(screen.getByText(/has the skill \(diving\)/)).toBeTruthy()
  expect(screen.getByText('Open The firm')).toBeTruthy()
  rerender(<WaysOut page={pageOf(well)} visit={well} mayPlan={false} act={act} />)
  expect(screen.queryByText('Open The firm')).toBeNull()
  const easy = roundVisit('e', 'a')
  rerender(<WaysOut page={pageOf(easy)} visit={easy} mayPlan act={act} />)
  expect(screen.queryByTestId('ways-out')).toBeNull()
})
