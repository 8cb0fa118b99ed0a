import type { WorkTime } from '@evenround/contract/rounds'
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import type { Times } from '../../data/times'
import { ME, show } from '../../testing/screen'
import { TimesScreen } from './work-times'

afterEach(cleanup)

const TAM: WorkTime = {
  personId: 'tam',
  name: 'Tam Orrin',
  van: 'Van 1',
  skills: [],
  base: 'quay',
  weekdays: [2, 4, 5],
  fromMin: 480,
  toMin: 960,
  overtimeMin: 60,
  vanKg: null,
  version: 7,
}
const TIMES: Times = {
  people: [TAM, { ...TAM, personId: 'wren', name: 'Wren Adeyo', van: '', skills: ['wells'] }],
  daysOff: [],
  places: [
    { id: 'quay', name: 'Quay', island: 'Thrawn', lon: -28, lat: 39 },
    { id: 'skerry', name: 'Skerry', island: 'Outer', lon: -28.1, lat: 39 },
  ],
  terms: { hourMinor: 4800, accessMin: 8, setupMin: 14, unevenness: 1, change: 30 },
}
const SAVED = { 'PUT /api/times/people/tam': { ok: true }, 'PUT /api/round/terms': { ok: true } }
const of = async (name: string) => within(await screen.findByTestId(`times-${name}`))

test('each person’s days, hours, van and licence stand there; what is typed is kept with the version that was seen', async () => {
  const { asked } = show(<TimesScreen />, { '/api/times': TIMES, ...SAVED })
  const tam = await of('Tam Orrin')
  expect((await of('Wren Adeyo')).getByText('Licensed for wells')).toBeTruthy()
  expect(tam.getByText(/^Not licensed for wells/)).toBeTruthy()
  fireEvent.click(tam.getByRole('checkbox', { name: 'Fri' }))
  fireEvent.click(tam.getByRole('checkbox', { name: 'Mon' }))
  fireEvent.change(tam.getByLabelText('To'), { target: { value: '14.30' } })
  fireEvent.change(tam.getByLabelText('Van takes'), { target: { value: '412,5' } })
  fireEvent.change(tam.getByRole('combobox', { name: 'Where Tam Orrin starts from' }), { target: { value: 'skerry' } })
  fireEvent.click(tam.getByRole('button', { name: 'Save the times' }))
  expect(await tam.findByText('Saved. The next plan follows.')).toBeTruthy()
  expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({
    base: 'skerry',
    weekdays: [1, 2, 4],
    fromMin: 480,
    toMin: 870,
    overtimeMin: 60,
    vanKg: 412.5,
    version: 7,
  })
})

test.each([
  ['From', 'half past', 'like 8:00'],
  ['To', '25:00', 'like 16:00'],
  ['Overtime at most', 'none', 'whole minutes'],
  ['Overtime at most', '', 'whole minutes'],
  ['Van takes', 'a lot', 'a number, or empty'],
  ['Van takes', '0', 'a number, or empty'],
])('%s cannot be %p: it is said at the field and nothing is sent', async (label, value, said) => {
  const { acts } = show(<TimesScreen />, { '/api/times': TIMES, ...SAVED })
  const tam = await of('Tam Orrin')
  fireEvent.change(tam.getByLabelText(label), { target: { value } })
  fireEvent.click(tam.getByRole('button', { name: 'Save the times' }))
  expect(await tam.findByText(said)).toBeTruthy()
  expect(acts()).toEqual([])
})

test('what the server refuses stands under the person, and what was typed stays', async () => {
  const message = 'Somebody else changed these times meanwhile.'
  show(<TimesScreen />, {
    '/api/times': TIMES,
    'PUT /api/times/people/tam': { error: { code: 'STALE_VERSION', message, retryable: false } },
  })
  const tam = await of('Tam Orrin')
  fireEvent.change(tam.getByLabelText('From'), { target: { value: '7' } })
  fireEvent.click(tam.getByRole('button', { name: 'Save the times' }))
  expect(await tam.findByText(message)).toBeTruthy()
  expect(tam.getByLabelText('From').getAttribute('value')).toBe('7')
})

test('whoever may not plan looks and changes nothing', async () => {
  show(<TimesScreen />, { '/api/times': TIMES }, { ...ME, rights: ['record-visits'] })
  const tam = await of('Tam Orrin')
  expect(tam.queryByRole('button', { name: 'Save the times' })).toBeNull()
  fireEvent.click(tam.getByRole('checkbox', { name: 'Mon' }))
  expect(tam.getByRole('checkbox', { name: 'Mon' }).getAttribute('aria-checked')).toBe('false')
  expect(screen.getByText('The owner sets these.')).toBeTruthy()
})

test('what the round is planned by: money is typed in its usual unit and kept in its smallest', async () => {
  const { asked } = show(<TimesScreen />, { '/api/times': TIMES, ...SAVED })
  const hour = await screen.findByLabelText('An hour of a technician')
  expect(hour.getAttribute('value')).toBe('48')
  fireEvent.change(hour, { target: { value: '51,30' } })
  fireEvent.click(screen.getByRole('button', { name: 'Save' }))
  await waitFor(() => expect(asked.some(({ method }) => method === 'PUT')).toBe(true))
  expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ ...TIMES.terms, hourMinor: 5130, winding: 1.3 })
})

test.each([
  ['Access, each visit', '8.5', 'a number up to 240'],
  ['Weight of workload balance', '-1', 'a number up to 100'],
  ['Moving a published visit', '', 'a number up to 1000'],
])('of what it is planned by, %s cannot be %p', async (label, value, said) => {
  const { asked } = show(<TimesScreen />, { '/api/times': TIMES, ...SAVED })
  fireEvent.change(await screen.findByLabelText(label), { target: { value } })
  fireEvent.click(screen.getByRole('button', { name: 'Save' }))
  expect(await screen.findByText(said)).toBeTruthy()
  expect(asked.some(({ method }) => method === 'PUT')).toBe(false)
})

test('without a network the screen says that it cannot be shown', async () => {
  show(<TimesScreen />, {})
  expect(await screen.findByText('The times cannot be shown', {}, { timeout: 60_000 })).toBeTruthy()
})
