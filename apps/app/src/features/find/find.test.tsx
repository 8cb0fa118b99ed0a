import { cleanup, fireEvent, screen } from '@testing-library/react'
import { show } from '../../testing/screen'
import { Find, hrefOf } from './find'

afterEach(cleanup)

const FOUND = [
  { kind: 'site', id: 's1', siteId: 's1', siteName: 'Café Weir', title: 'Café Weir', at: null },
  { kind: 'part', id: 'f1', siteId: 's2', siteName: 'Net loft cottage', title: 'LT-SED-05', at: '2026-11-20T10:00:00.000Z' },
]
const type = (text: string): void => void fireEvent.change(screen.getByLabelText('Search the firm'), { target: { value: text } })

test('what is found says what it is and where', async () => {
  show(<Find />, { '/api/search': { found: FOUND } })
  type('weir')
  expect(await screen.findByText('LT-SED-05')).toBeTruthy()
  expect(screen.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual([
    'Café WeirSite',
    expect.stringMatching(/^LT-SED-05Part fitted · Net loft cottage · .*20 Nov/),
  ])
})

test('one letter asks for nothing; nothing found says what to try', async () => {
  const { asked } = show(<Find />, { '/api/search': { found: [] } })
  type('w')
  expect(screen.getByText(/^Two letters are enough/)).toBeTruthy()
  type('we')
  expect(await screen.findByText('Nothing found')).toBeTruthy()
  expect(
    asked.filter(({ path }) => path.includes('/api/search')).map(({ path }) => new URL(path, 'http://x').searchParams.get('q')),
  ).toEqual(['we'])
})

test('a note opens its visit, everything else its site', () => {
  expect(hrefOf({ kind: 'visit', id: 'v', siteId: 's' })).toBe('/book/v')
  expect(hrefOf({ kind: 'part', id: 'f', siteId: 's' })).toBe('/sites/s')
})
