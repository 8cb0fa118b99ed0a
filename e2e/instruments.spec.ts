import { clockOfRun } from './clock'
import { expect, opened, test } from './world'

test('the meter settles by itself and fills the reading; held in the middle it is not called settled', async ({ page, world }) => {
  const tam = await opened(page, world, 'phone')
  await tam.signedIn()
  const [stop] = await world.query<{ id: string }>(
    `select stop.id from stop join site on site.id = stop.site_id where site.name = 'Ferry crew room'`,
  )
  await tam.go(`/stop/${stop?.id}/measure`)
  const dip = async (water: string): Promise<void> => {
    await page.getByRole('button', { name: `Dip: ${water}` }).click()
    await expect(page.getByText(`TDS meter in ${water} water`)).toBeVisible()
    await expect(page.getByText(`TDS meter in ${water} water`)).toBeHidden()
  }
  await dip('treated')
  await expect(page.getByRole('switch', { name: 'Settled, treated' })).toBeChecked()
  await expect(page.getByText(/The probe carries/)).toBeHidden()
  await page.getByRole('button', { name: 'Dip: untreated' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'TDS meter' }).getByText(/^\d+$/)).toBeVisible()
  await page.getByRole('button', { name: 'Hold' }).click()
  await expect(page.getByRole('switch', { name: 'Settled, untreated' })).not.toBeChecked()
  await dip('untreated')
  await expect(page.getByLabel('Untreated', { exact: true })).toHaveValue(/^1[789]\d$/)
  await expect(page.getByLabel('Water temperature')).toHaveValue('11')
  await page.getByRole('button', { name: 'Counter', exact: true }).click()
  await expect(page.getByLabel('Counter', { exact: true })).toHaveValue(/^\d+$/)
  await page.getByTestId('measured').click()
  await expect(page).toHaveURL(/\/sheet$/)
  const stored = () =>
    world.query<{ settled: boolean; temperature_c: number }>(
      `select settled, temperature_c from fact_tds_reading f where exists (select 1 from fact_visit_begun b where b.visit_id = f.visit_id and b.stop_id = $1)`,
      [stop?.id],
    )
  await expect.poll(stored).toEqual([
    { settled: true, temperature_c: 11 },
    { settled: true, temperature_c: 11 },
  ])
})

test('a counter of the site’s own: added with a key shown once, heard, and taken away', async ({ page, world }) => {
  const isla = await opened(page, world, 'desk')
  await isla.signedIn('isla@fennick.example')
  const [site] = await world.query<{ id: string }>(`select id from site where name = 'Gannet Row 3'`)
  await isla.go(`/sites/${site?.id}`)
  await page.getByRole('button', { name: /^Add a device to Kitchen/ }).click()
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByText(/Give it a name/)).toBeVisible()
  await page.getByLabel('Name', { exact: true }).fill('Kitchen counter')
  await page.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByText('Write its key into the device now')).toBeVisible()
  const key = (await page.getByText(/^[\w-]{32}$/).innerText()).trim()
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByText('has not reported yet')).toBeVisible()
  const report = (value: number): Promise<Response> =>
    fetch(`${world.url}/api/telemetry`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', authorization: `Device ${key}` },
      body: JSON.stringify({ readings: [{ at: new Date(clockOfRun()).toISOString(), seq: value, value }] }),
    })
  expect((await report(5210)).status).toBe(200)
  await page.reload()
  await expect(page.getByText(/5,210 L/)).toBeVisible()
  await page.getByRole('button', { name: 'Take away' }).click()
  await expect(page.getByText('Kitchen counter')).toBeHidden()
  expect((await report(5300)).status).toBe(401)
})
