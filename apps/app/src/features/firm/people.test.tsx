import type { PersonDto } from '@evenround/contract/firm'
import { cleanup, fireEvent, screen } from '@testing-library/react'
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

const LINK = {
  kind: 'invitation',
  personId: 'new',
  token: 'a-token-that-is-good-once',
  expiresAt: '2026-12-09T10:00:00.000Z',
  mailedTo: null,
}

test('a new person is invited: the link stands there to be handed on, and by mail where it went out', async () => {
  const done = jest.fn()
  const { asked } = show(<NewPerson onDone={done} />, { 'POST /api/people/invitations': LINK })
  const type = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } })
  type('Name', 'New Person')
  type('E-mail', 'new@fennick.example')
  fireEvent.click(screen.getByRole('button', { name: 'Invite' }))
  expect(await screen.findByText(/\/welcome\?link=a-token-that-is-good-once$/)).toBeTruthy()
  expect(screen.getByText('Hand this link on; it is shown only now.')).toBeTruthy()
  fireEvent.click(screen.getByRole('button', { name: 'Done' }))
  expect(done).toHaveBeenCalled()
  expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
    name: 'New Person',
    email: 'new@fennick.example',
    role: 'technician',
  })
})

test('a link for a new password says to whom it was sent', async () => {
  show(<PersonCard person={WREN} onChanged={() => undefined} />, {
    ...SIGN_INS,
    'POST /api/people/wren/links': { ...LINK, kind: 'reset', mailedTo: 'wren@fennick.example' },
  })
  open()
  fireEvent.click(screen.getByRole('button', { name: 'Make a link for a new password' }))
  expect(await screen.findByText('Sent to wren@fennick.example.')).toBeTruthy()
})
