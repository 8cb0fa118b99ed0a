import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { show } from '../../testing/screen'
import { PasswordForm } from './password-form'
import { SignIns } from './sign-ins'

afterEach(cleanup)

const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } })
const press = (name: string): void => void fireEvent.click(screen.getByRole('button', { name }))
const change = (): HTMLElement => screen.getByRole('button', { name: 'Change it' })

describe('one’s own password', () => {
  test('is changed once the present one is typed and the new one is long enough', async () => {
    const { asked } = show(<PasswordForm />, { 'POST /api/me/password': { ok: true } })
    press('Change password')
    type('New password', 'too short')
    fireEvent.click(change())
    expect((await screen.findAllByRole('alert')).map(({ textContent }) => textContent)).toEqual([
      'Type your password',
      'At least 10 characters; a few words are easier to remember than signs',
    ])
    expect(asked.some(({ method }) => method === 'POST')).toBe(false)
    type('New password', 'a long new password')
    type('Current password', 'the old password')
    fireEvent.click(change())
    expect((await screen.findByRole('status')).textContent).toBe('The password is changed; other devices have to sign in again.')
    expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({
      currentPassword: 'the old password',
      newPassword: 'a long new password',
    })
    // Nothing of it stands in the form when it is opened again.
    press('Change password')
    expect(screen.getByLabelText('Current password').getAttribute('value')).toBe('')
  })

  test('a wrong present one is said at its field', async () => {
    const fields = [{ path: 'currentPassword', message: 'This is not your current password.' }]
    show(<PasswordForm />, { 'POST /api/me/password': { error: { code: 'VALIDATION', message: 'Not right.', retryable: false, fields } } })
    press('Change password')
    type('Current password', 'not it')
    type('New password', 'a long new password')
    fireEvent.click(change())
    expect((await screen.findByRole('alert')).textContent).toBe('This is not your current password.')
    expect(screen.queryByText('Not right.')).toBeNull()
  })

  test('without a network nothing is changed, and it says so', async () => {
    show(<PasswordForm />, {})
    press('Change password')
    type('Current password', 'the old password')
    type('New password', 'a long new password')
    fireEvent.click(change())
    expect((await screen.findByRole('alert')).textContent).toBe(
      'No connection to the server. Nothing was changed: try again when there is one.',
    )
    press('Cancel')
    expect(screen.getByRole('button', { name: 'Change password' })).toBeTruthy()
  })
})

describe('where somebody is signed in', () => {
  const one = (id: string, device: string, current: boolean) => ({
    id,
    device,
    since: '2026-11-02T09:00:00.000Z',
    lastSeen: '2026-11-25T00:30:00.000Z',
    current,
  })
  const TWO = { signIns: [one('a', 'Phone', true), one('b', 'Old tablet', false)] }
  const path = '/api/people/isla/sign-ins'

  test('the devices stand with when they were last seen, in the firm’s zone; the one in the hand is not signed out here', async () => {
    show(<SignIns personId="isla" />, { [path]: TWO })
    expect(await screen.findByText('Phone (this one)')).toBeTruthy()
    // Half past midnight in UTC is the evening before on the islands.
    await waitFor(() => expect(screen.getAllByText(/last seen .*24 Nov.*23:30/)).toHaveLength(2))
    expect(screen.getAllByRole('button', { name: 'Sign it out' })).toHaveLength(1)
  })

  test('a lost device is signed out', async () => {
    const { acts } = show(<SignIns personId="isla" />, { [path]: TWO, [`DELETE ${path}/b`]: { ok: true } })
    fireEvent.click(await screen.findByRole('button', { name: 'Sign it out' }))
    await waitFor(() => expect(acts()).toEqual([`DELETE ${path}/b`]))
  })

  test('what cannot be ended is said', async () => {
    const message = 'This sign-in is over already.'
    show(<SignIns personId="isla" />, { [path]: TWO, [`DELETE ${path}/b`]: { error: { code: 'NOT_FOUND', message, retryable: false } } })
    fireEvent.click(await screen.findByRole('button', { name: 'Sign it out' }))
    expect((await screen.findByRole('alert')).textContent).toBe(message)
  })

  test('nobody signed in anywhere is said too', async () => {
    show(<SignIns personId="isla" />, { [path]: { signIns: [] } })
    expect(await screen.findByText('No device.')).toBeTruthy()
  })
})
