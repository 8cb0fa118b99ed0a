import type { VisitRowDto } from '@evenround/contract/site'
import { cleanup, screen } from '@testing-library/react'
import { show } from '../../testing/screen'
import { Book } from './book'

afterEach(cleanup)

const row = (visitId: string, more: Partial<VisitRowDto> = {}): VisitRowDto => ({
  visitId,
  siteId: 'site',
  siteName: 'Net loft cottage',
  systemName: 'Kitchen',
  personName: 'Tam Orrin',
  begunAt: '2026-11-24T09:10:00.000Z',
  finishedAt: '2026-11-24T10:00:00.000Z',
  outcome: 'done',
  fitted: ['BRK-SED-10', 'BRK-CB-10'],
  ...more,
})
const NO_JOBS = { '/api/disinfections': { today: '2026-11-25', rows: [] } }

test('visits stand under their days in the firm’s zone, with what was fitted and how they ended', async () => {
  // Half past midnight in UTC is still the day before on the islands.
  const visits = [
    row('a', { begunAt: '2026-11-25T00:30:00.000Z' }),
    row('b'),
    row('c', { begunAt: '2026-11-23T09:00:00.000Z', outcome: null, fitted: [] }),
  ]
  show(<Book />, { ...NO_JOBS, '/api/book': { visits, next: null } })
  await screen.findAllByText('Net loft cottage')
  expect(screen.getAllByRole('heading', { level: 2 }).map(({ textContent }) => textContent)).toEqual([
    'Tuesday 24 November 2026',
    'Monday 23 November 2026',
  ])
  expect(screen.getAllByText('Fitted BRK-SED-10, BRK-CB-10')).toHaveLength(2)
  expect([screen.getByText('No part fitted'), screen.getByText('open'), screen.getByText('23:30')].every(Boolean)).toBe(true)
  expect(screen.getAllByRole('link').map((link) => link.getAttribute('href'))).toContain('/book/a')
})

test('an empty book says how it fills', async () => {
  show(<Book />, { ...NO_JOBS, '/api/book': { visits: [], next: null } })
  expect(await screen.findByText('The book is empty')).toBeTruthy()
})
