import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import type { Times } from '../../data/times'
import { show } from '../../testing/screen'
import { DaysOff } from './days-off'

afterEach(cleanup)

const PERSON = {
  personId: 'tam',
  name: 'Tam Orrin',
  van: 'Van 1',
  skills: [],
  base: null,
  weekdays: [1, 2, 3, 4, 5],
  fromMin: 480,
  toMin: 960,
  overtimeMin: 60,
  vanKg: null,
  version: 1,
}
const off = (id: string, more: Partial<Times['daysOff'][number]> = {}): Times['daysOff'][number] => ({
  id,
  personId: null,
  fromDay: '2026-12-24',
  toDay: '2026-12-26',
  why: 'Midwinter',
  source: 'calendar',
  ...more,
})
const times = (...daysOff: Times['daysOff']): Times => ({
  people: [PERSON],
  daysOff,
  places: [],
  terms: { hourMinor: 4800, accessMin: 8, setupMin: 14, unevenness: 1, change: 30 },
})

test('days off stand with whom they are for and where they come from', () => {
  show(<DaysOff times={times(off('a'), off('b', { personId: 'tam', source: 'sick', toDay: '2026-12-24', why: '' }))} mayPlan={false} />, {})
  expect(screen.getByText('Everybody · Midwinter · from a calendar')).toBeTruthy()
  expect(screen.getByText('Tam Orrin · ill')).toBeTruthy()
  expect(screen.queryByText('Add the days')).toBeNull()
})

test('without any it says how they can be brought in; of many the first dozen stands', () => {
  show(<DaysOff times={times()} mayPlan={false} />, {})
  expect(screen.getByText(/None ahead/)).toBeTruthy()
  cleanup()
  show(<DaysOff times={times(...Array.from({ length: 15 }, (_, index) => off(String(index))))} mayPlan={false} />, {})
  expect(screen.getByText('and 3 more later on')).toBeTruthy()
})

test('days are added once there is a first one; without an end it is one day', async () => {
  const { asked } = show(<DaysOff times={times()} mayPlan />, { 'POST /api/times/days-off': { daysOff: [] } })
  const press = () => fireEvent.click(screen.getByRole('button', { name: 'Add the days' }))
  const type = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
  press()
  expect((await screen.findByRole('alert')).textContent).toBe('Choose the first day')
  type('First day', '2026-12-24')
  type('Last day', '2026-12-23')
  press()
  expect(await screen.findByText('after the first day')).toBeTruthy()
  expect(asked.some(({ method }) => method === 'POST')).toBe(false)
  type('Last day', '')
  type('Why', ' the harbour is shut ')
  press()
  await screen.findByText('Added. The next plan keeps them free.')
  expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
    personId: null,
    fromDay: '2026-12-24',
    toDay: '2026-12-24',
    why: 'the harbour is shut',
    source: 'typed',
  })
})

test('what the server refuses is said, and what was typed stays', async () => {
  show(<DaysOff times={times(off('a'))} mayPlan />, {
    'DELETE /api/times/days-off/a': { error: { code: 'NOT_FOUND', message: 'There is no such day off here.', retryable: false } },
  })
  fireEvent.click(screen.getByRole('button', { name: 'Take back' }))
  await waitFor(() => expect(screen.getByRole('status').textContent).toBe('There is no such day off here.'))
})
