import { expect, opened, test } from './world'

// A stop is begun here that others look into.
test.use({ ownWorld: 'language' })

test('a device speaks German from the door to the run sheet, and English again', async ({ browser, world }) => {
  const context = await browser.newContext({ locale: 'de-DE' })
  const tam = await opened(await context.newPage(), world, 'phone')
  const { page } = tam
  await tam.load('/sign-in')
  // Before anybody signs in the device says which language it is in.
  await expect(page.getByRole('button', { name: 'Anmelden', exact: true })).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.lang)).toBe('de')
  await page.getByLabel('E-Mail').fill('tam@fennick.example')
  await page.getByLabel('Kennwort').fill('falsch')
  await page.getByRole('button', { name: 'Anmelden', exact: true }).click()
  // The server answers in it as well.
  await expect(page.getByText('E-Mail oder Kennwort stimmt nicht.')).toBeVisible()
  await page.getByLabel('Kennwort').fill('skellan-sound')
  await page.getByRole('button', { name: 'Anmelden', exact: true }).click()
  await expect(page.getByText('Heute', { exact: true }).first()).toBeVisible()

  const [stop] = await world.query<{ id: string }>(
    `select stop.id from stop join site on site.id = stop.site_id where site.name = 'Primary school'`,
  )
  await tam.load(`/stop/${stop?.id}`)
  await page.getByRole('button', { name: 'Beginnen: zuerst messen' }).click()
  await page.getByLabel('Unbehandelt', { exact: true }).fill('412,5')
  await page.getByLabel('Behandelt', { exact: true }).fill('398')
  await page.getByRole('button', { name: 'Zum Arbeitsblatt' }).click()
  await expect(page.getByTestId('rung')).toContainText(/Schritt|Block/)

  await tam.load('/me')
  await page.getByRole('radio', { name: 'English' }).click()
  await expect(page.getByRole('heading', { name: 'Tam Orrin' })).toBeVisible()
  await expect(page.getByText('Language of this device')).toBeVisible()
  await tam.load('/today')
  await expect(page.getByText('Today', { exact: true }).first()).toBeVisible()
  await context.close()
})

test('the English stands beside a German caution until an owner has signed them off', async ({ browser, world }) => {
  const context = await browser.newContext({ locale: 'de-DE' })
  const isla = await opened(await context.newPage(), world, 'desk')
  const { page } = isla
  await isla.load('/sign-in')
  await page.getByLabel('E-Mail').fill('isla@fennick.example')
  await page.getByLabel('Kennwort').fill('skellan-sound')
  await page.getByRole('button', { name: 'Anmelden', exact: true }).click()
  await expect(page.getByText(/^Zu tun: \d+$/)).toBeVisible()
  const [held] = await world.query<{ id: string }>(
    `select d.id from disinfection d join site on site.id = d.site_id where site.name = 'Stack Farm'`,
  )
  const hold = page.getByText(/Wasser nicht benutzen/).first()
  await isla.load(`/disinfect/${held?.id}`)
  await expect(hold).toContainText('[EN: do not use the water]')

  await isla.load('/firm')
  await page.getByRole('button', { name: /^Alle \d+ lesen$/ }).click()
  await expect(
    page.getByText('Never enter a well, a pit or a tank: the air in it can kill. Never alone at an open shaft or hatch.'),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Diese Warnhinweise freigeben' }).click()
  await expect(page.getByText('Geben Sie an, wer sie gelesen hat')).toBeVisible()
  await page.getByLabel('Wer sie alle gelesen hat').fill('Ann Example, Installateurmeisterin')
  await page.getByRole('button', { name: 'Diese Warnhinweise freigeben' }).click()
  await expect(page.getByText(/Freigegeben: gelesen von Ann Example/)).toBeVisible()

  await isla.load(`/disinfect/${held?.id}`)
  await expect(hold).toBeVisible()
  await expect(hold).not.toContainText('EN:')
  await isla.load('/firm')
  await page.getByRole('button', { name: 'Das Englische wieder zeigen' }).click()
  await expect(page.getByText('Nicht freigegeben: Neben jedem Warnhinweis steht das Englische.')).toBeVisible()
  await context.close()
})
