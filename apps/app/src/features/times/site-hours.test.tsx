import type { SiteHours } from '@evenround/contract/rounds'
import { cleanup, fireEvent, screen } from '@testing-library/react'
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
const isOff = (name: string): boolean => screen.getByRole('button', { name }).getAttribute('aria-disabled') === 'true'
const sent = (asked: ReturnType<typeof shown>['asked']) => asked.find(({ method }) => method === 'PUT')?.body

test('hours with quiet hours between them, a closed weekday, a season: as they stand and as they are kept', async () => {
  const { asked } = shown()
  expect((await screen.findByLabelText('Service hours')).getAttribute('value')).toBe('08:00-12:00, 13:30-16:00')
  expect(screen.getByText('2027-11-01 until 2028-03-01, opening again that day')).toBeTruthy()
  type('Service hours', '9-11:15')
  fireEvent.click(screen.getByRole('button', { name: 'Wed ✓' }))
  fireEvent.click(screen.getByRole('button', { name: 'Sun' }))
  type('Access takes', '25')
  fireEvent.click(screen.getByRole('button', { name: 'Take out' }))
  type('Shuts on', '2026-12-20')
  type('Opens again on', '2027-01-10')
  fireEvent.click(screen.getByRole('button', { name: 'Add' }))
  expect(screen.getByText('2026-12-20 until 2027-01-10, opening again that day')).toBeTruthy()
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
  expect(screen.getByText(said)).toBeTruthy()
  expect(isOff('Save the hours')).toBe(true)
  fireEvent.click(screen.getByRole('button', { name: 'Save the hours' }))
  expect(acts()).toEqual([])
})

test('a season that is none is said at its field and cannot be added', async () => {
  shown()
  await screen.findByLabelText('Shuts on')
  type('Shuts on', '2027-02-20')
  type('Opens again on', '2027-02-20')
  expect(screen.getByText('after the first day')).toBeTruthy()
  expect(isOff('Add')).toBe(true)
})
