import { expect, opened, test, type World } from './world'

const READINGS = { untreated: '212', treated: '210' }
const begun = async (person: Awaited<ReturnType<typeof opened>>, site: string) => {
  await person.openStop(site)
  await person.page.getByRole('button', { name: 'Start: measure first' }).click()
  await person.measure(READINGS)
}
/** Stops of other days are open as well; each test here has a site of its own. */
const stopAt = async (world: World, site: string): Promise<string> => {
  const [stop] = await world.query<{ id: string }>('select stop.id from stop join site on site.id = stop.site_id where site.name = $1', [
    site,
  ])
  return `/stop/${stop?.id}`
}
const ticksAt = `select count(*)::int as n from fact_step_done s join site on site.id = s.site_id where site.name = $1 and s.at > test_clock() - interval '10 minutes'`

test('what the server refuses is kept, named, and sent again once the reason is gone', async ({ phone, world }) => {
  const { page } = phone
  await phone.signIn('wren@fennick.example')
  await begun(phone, 'Weaving mill')
  await expect
    .poll(() =>
      world.query(
        `select 1 from fact_tds_reading r join site on site.id = r.site_id where site.name = 'Weaving mill' and r.at > test_clock() - interval '10 minutes'`,
      ),
    )
    .toHaveLength(2)
  await world.query(`update person set role = 'viewer' where name = 'Wren Adeyo'`)
  // The tick is taken back on the screen as soon as it is refused: the sheet does not move on.
  await phone.act.click()
  await expect(page.getByRole('button', { name: /1 refused by the server and kept here/ })).toBeVisible()
  await page.getByRole('button', { name: /refused by the server/ }).click()
  await expect(page.getByText('step done: Your role may not record this. Ask the owner.')).toBeVisible()
  await world.query(`update person set role = 'technician' where name = 'Wren Adeyo'`)
  await page.getByRole('button', { name: 'Send again' }).click()
  await expect(page.getByText('Everything recorded on this device has been sent.')).toBeVisible()
  expect(await world.query(ticksAt, ['Weaving mill'])).toEqual([{ n: 1 }])
})

test('a revoked device keeps its work; after signing in again it is sent, once', async ({ phone, world }) => {
  const { page } = phone
  await phone.signIn('wren@fennick.example')
  await begun(phone, 'Choir school boarding house')
  await expect(page.getByText('Step 2 of')).toBeVisible()
  await world.query(`delete from auth_session where user_id = (select id from person where name = 'Wren Adeyo')`)
  await phone.step(READINGS)
  await phone.step(READINGS)
  await expect(page.getByRole('status').filter({ hasText: '2 not sent yet. Sign in first.' })).toBeVisible()
  // Where one signs in again, it says that nothing is lost.
  await page.reload()
  await page.getByRole('button', { name: /^Your sign-in has run out/ }).click()
  await expect(page.getByText('2 recorded on this device and not sent yet. Nothing is lost')).toBeVisible()
  await phone.signIn('wren@fennick.example')
  await expect.poll(() => world.query(ticksAt, ['Choir school boarding house'])).toEqual([{ n: 2 }])
  await phone.openStop('Choir school boarding house')
  await page.getByRole('button', { name: 'Go on with the run sheet' }).click()
  await expect(page.getByText('Step 4 of')).toBeVisible()
})

test('on a shared device the second person sees neither the first one’s unsent work nor what was being typed', async ({ phone, world }) => {
  const { page } = phone
  await phone.signIn()
  const stop = await stopAt(world, 'Primary school')
  await phone.go(`${stop}/measure`)
  await phone.typeReadings({ untreated: '777', treated: '1' })
  await phone.signIn('isla@fennick.example')
  await phone.go(`${stop}/measure`)
  await expect(page.getByLabel('Untreated', { exact: true })).toHaveValue('')
  expect(await world.query(`select 1 from fact_tds_reading where display = 777`)).toEqual([])
})

test('two phones on one visit: ticks are a union, and each goes on where the other stands', async ({ browser, phone, world }) => {
  const { page } = phone
  await phone.signIn()
  const stop = await stopAt(world, 'Seed nursery')
  await phone.go(`${stop}/measure`)
  await phone.measure(READINGS)
  await phone.step(READINGS)
  await expect.poll(() => world.query(ticksAt, ['Seed nursery'])).toEqual([{ n: 1 }])
  const context = await browser.newContext({ locale: 'en-GB', timezoneId: 'Atlantic/Azores' })
  const second = await opened(await context.newPage(), world, 'phone')
  await second.signIn()
  await second.go(`${stop}/sheet`)
  await expect(second.page.getByText('Step 3 of')).toBeVisible()
  await second.step(READINGS)
  await expect(second.page.getByText('Step 4 of')).toBeVisible()
  await expect.poll(() => world.query(ticksAt, ['Seed nursery'])).toEqual([{ n: 2 }])
  // The first phone is told of it: nobody reloads, and no screen asks every few seconds.
  await expect(page.getByText('Step 4 of')).toBeVisible()
  await context.close()
})
