import type { SiteHours } from '@evenround/contract/rounds'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { queryClient } from '../../data/queries'
import { show } from '../../testing/screen'
import { SiteHoursPage } from './site-hours'

afterEach(cleanup)

const HOURS: SiteHours = {
  siteId: 'site',
  open: [
    [480, 720],
    [810, 960],
  ],
  closedWeekdays: [3],
  accessMin: null,
  closings: [{ id: 'winter', fromDay: '2027-11-01', toDay: '2028-03-01' }],
  version: 2,
}
const shown = (hours: SiteHours = HOURS) =>
  show(<SiteHoursPage siteId="site" />, { '/api/sites/site/hours': hours, 'PUT /api/sites/site/hours': { ok: true } })
const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } })
const sent = (asked: ReturnType<typeof shown>['asked']) => asked.find(({ method }) => method === 'PUT')?.body

test('hours with quiet hours between them, a closed weekday, a season: as they stand and as they are kept', async () => {
  const { asked } = shown()
  expect((await screen.findByLabelText('Service hours')).getAttribute('value')).toBe('08:00-12:00, 13:30-16:00')
  expect(screen.getByText('1 Nov 2027 until 1 Mar 2028, opening again that day')).toBeTruthy()
  type('Service hours', '9-11:15')
  fireEvent.click(screen.getByRole('checkbox', { name: 'Wed' }))
  fireEvent.click(screen.getByRole('checkbox', { name: 'Sun' }))
  type('Access takes', '25')
  fireEvent.click(screen.getByRole('button', { name: 'Take out' }))
  type('Shuts on', '2026-12-20')
  type('Opens again on', '2027-01-10')
  fireEvent.click(screen.getByRole('button', { name: 'Add' }))
  expect(await screen.findByText('20 Dec 2026 until 10 Jan 2027, opening again that day')).toBeTruthy()
  fireEvent.click(screen.getByRole('button', { name: 'Save the hours' }))
  expect(await screen.findByText('Saved. The next plan follows.')).toBeTruthy()
  expect(sent(asked)).toMatchObject({
    open: [[540, 675]],
    closedWeekdays: [7],
    accessMin: 25,
    closings: [{ fromDay: '2026-12-20', toDay: '2027-01-10' }],
    version: 2,
  })
})

test('that it was saved still stands there once the form shows the new version', async () => {
  shown()
  await screen.findByLabelText('Service hours')
  // The server answers with its next version from here on.
  HOURS.version = 3
  fireEvent.click(screen.getByRole('button', { name: 'Save the hours' }))
  await screen.findByText('Saved. The next plan follows.')
  await waitFor(() => expect(queryClient.getQueryData<SiteHours>(['site-hours', 'site'])?.version).toBe(3))
  expect(screen.getByText('Saved. The next plan follows.')).toBeTruthy()
  HOURS.version = 2
})

test('empty hours are any time, and an empty way in is the firm’s', async () => {
  const { asked } = shown({ ...HOURS, accessMin: 12 })
  await screen.findByLabelText('Service hours')
  type('Service hours', '')
  type('Access takes', '')
  fireEvent.click(screen.getByRole('button', { name: 'Save the hours' }))
  await screen.findByText('Saved. The next plan follows.')
  expect(sent(asked)).toMatchObject({ open: [], accessMin: null })
})

test.each([
  ['Service hours', '12-8', 'Times like 8-12, 13:30-16, one after another'],
  ['Service hours', '8-12, 11-13', 'Times like 8-12, 13:30-16, one after another'],
  ['Access takes', '2.5', 'whole minutes up to 240'],
  ['Access takes', '500', 'whole minutes up to 240'],
])('%s cannot be %p: it is said at the field, and nothing can be saved', async (label, value, said) => {
  const { acts } = shown()
  await screen.findByLabelText(label)
  type(label, value)
  fireEvent.blur(screen.getByLabelText(label))
  expect(await screen.findByText(said)).toBeTruthy()
  fireEvent.click(screen.getByRole('button', { name: 'Save the hours' }))
  await act(async () => undefined)
  expect(acts()).toEqual([])
})

test('a season that is none is said at its field and cannot be added', async () => {
  shown()
  await screen.findByLabelText('Shuts on')
  type('Shuts on', '2027-02-20')
  type('Opens again on', '2027-02-20')
  fireEvent.click(screen.getByRole('button', { name: 'Add' }))
  expect(await screen.findByText('after the first day')).toBeTruthy()
  expect(screen.getAllByRole('button', { name: 'Take out' })).toHaveLength(1)
})
