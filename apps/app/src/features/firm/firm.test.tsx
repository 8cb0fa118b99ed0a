import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { ME, show } from '../../testing/screen'
import { FirmScreen } from './firm'

afterEach(cleanup)

const OTHERS = { '/api/people': { people: [ME.person] } }
const off = (name: string): boolean => screen.getByRole('button', { name }).getAttribute('aria-disabled') === 'true'
const choose = (question: string, option: string): void =>
  void fireEvent.click(within(screen.getByRole('radiogroup', { name: question })).getByRole('radio', { name: option }))
const saved = (asked: ReturnType<typeof show>['asked']) => asked.find(({ method }) => method === 'PUT')?.body

test('a method is saved with the version that was seen, once something was chosen', async () => {
  const { asked } = show(<FirmScreen />, { ...OTHERS, 'PUT /api/firm': { ok: true } })
  await screen.findByRole('heading', { level: 1, name: 'Fennick & Daughter' })
  expect(off('Save the methods')).toBe(true)
  choose('Seals', 'New every time')
  fireEvent.click(screen.getByRole('button', { name: 'Save the methods' }))
  expect((await screen.findByRole('status')).textContent).toBe('Saved. Every screen that depends on it follows.')
  expect(saved(asked)).toEqual({ version: 3, name: ME.firm.name, gallon: 'us', schools: { ...ME.firm.schools, seals: 'new' } })
})

test('somebody else was faster: it is said, and one chooses again', async () => {
  show(<FirmScreen />, {
    ...OTHERS,
    'PUT /api/firm': { error: { code: 'STALE_VERSION', message: 'The firm has changed.', retryable: false } },
  })
  await screen.findByText('Save the methods')
  choose('Seals', 'New every time')
  fireEvent.click(screen.getByRole('button', { name: 'Save the methods' }))
  expect((await screen.findByRole('status')).textContent).toMatch(/^Somebody changed the firm meanwhile/)
})

test('units are saved by themselves; a gallon says which', async () => {
  const { asked } = show(<FirmScreen />, { ...OTHERS, 'PUT /api/firm': { ok: true } })
  await screen.findByText('Save the units')
  expect(off('Save the units')).toBe(true)
  choose('Pressure', 'psi')
  choose('A gallon is', 'imperial, 4.546 L')
  fireEvent.click(screen.getByRole('button', { name: 'Save the units' }))
  await waitFor(() => expect(saved(asked)).toBeDefined())
  expect(saved(asked)).toMatchObject({ gallon: 'imperial', units: { ...ME.firm.units, pressure: 'psi' }, schools: ME.firm.schools })
})

test('what the server refuses of the units stands under them', async () => {
  show(<FirmScreen />, { ...OTHERS, 'PUT /api/firm': { error: { code: 'FORBIDDEN', message: 'Only the owner may.', retryable: false } } })
  await screen.findByText('Save the units')
  choose('Volume', 'gallons')
  fireEvent.click(screen.getByRole('button', { name: 'Save the units' }))
  expect((await screen.findByRole('alert')).textContent).toBe('Only the owner may.')
})

test('a technician reads what the owner chose, and changes nothing', async () => {
  show(<FirmScreen />, {}, { ...ME, rights: ['record-visits'] })
  expect(await screen.findByText('The owner chooses these.')).toBeTruthy()
  choose('Seals', 'New every time')
  choose('Pressure', 'psi')
  const chosen = (question: string): string | null | undefined =>
    within(screen.getByRole('radiogroup', { name: question }))
      .getAllByRole('radio')
      .find((one) => one.getAttribute('aria-checked') === 'true')?.textContent
  expect([chosen('Seals'), chosen('Pressure')]).toEqual(['Inspect and reuse', 'kPa'])
  expect(screen.queryByText('People')).toBeNull()
})
