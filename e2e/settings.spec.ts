import { expect, opened, test } from './world'

const NEW_PASSWORD = 'a fresh long password'

test('the owner adds a person, resets a password, ends a lost device’s sign-in and switches somebody off', async ({
  browser,
  desk,
  world,
}) => {
  const { page } = desk
  await desk.signIn('isla@fennick.example')
  await page.getByRole('link', { name: /own settings and the firm/ }).click()
  await page.getByRole('button', { name: 'The firm: methods and people' }).click()
  await page.getByRole('button', { name: 'Invite a person' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Jory Carrow')
  await page.getByLabel('E-mail').fill('tam@fennick.example')
  await page.getByRole('button', { name: 'Invite', exact: true }).click()
  await expect(page.getByText('already in use')).toBeVisible()
  await page.getByLabel('E-mail').fill('jory@fennick.example')
  await page.getByRole('button', { name: 'Invite', exact: true }).click()
  const link = await page.getByText(/\/welcome\?link=/).innerText()
  await page.getByRole('button', { name: 'Done', exact: true }).click()
  await expect(page.getByText('technician · jory@fennick.example')).toBeVisible()

  const context = await browser.newContext({ locale: 'en-GB' })
  const jory = await opened(await context.newPage(), world, 'phone')
  await jory.page.goto(link)
  await expect(jory.page.getByRole('heading', { name: 'Welcome, Jory Carrow' })).toBeVisible()
  await jory.page.getByLabel('Password').fill('short')
  await jory.page.getByRole('button', { name: 'Save and sign in' }).click()
  await expect(jory.page.getByText('At least 10 characters', { exact: true })).toBeVisible()
  await jory.page.getByLabel('Password').fill(NEW_PASSWORD)
  await jory.page.getByRole('button', { name: 'Save and sign in' }).click()
  await expect(jory.page.getByText('No stops today')).toBeVisible()

  await page.getByRole('button', { name: 'Change', exact: true }).nth(1).click()
  await expect(page.getByText(/Chromium on Linux/)).toBeVisible()
  await page.getByRole('button', { name: 'Sign it out' }).click()
  await expect(page.getByText('No device.')).toBeVisible()
  await jory.go('/today')
  await expect(jory.page).toHaveURL(/sign-in/)

  await page.getByLabel('New password for them').fill('another long password')
  await page.getByRole('button', { name: 'Reset the password' }).click()
  await expect(page.getByText('The password is reset')).toBeVisible()
  await jory.signIn('jory@fennick.example', 'another long password')
  await page.getByRole('checkbox', { name: /May sign in/ }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('technician, switched off · jory@fennick.example')).toBeVisible()
  await jory.go('/today')
  await expect(jory.page).toHaveURL(/sign-in/)
  expect(await world.query(`select active, role from person where name = 'Jory Carrow'`)).toEqual([{ active: false, role: 'technician' }])
  await context.close()
})

test('a method of the firm changes the run sheet that is generated next', async ({ desk, world }) => {
  const { page } = desk
  const [stop] = await world.query<{ id: string }>(
    `select stop.id from stop join site on site.id = stop.site_id where site.name = 'Primary school'`,
  )
  const texts = async (): Promise<string> => {
    await desk.go(`/stop/${stop?.id}/sheet`)
    await expect(desk.act).toBeVisible()
    await desk.beginAt(/^(Feel the seal|Lay in a new seal)/)
    return desk.present()
  }
  await desk.signedIn('isla@fennick.example')
  await desk.go(`/stop/${stop?.id}/measure`)
  await desk.measure({ untreated: '205', treated: '204' })
  expect(await texts()).toContain('Feel the seal for nicks')
  await desk.go('/firm')
  await page.getByRole('radio', { name: 'New every time' }).click()
  await page.getByRole('button', { name: 'Save the methods' }).click()
  await expect(page.getByText('Saved. Every screen that depends on it follows.')).toBeVisible()
  expect(await texts()).toBe('Lay in a new seal')
})

test('the firm’s units stand on its screens, and its own figure for a medium is used from then on', async ({ desk, world }) => {
  const { page } = desk
  await desk.signedIn('isla@fennick.example')
  try {
    await desk.go('/firm')
    await page.getByRole('radio', { name: 'gallons' }).click()
    await page.getByRole('radio', { name: 'psi' }).click()
    await page.getByRole('button', { name: 'Save the units' }).click()
    await expect(page.getByRole('button', { name: 'Save the units' })).toBeDisabled()
    await desk.go('/shelf?show=media')
    // 70 kPa over 6.894757 kPa a psi; 2,200 L over 3.785411784 L a gallon.
    await expect(page.getByText(/pressure drop over clean 10\.2 psi/).first()).toBeVisible()
    await expect(page.getByText(/12 months, 581 gal · our default/)).toBeVisible()
    await page.getByRole('button', { name: 'Edit sediment', exact: true }).click()
    const drop = page.getByLabel('Replace at: pressure drop over clean')
    await expect(drop).toHaveValue('10.153')
    await drop.fill('900')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByText(/^Between 0\.7 psi and/)).toBeVisible()
    await drop.fill('60 kPa')
    await page.getByRole('button', { name: 'Save', exact: true }).click()
    await expect(page.getByText(/6 months · the firm’s own figure/)).toBeVisible()
    expect(await world.query(`select limits from medium_profile where media = 'sediment'`)).toEqual([{ limits: { overCleanKpa: 60 } }])
  } finally {
    // The files share a world: what others type is metric.
    await world.query(`update firm set units = '{"volume": "L", "pressure": "kPa", "temperature": "C"}'`)
    await world.query('delete from medium_profile')
  }
})

test('the light, the password and the keys', async ({ desk }) => {
  const { page } = desk
  await desk.signIn('wren@fennick.example')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  for (const [key, path] of [
    ['2', 'round'],
    ['3', 'sites'],
    ['4', 'shelf'],
    ['5', 'book'],
    ['1', 'today'],
  ] as const) {
    await page.keyboard.press(key)
    await expect(page).toHaveURL(new RegExp(`/${path}`))
  }
  await page.getByRole('link', { name: /own settings/ }).click()
  await page.getByRole('radio', { name: 'Cellar' }).click()
  await expect(page.locator('html')).toHaveClass(/dark/)
  await page.reload()
  await expect(page.locator('html')).toHaveClass(/dark/)
  await expect(page.getByRole('button', { name: 'The firm: methods and people' })).toBeHidden()
  await page.getByRole('button', { name: 'Change password' }).click()
  await page.getByLabel('Current password').fill('not this one')
  await page.getByLabel('New password').fill(NEW_PASSWORD)
  await page.getByRole('button', { name: 'Change it' }).click()
  await expect(page.getByText('not the current password')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel' }).click()
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page).toHaveURL(/sign-in/)
  await desk.go('/today')
  await expect(page).toHaveURL(/sign-in/)
})
