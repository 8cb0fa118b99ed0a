import type { VanList } from '@evenround/contract/rounds'
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { show } from '../../testing/screen'
import { Van } from './van'

afterEach(cleanup)

const item = (more: Partial<VanList['items'][number]>): VanList['items'][number] => ({
  key: 'BRK-SED-10',
  kind: 'part',
  name: 'Sediment, pleated, small',
  count: 2,
  unit: '',
  forSites: ['Net loft cottage', 'Boatyard wash-down'],
  firstDay: '2026-11-25',
  state: null,
  orderBy: null,
  ...more,
})
const list = (...items: VanList['items']): VanList => ({ from: '2026-11-25', to: '2026-11-25', items })

test('what is to be loaded stands by kind, with the sites it is for; a tap says that it is in', async () => {
  const { acts, asked } = show(<Van />, {
    '/api/van': list(item({}), item({ key: 'TDS meter', kind: 'tool', name: 'TDS meter', count: 1, state: 'loaded' })),
    'PUT /api/van/ticks': { ok: true },
  })
  expect((await screen.findByRole('heading', { level: 1 })).textContent).toContain('Load')
  await screen.findByText('1 of 2 in the van. Tap once when it is in, again when it is short.')
  expect(screen.getAllByRole('heading', { level: 2 }).map(({ textContent }) => textContent)).toEqual(['Parts', 'Tools'])
  fireEvent.click(screen.getByText('Sediment, pleated, small', { exact: false }))
  await waitFor(() => expect(acts()).toEqual(['PUT /api/van/ticks']))
  expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ day: '2026-11-25', key: 'BRK-SED-10', state: 'loaded' })
})

test('what is short says by when to order', async () => {
  show(<Van />, { '/api/van': list(item({ state: 'short', orderBy: '2026-11-20' })) })
  expect(await screen.findByText(/order/i)).toBeTruthy()
})

test('a day without stops has nothing to load; without a network it says so', async () => {
  show(<Van />, { '/api/van': list() })
  expect(await screen.findByText('Nothing to load')).toBeTruthy()
  cleanup()
  show(<Van />, {})
  expect(await screen.findByLabelText('Loading the list')).toBeTruthy()
  expect(await screen.findByText('The list cannot be shown', {}, { timeout: 60_000 })).toBeTruthy()
})
