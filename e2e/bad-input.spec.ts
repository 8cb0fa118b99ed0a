import { expect, test } from './world'

test('sign-in: each field says what it wants, a wrong password says no more than that', async ({ phone }) => {
  const { page } = phone
  await phone.go('/today')
  await expect(page).toHaveURL(/sign-in/)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByText('Type an e-mail, such as name@firm.example')).toBeVisible()
  await expect(page.getByText('Type your password')).toBeVisible()
  await page.getByLabel('E-mail').fill('tam@fennick.example')
  await page.getByLabel('Password').fill('not the password')
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByRole('alert')).toHaveText('Incorrect e-mail or password.')
})

test('readings: what cannot be read is said at its field, and nothing is stored', async ({ phone, world }) => {
  const { page } = phone
  await phone.signIn()
  await phone.openStop('Net loft cottage')
  await page.getByRole('button', { name: 'Start: measure first' }).click()
  await page.getByTestId('measured').click()
  await expect(page.getByRole('alert')).toContainText('Enter both readings')
  for (const [typed, words] of [
    ['abc', 'Not a number'],
    ['-3', 'no less than 0'],
    ['12 psi', 'Type the number only'],
    ['500k', 'More than any meter shows'],
  ] as const) {
    await phone.typeReadings({ untreated: typed, treated: '200' })
    await expect(page.getByText(words)).toBeVisible()
  }
  await phone.typeReadings({ untreated: '210', treated: '208', temperature: '140' })
  await expect(page.getByText('Water is between −2 and 100 °C')).toBeVisible()
  await page.getByTestId('measured').click()
  await expect(page).toHaveURL(/measure/)
  expect(
    await world.query(
      `select 1 from fact_visit_begun b join site on site.id = b.site_id where b.stop_id is not null and site.name = 'Net loft cottage'`,
    ),
  ).toEqual([])
})

test('a site’s form: problems at their fields; somebody else’s edit is shown, not overwritten', async ({ desk, world }) => {
  const { page } = desk
  await desk.go('/sign-in')
  await page.getByRole('button', { name: 'Sign in as Isla Fennick' }).click()
  await expect(page.getByRole('navigation')).toBeVisible()
  await page.keyboard.press('3')
  await page.getByLabel('Search sites by name or place').fill('rope')
  await page.getByRole('link', { name: /Rope walk café/ }).click()
  await page.getByRole('button', { name: 'Edit' }).click()
  await page.getByLabel('Name', { exact: true }).fill('  ')
  await page.getByLabel('People').fill('some')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Name is required')).toBeVisible()
  await page.getByLabel('Name', { exact: true }).fill('Rope walk café')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('A whole number of people, at least 1')).toBeVisible()
  await page.getByLabel('People').fill('5')
  await page.getByLabel('Free chlorine of the supply').fill('50')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Between 0 and 20 mg/L')).toBeVisible()
  await page.getByLabel('Free chlorine of the supply').fill('0.6')
  await world.query(`update site set access = 'Changed at the office', version = version + 1 where name = 'Rope walk café'`)
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Somebody changed this site meanwhile')).toBeVisible()
  await expect(page.getByText(/Changed at the office/)).toBeVisible()
  const row = async () =>
    (await world.query<{ people: number; access: string }>(`select people, access from site where name = 'Rope walk café'`))[0]
  expect(await row()).toEqual({ people: 4, access: 'Changed at the office' })
  await page.getByRole('button', { name: 'Keep mine and save again' }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('button', { name: 'Edit' })).toBeVisible()
  expect((await row())?.people).toBe(5)
})

test('addresses that lead nowhere say so and lead back', async ({ phone }) => {
  const { page } = phone
  await phone.signedIn()
  await phone.load('/stop/00000000-0000-7000-8000-000000000000')
  await expect(page.getByRole('alert')).toContainText('There is no such stop here.')
  await expect(page.getByRole('link', { name: 'Today' })).toBeVisible()
  await phone.load('/sites/nothing')
  await expect(page.getByRole('alert')).toBeVisible()
  await phone.load('/nowhere-at-all')
  await expect(page.getByText('There is no such page')).toBeVisible()
})
