import { createHmac } from 'node:crypto'
import { Technician } from './driver/technician'
import { expect, opened, type Page, test } from './world'

// Who signs in is changed here: nobody else's tests should be asked for codes.
test.use({ ownWorld: 'second' })

const PASSWORD = 'skellan-sound'

/** A code as an authenticator app makes it (RFC 6238), at the page's own time. */
async function codeOf(page: Page, secret: string): Promise<string> {
  const bits = [...secret].map((letter) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(letter).toString(2).padStart(5, '0')).join('')
  const key = Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)))
  const counter = Buffer.alloc(8)
  counter.writeBigUInt64BE(BigInt(Math.floor((await page.evaluate(() => Date.now())) / 30_000)))
  const mac = createHmac('sha1', key).update(counter).digest()
  return String((mac.readUInt32BE((mac.at(-1) ?? 0) & 15) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}

test('an owner sets up an authenticator app, signs in with its code and with a recovery code, and asks it of every owner', async ({
  page,
  world,
}) => {
  const isla = await opened(page, world, 'phone')
  await isla.signIn('isla@fennick.example')
  await isla.go('/me')
  await page.getByRole('button', { name: 'Set up an authenticator app' }).click()
  await page.getByLabel('Your password').fill('not the one')
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByText('not the current password')).toBeVisible()
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Go on' }).click()
  await expect(page.getByRole('img', { name: /picture to scan/ })).toBeVisible()
  const address = await page.getByRole('link', { name: 'Open it in the app on this phone' }).getAttribute('href')
  const secret = new URL(address ?? '').searchParams.get('secret') ?? ''
  const codes = await page.getByRole('list', { name: 'Recovery codes' }).getByRole('listitem').allInnerTexts()
  expect(codes).toHaveLength(10)
  await page.getByLabel('Code, six digits').fill('000000')
  await page.getByRole('button', { name: 'Turn it on' }).click()
  await expect(page.getByText('This code does not fit. It changes every half minute.')).toBeVisible()
  await page.getByLabel('Code, six digits').fill(await codeOf(page, secret))
  await page.getByRole('button', { name: 'Turn it on' }).click()
  await expect(page.getByText('10 recovery codes are left.', { exact: false })).toBeVisible()

  const signOut = async (): Promise<void> => {
    await page.getByRole('button', { name: 'Sign out', exact: true }).click()
    await page.getByLabel('E-mail').fill('isla@fennick.example')
    await page.getByLabel('Password').fill(PASSWORD)
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  }
  await signOut()
  await page.getByLabel('Code, six digits').fill(await codeOf(page, secret))
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible()
  await isla.go('/me')
  await signOut()
  await page.getByRole('button', { name: 'Use a recovery code' }).click()
  await page.getByLabel('Recovery code', { exact: true }).fill(codes[0] ?? '')
  await page.getByLabel('Recovery code', { exact: true }).press('Enter')
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible()
  await isla.go('/firm')
  await page.getByRole('checkbox', { name: 'Owners need a second factor' }).click()
  await expect.poll(() => world.query('select second_factor from firm')).toEqual([{ second_factor: 'owners' }])
  await isla.go('/me')
  await expect(page.getByText('9 recovery codes are left.', { exact: false })).toBeVisible()
})

test('a passkey of this device signs in without a password', async ({ page, world }) => {
  // Browsers make passkeys for names of hosts, never for bare numbers.
  const tam = new Technician(page, world.url.replace('127.0.0.1', 'localhost'))
  const cdp = await page.context().newCDPSession(page)
  await cdp.send('WebAuthn.enable')
  await cdp.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
  await tam.signIn()
  await tam.go('/me')
  await page.getByRole('button', { name: 'Add a passkey' }).click()
  await page.getByLabel('What to call it').fill('Tam’s phone')
  await page.getByLabel('Your password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByText('Tam’s phone')).toBeVisible()
  await page.getByRole('button', { name: 'Sign out', exact: true }).click()
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click()
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible()
  expect(await world.query('select name from auth_passkey')).toEqual([{ name: 'Tam’s phone' }])
  await tam.go('/me')
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(page.getByText('Tam’s phone')).toBeHidden()
})
