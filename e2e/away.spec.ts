import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startPostgres } from '../bin/lib/postgres.mjs'
import { prepare, serve } from '../bin/lib/server.mjs'
import { Technician } from './driver/technician'
import { expect, test } from './world'

test('the server goes away in the middle of a sheet: ticks are kept, counted, and sent when it is back', async ({ phone, world }) => {
  const { page } = phone
  await phone.signIn()
  await phone.openStop('Boatyard wash-down')
  await page.getByRole('button', { name: 'Start: measure first' }).click()
  await phone.measure({ untreated: '181', treated: '4' })
  await phone.step({ untreated: '181', treated: '1' })
  const ticks = (): Promise<object[]> =>
    world.query(
      `select step_key from fact_step_done s join site on site.id = s.site_id where site.name = 'Boatyard wash-down' and s.at > test_clock() - interval '10 minutes'`,
    )
  await expect.poll(ticks).toHaveLength(1)
  await world.stopServer()
  for (let steps = 0; steps < 3; steps++) await phone.step({ untreated: '181', treated: '1' })
  await expect(page.getByRole('status').filter({ hasText: '3 not sent yet' })).toBeVisible()
  const stood = await page.getByText(/^Step \d+ of/).innerText()
  await world.startServer()
  await expect(page.getByText(/not sent yet/)).toBeHidden()
  await page.reload()
  await expect(page.getByText(stood, { exact: true })).toBeVisible()
  expect(await ticks()).toHaveLength(4)
})

test('PostgreSQL stops under the running server: it is said in words, and all mends by itself', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'even-round-away-'))
  const elsewhere = `${folder}-pg`
  const start = (port?: number) => startPostgres({ dir: folder, elsewhere, durable: false, ...(port ? { port } : {}) })
  let database = await start()
  const { port } = database
  const urls = database.createDatabase('even_round')
  await prepare({ ...urls, loadDemo: '1' })
  const server = await serve({ appUrl: urls.appUrl, port: 0, secret: 'for tests only, never outside of them', showDemo: true })
  try {
    await page.setViewportSize({ width: 390, height: 844 })
    const phone = new Technician(page, `http://127.0.0.1:${server.port}`)
    await phone.signIn()
    await phone.openStop('Net loft cottage')
    await page.getByRole('button', { name: 'Start: measure first' }).click()
    await phone.measure({ untreated: '212', treated: '210' })
    await database.stop()
    await phone.step({ untreated: '212', treated: '210' })
    await expect(page.getByRole('status').filter({ hasText: 'The records cannot be reached for the moment' })).toBeVisible()
    const away = await page.request.get(`${phone.url}/api/health`)
    expect(away.status()).toBe(503)
    await phone.go('/book')
    await expect(page.getByRole('alert')).toContainText('The records cannot be reached for the moment')
    database = await start(port)
    await expect(page.getByRole('heading', { level: 1, name: 'Book' })).toBeVisible()
    await expect(page.getByRole('link', { name: /Net loft cottage/ }).first()).toBeVisible()
    await expect(page.getByText(/not sent yet/)).toBeHidden()
  } finally {
    await server.stop()
    await database.stop()
    for (const dir of [folder, elsewhere]) rmSync(dir, { recursive: true, force: true })
  }
})
