import { expect, opened, SETUP_CODE, test } from './world'

// A firm that leaves, and a customer who is erased: nobody else's tests should miss them.
test.use({ ownWorld: 'leaving' })

test('a customer leaves and comes back; another is erased by name, and the record says so', async ({ page, world }) => {
  const isla = await opened(page, world, 'phone')
  await isla.signIn('isla@fennick.example')
  await isla.openSite('Weaving mill')
  await page.getByRole('button', { name: 'Customer has left …' }).click()
  await page.getByRole('button', { name: 'Yes, they have left' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Customers who left' })).toBeVisible()
  await expect(page.getByText('Weaving mill')).toBeVisible()
  await page.getByRole('button', { name: 'Bring back' }).click()
  await expect(page.getByText('Nobody has left')).toBeVisible()
  await isla.openSite('Weaving mill')

  await isla.openSite('Kelp press')
  const download = page.waitForEvent('download')
  await page.getByText('Download their data').click()
  expect((await download).suggestedFilename()).toBe('customer.zip')
  await page.getByRole('button', { name: 'Erase the customer …' }).click()
  const name = page.getByLabel('Type the name of the site: Kelp press')
  await name.fill('Kelp')
  await page.getByRole('button', { name: 'Erase for good' }).click()
  await expect(page.getByText('not the name of the site', { exact: true })).toBeVisible()
  await name.fill('Kelp press')
  await page.getByRole('button', { name: 'Erase for good' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Sites' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Search sites by name or place' }).fill('Kelp')
  await expect(page.getByText('Nothing by that name')).toBeVisible()
  expect(await world.query(`select 1 from site where name = 'Kelp press'`)).toEqual([])
  expect(
    (await world.query(`select 1 from fact_part_fitted f join site s on s.id = f.site_id where s.gone_why = 'erased'`)).length,
  ).toBeGreaterThan(0)
  await isla.go('/firm-data')
  await expect(page.getByText('Customer erased', { exact: true })).toBeVisible()
  await expect(page.getByText('Customer’s data exported', { exact: true })).toBeVisible()
})

test('a system is moved to where it hangs now, two sites that are one are merged; an edit without a network is merged in later', async ({
  page,
  world,
}) => {
  const isla = await opened(page, world, 'phone')
  await isla.signIn('isla@fennick.example')
  await isla.openSite('Chandlery flat')
  await page.getByRole('button', { name: 'Move to another site …' }).first().click()
  await page.getByLabel('Which site: name or place').fill('tern')
  await page.getByRole('button', { name: /Tern House/ }).click()
  await page.getByRole('button', { name: 'Move it there' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Tern House' })).toBeVisible()
  expect(
    await world.query(
      `select f.name as from, t.name as to from site_move m join site f on f.id = m.from_site join site t on t.id = m.to_site`,
    ),
  ).toEqual([{ from: 'Chandlery flat', to: 'Tern House' }])
  await page.getByRole('button', { name: 'Merge with another site …' }).click()
  await page.getByLabel('Which site: name or place').fill('chandlery')
  await page.getByRole('button', { name: /Chandlery flat/ }).click()
  await page.getByRole('button', { name: 'Merge the two' }).click()
  await expect.poll(() => world.query(`select gone_why from site where name = 'Chandlery flat'`)).toEqual([{ gone_why: 'merged' }])
  await page.getByRole('link', { name: 'What happened here' }).click()
  await expect(page.getByText('Chandlery flat was merged into this site: it is the same place (Isla Fennick)')).toBeVisible()

  await isla.openSite('Tern House')
  await page.getByRole('button', { name: 'Edit' }).click()
  await page.getByLabel('Street and number').fill('2 Tern Row')
  await page.route('**/api/**', (route) => (route.request().method() === 'GET' ? route.continue() : route.abort()))
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText(/1 not sent yet/)).toBeVisible()
  await expect(page.getByText(/2 Tern Row/)).toBeVisible()
  await world.query(`update site set access = 'Key at the slip', version = version + 1 where name = 'Tern House'`)
  await page.unroute('**/api/**')
  await page.evaluate(() => window.dispatchEvent(new Event('online')))
  await expect
    .poll(() => world.query(`select street, access from site where name = 'Tern House'`))
    .toEqual([{ street: '2 Tern Row', access: 'Key at the slip' }])
})

test('who was told of a hold is recorded from the office’s day; the book is filtered, a site’s past stands on one line', async ({
  page,
  world,
}) => {
  const isla = await opened(page, world, 'phone')
  await isla.signIn('isla@fennick.example')
  const card = page.getByRole('heading', { level: 3, name: 'Weaving mill: coliforms found' }).locator('xpath=..')
  await expect(card.getByRole('link', { name: /^Call / })).toHaveAttribute('href', /^tel:/)
  await card.getByRole('button', { name: 'Record who was told' }).click()
  await card.getByRole('button', { name: 'Save' }).click()
  await expect(card.getByText('Choose how')).toBeVisible()
  await card.getByRole('radio', { name: 'by telephone' }).click()
  await card.getByRole('button', { name: 'Save' }).click()
  await expect(card.getByText(/ was told by telephone, .* by Isla Fennick\./)).toBeVisible()
  await expect.poll(() => world.query(`select how from fact_hold_told`)).toEqual([{ how: 'telephone' }])

  await isla.go('/book')
  // The list has come: what stands above it moves no more.
  await expect(page.getByRole('heading', { name: 'Disinfections' })).toBeVisible()
  await expect(page.getByRole('link', { name: /Done$/ }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Filter' }).click()
  await page.getByLabel('Site, system, person, part or note').fill('weaving')
  await expect(page.getByText('Net loft cottage')).toBeHidden()
  await expect(page.getByRole('link', { name: /Weaving mill/ }).first()).toBeVisible()
  await isla.openSite('Weaving mill')
  await page.getByRole('link', { name: 'What happened here' }).click()
  await page.getByRole('radio', { name: 'Holds' }).click()
  await expect(page.getByText(/^Told of the hold, by telephone: /)).toBeVisible()
  await expect(page.getByText(/^Part fitted/)).toBeHidden()
})

test('the whole firm goes out in one file and stands in an empty installation again', async ({ page, worlds, browser }) => {
  const from = await worlds.of('')
  const isla = await opened(page, from, 'desk')
  await isla.signIn('isla@fennick.example')
  await isla.go('/firm-data')
  await page.getByRole('button', { name: 'Prepare the file' }).click()
  await expect(page.getByText('Ready since')).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByText('Download the file').click()
  const file = await (await download).path()

  const to = await worlds.of('empty-moved')
  const context = await browser.newContext()
  const there = await opened(await context.newPage(), to, 'phone')
  await there.load('/')
  await there.page.getByLabel('Code').fill(SETUP_CODE)
  await there.page.locator('input[type=file]').setInputFiles(file)
  await expect(there.page.getByText('Fennick & Daughter is here')).toBeVisible()
  await there.page.getByText('Choose a password as Isla Fennick (isla@fennick.example)').click()
  await there.page.getByLabel('Password', { exact: true }).fill('heron-on-the-weir')
  await there.page.getByRole('button', { name: /password|sign in/i }).click()
  await expect(there.page.getByText(/driving|No stops today|eeds action|othing to act on/)).toBeVisible()
  const count = `select (select count(*) from fact_receipt)::int as facts, (select count(*) from site)::int as sites, (select count(*) from stop)::int as stops`
  expect(await to.query(count)).toEqual(await from.query(count))
  await there.openSite('Net loft')
  await expect(there.page.getByText('Done here')).toBeVisible()
  await context.close()
})
