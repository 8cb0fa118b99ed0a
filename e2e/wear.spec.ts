import { expect, opened, test } from './world'

test('gauges read at the stop narrow the window at once; the list of what is due moves', async ({ page, world }) => {
  // The files share a world: what other tests do at this site leaves its part and its gauges alone.
  const wren = await opened(page, world, 'phone')
  await wren.signIn('wren@fennick.example')
  const dueOf = async (): Promise<{ p50: string; stage_id: string }> => {
    const [row] = await world.query<{ p50: string; stage_id: string }>(
      `select f.p50::text, f.stage_id from stage_forecast f join site on site.id = f.site_id where site.name = 'Weaving mill' and f.media = 'sediment'`,
    )
    if (!row) throw new Error('no forecast')
    return row
  }
  const before = await dueOf()
  await wren.openStop('Weaving mill')
  // Another file's test may have begun this stop already.
  await page.getByRole('button', { name: /^(Start: measure first|Readings)$/ }).click()
  await wren.typeReadings({ untreated: '210', treated: '205' })
  await page.getByLabel('1 Sediment: in').fill('45 psi')
  await page.getByLabel('1 Sediment: out').fill('fifty')
  await expect(page.getByText('Not a number. Type e.g. 412 or 1.2k')).toBeVisible()
  await page.getByTestId('measured').click()
  await expect(page.getByText(/One of the gauges cannot be read/)).toBeVisible()
  await page.getByLabel('1 Sediment: out').fill('305')
  await expect(page.getByText(/^Sediment: (window .+ → .+\. )?(Change by|Overdue since|Spent|Probably spent)/)).toBeVisible()
  // A reload in the middle keeps what was typed.
  await page.reload()
  await expect(page.getByLabel('1 Sediment: out')).toHaveValue('305')
  await page.getByTestId('measured').click()
  await expect(page).toHaveURL(/\/sheet$/)
  await expect
    .poll(
      async () =>
        (
          await world.query(
            `select in_kpa, out_kpa from fact_stage_reading where stage_id = $1 and visit_id in (select visit_id from fact_visit_begun where stop_id is not null)`,
            [before.stage_id],
          )
        ).length,
    )
    .toBe(1)
  await expect.poll(async () => (await dueOf()).p50).not.toBe(before.p50)
  await wren.go(`/stage/${before.stage_id}`)
  await expect(page.getByText(/^Pressure drop: 5\.3 kPa/)).toBeVisible()
})

test('a counter that shows less than before is asked about, also when the coming days come late', async ({ page, world }) => {
  const tam = await opened(page, world, 'phone')
  // The coming days are asked for now and come once the counter was read: what they say of it is of before.
  let comes = (): void => undefined
  const late = new Promise<void>((resolve) => {
    comes = resolve
  })
  await page.route('**/api/offline?*', async (route) => {
    const answer = await route.fetch()
    await late
    await route.fulfill({ response: answer })
  })
  const asked = page.waitForRequest('**/api/offline?*')
  await tam.signIn()
  await asked
  await tam.openStop('Boatyard wash-down')
  // Another file's test may have begun this stop already.
  await page.getByRole('button', { name: /^(Start: measure first|Readings)$/ }).click()
  const counter = page.getByLabel('Counter', { exact: true })
  await tam.typeReadings({ untreated: '181', treated: '4' })
  await counter.fill('52.1k')
  const askedAgain = page.waitForResponse('**/api/stops/*')
  await page.getByTestId('measured').click()
  await expect(page).toHaveURL(/\/sheet$/)
  const stored = async (where: string): Promise<number> => (await world.query(`select 1 from fact_stage_reading where ${where}`)).length
  await expect.poll(() => stored('counter_l = 52100')).toBe(1)
  await (await askedAgain).finished()
  const came = page.waitForResponse('**/api/offline?*')
  comes()
  await (await came).finished()
  await tam.openStop('Boatyard wash-down')
  await page.getByRole('button', { name: 'Readings' }).click()
  await expect(page.getByText('last seen at 52,100')).toBeVisible()
  await counter.fill('4100')
  await expect(page.getByText(/Less than when it was last seen/)).toBeVisible()
  await page.getByTestId('measured').click()
  await expect(page.getByText(/The counter shows less than before/)).toBeVisible()
  await page.getByRole('checkbox', { name: /New meter/ }).click()
  await page.getByTestId('measured').click()
  await expect(page).toHaveURL(/\/sheet$/)
  await expect.poll(() => stored('counter_l = 4100 and counter_started_over')).toBe(1)
})

test('what the list shows stands in its address; a stage says why, and another method changes it', async ({ page, world }) => {
  const isla = await opened(page, world, 'desk')
  await isla.signIn('isla@fennick.example')
  await isla.go('/due?sort=place&until=all&text=gannet')
  const rows = page.getByRole('link', { name: /^Gannet Row 3/ })
  await expect(rows.first()).toBeVisible()
  await expect(page.getByRole('radio', { name: 'Place' })).toBeChecked()
  await page.getByRole('radio', { name: 'Risk' }).click()
  await expect(page).toHaveURL(/sort=risk/)
  await page.reload()
  await expect(page.getByRole('radio', { name: 'Risk' })).toBeChecked()
  await expect(page.getByLabel('Part of a site’s or part’s name')).toHaveValue('gannet')
  // A column that is not wanted stays away on this device.
  await expect(page.getByRole('radio', { name: 'Place' })).toBeVisible()
  await page.getByRole('button', { name: 'Columns' }).click()
  await page.getByRole('checkbox', { name: 'Place' }).click()
  await expect(page.getByRole('radio', { name: 'Place' })).toBeHidden()
  await page.reload()
  await expect(page.getByRole('radio', { name: 'Risk' })).toBeChecked()
  await expect(page.getByRole('radio', { name: 'Place' })).toBeHidden()
  const download = page.waitForEvent('download')
  await page.getByText('CSV').click()
  const file = await (await download).path()
  const { readFileSync } = await import('node:fs')
  const lines = readFileSync(file, 'utf8').trim().split('\r\n')
  expect(lines[0]).toContain('site,system,village,island,medium,part_number')
  expect(lines.slice(1).every((line) => line.startsWith('Gannet Row 3,'))).toBe(true)
  expect(lines.length - 1).toBe(await rows.count())
  await page.getByRole('link', { name: /Membrane/ }).click()
  await expect(page.getByRole('heading', { level: 1, name: /Membrane/ })).toBeVisible()
  await expect(page.getByText('Why then')).toBeVisible()
  await page.getByText('Change the method').click()
  await page.getByRole('button', { name: 'Calendar', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Method: calendar' })).toBeVisible()
  await expect(page.getByText(/Chosen for this stage/)).toBeVisible()
  await page.goBack()
  await expect(page).toHaveURL(/text=gannet/)
})
