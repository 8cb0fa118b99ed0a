import type { PersonDto } from '@evenround/contract/firm'
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { show } from '../../testing/screen'
import { NewPerson, PersonCard } from './people'

afterEach(cleanup)

const WREN: PersonDto = {
  id: 'wren',
  name: 'Wren Adeyo',
  email: 'wren@fennick.example',
  role: 'technician',
  skills: ['wells'],
  van: 'Van 2',
  active: true,
  version: 4,
}
const open = (): void => void fireEvent.click(screen.getByRole('button', { name: /Change/ }))
const SIGN_INS = { '/api/people/wren/sign-ins': { signIns: [] } }

test('a person’s licence is taken and kept with the version that was seen', async () => {
  const changed = jest.fn()
  const { asked } = show(<PersonCard person={WREN} onChanged={changed} />, { ...SIGN_INS, 'PUT /api/people/wren': WREN })
  expect(screen.getByText('technician · wren@fennick.example')).toBeTruthy()
  open()
  fireEvent.click(screen.getByRole('checkbox', { name: /Licensed for wells/ }))
  fireEvent.click(screen.getByRole('button', { name: 'Save' }))
  await screen.findByText('Saved.')
  expect(changed).toHaveBeenCalled()
  expect(asked.find(({ method }) => method === 'PUT')?.body).toMatchObject({ version: 4, skills: [], van: 'Van 2', active: true })
})

test('a password is reset once it is long enough, and it is said what that ends', async () => {
  const { acts } = show(<PersonCard person={WREN} onChanged={() => undefined} />, {
    ...SIGN_INS,
    'POST /api/people/wren/password': { ok: true },
  })
  open()
  const reset = screen.getByRole('button', { name: 'Reset the password' })
  fireEvent.change(screen.getByLabelText('New password for them'), { target: { value: 'short' } })
  expect(reset.getAttribute('aria-disabled')).toBe('true')
  fireEvent.change(screen.getByLabelText('New password for them'), { target: { value: 'a long new password' } })
  fireEvent.click(reset)
  await screen.findByText(/every device of this person has to sign in again/)
  expect(acts()).toEqual(['POST /api/people/wren/password'])
})

test('what the server refuses stands at the person it is about', async () => {
  show(<PersonCard person={{ ...WREN, active: false }} onChanged={() => undefined} />, {
    ...SIGN_INS,
    'PUT /api/people/wren': { error: { code: 'CONFLICT', message: 'The last owner stays one.', retryable: false } },
  })
  expect(screen.getByText('technician, switched off · wren@fennick.example')).toBeTruthy()
  open()
  fireEvent.click(screen.getByRole('button', { name: 'Save' }))
  expect((await screen.findByRole('alert')).textContent).toBe('The last owner stays one.')
})

test('a new person is asked for by name, e-mail and a first password', async () => {
  const done = jest.fn()
  const { asked } = show(<NewPerson onDone={done} />, { 'POST /api/people': WREN })
  const type = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
  type('Name', 'New Person')
  type('E-mail', 'new@fennick.example')
  type('First password', 'a first password')
  fireEvent.click(screen.getByRole('button', { name: 'Add' }))
  await waitFor(() => expect(done).toHaveBeenCalled())
  expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
    name: 'New Person',
    email: 'new@fennick.example',
    role: 'technician',
  })
})
