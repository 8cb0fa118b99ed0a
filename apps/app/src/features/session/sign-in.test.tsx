import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { show } from '../../testing/screen'
import { SignIn } from './sign-in'

afterEach(cleanup)

const NOBODY = { '/api/sign-in-hints': { people: [] } }
const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } })
const press = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Sign in' }))

test('each field says what it wants, and nothing is sent before', () => {
  const { acts } = show(<SignIn />, NOBODY)
  press()
  expect(screen.getByText('Type an e-mail, such as name@firm.example')).toBeTruthy()
  expect(screen.getByText('Type your password')).toBeTruthy()
  type('E-mail', 'tam')
  type('Password', 'x')
  expect(screen.queryByText('Type your password')).toBeNull()
  expect(screen.getByText('Type an e-mail, such as name@firm.example')).toBeTruthy()
  expect(acts()).toEqual([])
})

test('a refusal is said in the server’s words, and the fields stay as they were', async () => {
  show(<SignIn />, {
    ...NOBODY,
    'POST /api/auth/sign-in': { error: { code: 'NOT_SIGNED_IN', message: 'Incorrect e-mail or password.', retryable: false } },
  })
  type('E-mail', 'tam@fennick.example')
  type('Password', 'wrong')
  press()
  expect((await screen.findByRole('alert')).textContent).toBe('Incorrect e-mail or password.')
  expect(screen.getByLabelText('E-mail').getAttribute('value')).toBe('tam@fennick.example')
})

test('only a demo says who may sign in', async () => {
  const people = [{ name: 'Tam Orrin', role: 'technician', email: 'tam@fennick.example', password: 'skellan-sound' }]
  const { asked } = show(<SignIn />, {
    '/api/sign-in-hints': { people },
    'POST /api/auth/sign-in': { error: { code: 'SLOW_DOWN', message: 'Too many tries.', retryable: true } },
  })
  fireEvent.click(await screen.findByRole('button', { name: 'Sign in as Tam Orrin' }))
  await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true))
  expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({ email: 'tam@fennick.example', password: 'skellan-sound' })
})
