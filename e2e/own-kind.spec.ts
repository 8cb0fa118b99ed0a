import { readFile } from 'node:fs/promises'
import { expect, test } from './world'

test.use({ ownWorld: 'own-kind' })

const READINGS = { untreated: '212', treated: '210' }

test('a kind the firm names: on the shelf, in the plumbing, on the run sheet with its soak, its flush alone and its caution', async ({
  phone,
  world,
}) => {
  const { page } = phone
  await phone.signIn('isla@fennick.example')
  await phone.go('/shelf?show=media')
  await page.getByRole('button', { name: 'Add a kind' }).click()
  await page.getByRole('button', { name: 'Add this kind' }).click()
  await expect(page.getByText('Name is required')).toBeVisible()
  await page.getByLabel('Name of the kind').fill('Ceramic candle')
  await page.getByLabel('Soaks before it is used').fill('0.5')
  await page.getByRole('radio', { name: 'Alone, later housings empty' }).click()
  await page.getByLabel('Cautions, a line each').fill('Brittle: never by its neck.')
  await page.getByRole('button', { name: 'Add this kind' }).click()
  await expect(page.getByText('Soaks 0.5 h; flushed 10 min or 8 L, whichever comes last, alone')).toBeVisible()
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export kinds' }).click()])
  expect(JSON.parse(await readFile(await file.path(), 'utf8'))).toMatchObject({
    kinds: [{ name: 'ceramic candle', soakHours: 0.5, flush: { alone: true } }],
  })

  await phone.openSite('Lantern bakery')
  const system = page.getByRole('heading', { level: 2, name: 'Proofing room', exact: true }).locator('xpath=..')
  await system.getByRole('button', { name: 'Plumbing' }).click()
  await page.getByRole('button', { name: /^1 · Sediment/ }).click()
  await page.getByLabel('Add after 1 · Sediment').selectOption({ label: 'ceramic candle' })
  await page.getByTestId('save-train').click()
  await expect(page.getByRole('heading', { level: 1, name: 'Lantern bakery' })).toBeVisible()

  await phone.putOnToday('Lantern bakery', 'Proofing room', ['Ceramic candle'])
  await page.getByRole('button', { name: 'Start: measure first' }).click()
  await phone.measure(READINGS)
  await expect(page.getByRole('heading', { level: 1, name: /^Put the new ceramic candle to soak in a clean vessel/ })).toBeVisible()
  await phone.stepUntil(/^Fit the new ceramic candle/, READINGS)
  await expect(page.getByText('Brittle: never by its neck.')).toBeVisible()
  // Nobody keeps a part of it yet: what is fitted is read off it.
  await page.getByLabel('Part number on the new part').fill('LT-CC-10')
  await phone.stepUntil(/^Flush housing 2 into the bucket: at least 10 minutes/, READINGS)
  await phone.inBlocks()
  await phone.toTheEnd(READINGS)
  await phone.finish()
  await phone.allSent()
  const [row] = await world.query<{ media: string }>(
    `select media from stage_forecast f join site s on s.id = f.site_id where s.name = 'Lantern bakery' and media like 'own:%'`,
  )
  expect(row?.media).toBe('own:ceramic candle')
})
