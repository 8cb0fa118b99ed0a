import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { show } from '../../testing/screen'
import { SetUp } from './set-up'

afterEach(cleanup)

const OPEN = { '/api/setup': { open: true } }
const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } })
const press = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Set up the firm' }))

async function filled(): Promise<void> {
  await screen.findByLabelText('Code')
  type('Code', 'KELP-4TID-EWAY')
  type('Your name', 'Isla Fennick')
  type('E-mail', 'isla@fennick.example')
  type('Password', 'kelp and tideway')
  type('Name of the firm', 'Fennick Water')
  type('Time zone', 'Atlantic/Azores')
  type('Currency', 'EUR')
}

test('each field says what it wants, and nothing is sent before', async () => {
  const { acts } = show(<SetUp />, OPEN)
  await screen.findByLabelText('Code')
  type('Where it is', 'by the harbour')
  press()
  for (const said of [
    'Type the code that the start printed',
    'At least 10 characters',
    'Choose a currency',
    /^Type latitude and longitude/,
  ])
    expect(await screen.findByText(said)).toBeTruthy()
  expect(acts()).toEqual([])
})

test('what was typed is sent as the firm, its owner, where and when work begins', async () => {
  const { asked } = show(<SetUp />, { ...OPEN, 'POST /api/setup': { ok: true } })
  await filled()
  type('Where it is', '58°18′36″N 21°37′12″W')
  fireEvent.click(screen.getByRole('radio', { name: 'US gallons, psi, °F' }))
  fireEvent.click(screen.getByRole('checkbox', { name: 'Sat' }))
  type('From', '7.30')
  press()
  await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true))
  const body = asked.find(({ method }) => method === 'POST')?.body as Record<string, Record<string, unknown>>
  expect(body).toMatchObject({
    code: 'KELP-4TID-EWAY',
    firm: {
      name: 'Fennick Water',
      timeZone: 'Atlantic/Azores',
      currency: 'EUR',
      gallon: 'us',
      units: { volume: 'gal', pressure: 'psi', temperature: 'F' },
    },
    owner: { name: 'Isla Fennick', email: 'isla@fennick.example', password: 'kelp and tideway' },
    week: { weekdays: [1, 2, 3, 4, 5, 6], fromMin: 450, toMin: 990 },
  })
  expect(body.base?.lat).toBeCloseTo(58.31, 6)
  expect(body.base?.lon).toBeCloseTo(-21.62, 6)
})

test('a base may be left for later; a refusal of the server stands at its field', async () => {
  const { asked } = show(<SetUp />, {
    ...OPEN,
    'POST /api/setup': {
      error: {
        code: 'NO_RIGHT',
        message: 'This is not the code that the start printed.',
        retryable: false,
        fields: [{ path: 'code', message: 'not the code of this server' }],
      },
    },
  })
  await filled()
  press()
  expect(await screen.findByText('not the code of this server')).toBeTruthy()
  expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({ base: null })
})
