/**
 * Takes the pictures of docs/screenshots/ from a freshly started demo (bin/start --fresh):
 *   node --import tsx e2e/shots.ts http://127.0.0.1:4310
 * With EVEN_ROUND_CLOCK_AHEAD_MS set for both, the pictures are of another day than today.
 * It works through one visit on the way, so the demo wants to be started over afterwards.
 */
import { join } from 'node:path'
import { chromium, expect } from '@playwright/test'
import { CLOCK_OF_PAGES } from './clock'
import { Planner } from './driver/planner'
import { Technician } from './driver/technician'

const [url = 'http://127.0.0.1:4310'] = process.argv.slice(2)
const FOLDER = join(import.meta.dirname, '../docs/screenshots')
const SIZES = { phone: { width: 390, height: 844 }, desk: { width: 1280, height: 800 } } as const
const AFTER = { untreated: '410', treated: '26' }

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
})
const page = await browser.newPage({ viewport: SIZES.phone, locale: 'en-GB', timezoneId: 'Atlantic/Azores' })
await page.addInitScript(CLOCK_OF_PAGES)
// What runs this script marks functions by a helper that pages do not have.
await page.addInitScript('globalThis.__name = (one) => one')
const tam = new Technician(page, url)

const sheet = await browser.newPage()
const GAP = 16

/** Lays pictures side by side on one sheet: a view and its sizes are one file. */
async function compose(name: string, shots: readonly { bytes: Buffer; size: { width: number; height: number } }[]): Promise<void> {
  const width = shots.reduce((sum, { size }) => sum + size.width + GAP, -GAP)
  await sheet.setViewportSize({ width, height: Math.max(...shots.map(({ size }) => size.height)) })
  const images = shots.map(({ bytes }) => `<img src="data:image/png;base64,${bytes.toString('base64')}">`).join('')
  await sheet.setContent(`<body style="margin:0;display:flex;align-items:start;gap:${GAP}px;background:#C9CFC8">${images}</body>`)
  await sheet.screenshot({ path: join(FOLDER, `${name}.png`) })
}

/** One view at both sizes; the phone's may be shown in the cellar's light. */
async function both(name: string, cellar = false): Promise<void> {
  await page.emulateMedia({ colorScheme: cellar ? 'dark' : 'light' })
  await page.waitForTimeout(700)
  const phone = await page.screenshot()
  await page.emulateMedia({ colorScheme: 'light' })
  await page.setViewportSize(SIZES.desk)
  await page.waitForTimeout(900)
  const desk = await page.screenshot()
  await page.setViewportSize(SIZES.phone)
  await page.waitForTimeout(300)
  await compose(name, [
    { bytes: phone, size: SIZES.phone },
    { bytes: desk, size: SIZES.desk },
  ])
}

await tam.go('/sign-in')
await expect(page.getByText('Demo: Skellan Sound')).toBeVisible()
await page.waitForTimeout(700)
await tam.signIn()
await both('today')
for (const [name, path, there] of [
  ['shelf', '/shelf', 'Parts for the coming seven days'],
  ['book', '/book', 'Book'],
  ['due', '/due?sort=date&until=13w', 'Due'],
  ['rules', '/rules', 'As it was done'],
] as const) {
  await tam.go(path)
  await expect(page.getByText(there).first()).toBeVisible({ timeout: 30_000 })
  await both(name)
}
await tam.go('/due?text=Harbour%20office&until=all')
await page
  .getByRole('link', { name: /Membrane/ })
  .first()
  .click()
await expect(page.getByText('Why then')).toBeVisible()
await both('stage')
await tam.openSite('Lighthouse guesthouse')
await expect(page.getByText('Access')).toBeVisible()
await both('site')
await tam.openStop('Dr Hale’s dental surgery')
await both('stop')
await page.getByRole('button', { name: 'Start: measure first' }).click()
await tam.typeReadings({ untreated: '412', treated: '47', temperature: '11' })
await page.getByRole('switch', { name: 'Settled, untreated' }).click()
await page.getByRole('switch', { name: 'Settled, treated' }).click()
await page.getByLabel('1 Sediment: in').fill('310')
await page.getByLabel('1 Sediment: out').fill('262')
await both('measure')
await page.getByTestId('measured').click()
await tam.inBlocks()
await tam.stepUntil('Look before you throw it away', AFTER)
await page.getByRole('radio', { name: /^heavy/ }).click()
await page.getByRole('radio', { name: 'Dirt got past' }).click()
await both('run-sheet', true)
await tam.toTheEnd(AFTER)
await page.getByTestId('to-finish').click()
await expect(page.getByTestId('finish')).toBeVisible()
await both('finish')
await page.context().clearCookies()
await tam.signIn('isla@fennick.example')
await expect(page.getByText('On the road').first()).toBeVisible()
await both('office')
await page.setViewportSize(SIZES.desk)
const planner = new Planner(tam)
await planner.open()
await planner.planAndTake()
await planner.openVisit()
await page.keyboard.press('ArrowDown')
await expect(page.getByTestId('price-card')).toBeVisible()
await page.waitForTimeout(700)
const desk = await page.screenshot()
await page.setViewportSize(SIZES.phone)
await page.reload()
await expect(page.getByTestId('round-summary')).toBeVisible()
await page.waitForTimeout(700)
await compose('round', [
  { bytes: await page.screenshot(), size: SIZES.phone },
  { bytes: desk, size: SIZES.desk },
])
await tam.go('/year')
await page.getByRole('button', { name: 'Plan the year' }).click()
await expect(page.getByTestId('offer')).toBeVisible({ timeout: 60_000 })
await both('year')
await tam.go('/times')
await expect(page.getByText('Days off').first()).toBeVisible()
await both('times')
await tam.go('/intake')
await page.getByLabel('Choose a file').setInputFiles(join(import.meta.dirname, 'lists/forty.csv'))
await expect(page.getByTestId('bring-in')).toBeEnabled()
await both('intake')
await tam.openSite('Bottling shed')
await page.getByRole('button', { name: 'Plumbing' }).first().click()
await page.getByRole('button', { name: /^2 · Carbon/ }).click()
await both('plumbing')
await page.context().clearCookies()
await tam.signIn('wren@fennick.example')
await tam.openSite('Stack Farm')
await page.getByRole('link', { name: /contact runs/ }).click()
await expect(page.getByTestId('tide')).toBeVisible()
await both('tide', true)
await tam.openSite('Weaving mill')
await page.getByRole('link', { name: /positive: cause, then repeat/ }).click()
await page.getByRole('checkbox', { name: /^The well cap/ }).click()
await page.getByRole('button', { name: 'Plan the repeat' }).click()
await expect(page.getByTestId('glance')).toBeVisible()
await both('disinfection-plan')
await browser.close()
