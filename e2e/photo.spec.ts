import qrcode from 'qrcode-generator'
import { expect, opened, test } from './world'

test('a photo of what came out: kept while the network is away, sent after it is back, shown in the book', async ({ page, world }) => {
  const wren = await opened(page, world, 'phone')
  await wren.signedIn('wren@fennick.example')
  // A stop of another day, which no other test works at.
  const [stop] = await world.query<{ id: string }>(
    `select stop.id from stop join site on site.id = stop.site_id where site.name = 'Lighthouse guesthouse'`,
  )
  await wren.go(`/stop/${stop?.id}`)
  await page.getByRole('button', { name: /^(Start: measure first|Readings)$/ }).click()
  await wren.measure({ untreated: '62', treated: '62' })
  const after = { untreated: '62', treated: '62' }
  await wren.beginAt(/^Look /)
  const picture = await page.screenshot()
  const photo = page.getByLabel('Photo, if you like')
  await photo.setInputFiles({ name: 'note.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') })
  await expect(page.getByText(/That file is no picture/)).toBeVisible()
  await page.route('**/api/photos/**', (route) => route.abort())
  await photo.setInputFiles({ name: 'found.png', mimeType: 'image/png', buffer: picture })
  await expect(page.getByText('not sent yet', { exact: true })).toBeVisible()
  await expect(page.getByText(/1 photo not sent yet/)).toBeVisible()
  const kept = () =>
    world.query<{ visit_id: string; width: number; height: number; kept: number }>(
      'select visit_id, width, height, octet_length(bytes) as kept from photo join photo_bytes on photo_id = photo.id',
    )
  expect(await kept()).toEqual([])
  // A reload in the middle loses nothing.
  await page.reload()
  await expect(page.getByText('not sent yet', { exact: true })).toBeVisible()
  await page.unroute('**/api/photos/**')
  await page.evaluate(() => window.dispatchEvent(new Event('online')))
  await expect.poll(async () => (await kept()).length).toBe(1)
  const [row] = await kept()
  expect([row?.width, row?.height]).toEqual([390, 844])
  await expect(page.getByText('not sent yet', { exact: true })).toBeHidden()
  await wren.step(after)
  await wren.beginAt(/^Fit /)
  await wren.step(after)
  await wren.go(`/book/${row?.visit_id}`)
  await expect(page.getByRole('link', { name: 'Open the photo' })).toBeVisible()
  const shown = page.getByRole('img', { name: 'Photo of what came out' })
  await expect.poll(() => shown.evaluate((image) => (image as HTMLImageElement).naturalWidth)).toBe(390)
})

test('a new site at the door without a network: a pin on the map, a photo of the installation; all of it arrives, in order', async ({
  page,
  world,
  context,
}) => {
  const tam = await opened(page, world, 'phone')
  await tam.signIn()
  await tam.go('/sites/new')
  await page.getByRole('button', { name: 'Choose on a map' }).click()
  const map = page.getByTestId('pin-map')
  await expect(map).toBeVisible()
  await page.getByLabel('Name', { exact: true }).fill('Kelp shed')
  const where = page.getByRole('textbox', { name: 'Where it is' })
  await map.click({ position: { x: 100, y: 100 } })
  const first = await where.inputValue()
  expect(first).toMatch(/^5\d\.\d+, -2\d\.\d+$/)
  // Further to the right lies further east, further down further south.
  await map.click({ position: { x: 200, y: 200 } })
  const [lat = 0, lon = 0] = (await where.inputValue()).split(', ').map(Number)
  const [firstLat = 0, firstLon = 0] = first.split(', ').map(Number)
  expect([lat < firstLat, lon > firstLon]).toEqual([true, true])
  // What is under the finger stays there; moving the map sets no pin.
  const box = await map.boundingBox()
  if (!box) throw new Error('the map is in sight')
  await page.mouse.move(box.x + 150, box.y + 150)
  await page.mouse.down()
  await page.mouse.move(box.x + 90, box.y + 120, { steps: 4 })
  await page.mouse.up()
  expect(await where.inputValue()).toBe(`${lat.toFixed(5)}, ${lon.toFixed(5)}`)
  await page.getByRole('radio', { name: 'At the sink' }).click()
  await page.getByRole('radio', { name: 'under-sink, two stages' }).click()
  const picture = await page.screenshot()
  await page.getByLabel('Photo of the installation').setInputFiles({ name: 'wall.png', mimeType: 'image/png', buffer: picture })
  await expect(page.getByText('The installation: 1 photo, kept with the system.')).toBeVisible()
  await page.route('**/api/**', (route) => (route.request().method() === 'GET' ? route.continue() : route.abort()))
  await page.getByRole('button', { name: 'Add this site' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Kelp shed' })).toBeVisible()
  await expect(page.getByText('not sent yet', { exact: true })).toBeVisible()
  expect(await world.query(`select 1 from site where name = 'Kelp shed'`)).toEqual([])
  await page.unroute('**/api/**')
  await page.evaluate(() => window.dispatchEvent(new Event('online')))
  await expect
    .poll(() =>
      world.query(
        `select p.what, y.name as system, s.lat, s.lon from photo p join system y on y.id = p.system_id join site s on s.id = p.site_id`,
      ),
    )
    .toEqual([{ what: 'installation', system: 'Kitchen', lat, lon }])
  await expect(page.getByRole('link', { name: 'Open the photo' })).toBeVisible()
  await context.close()
})

/** A picture of a printed code, as a camera takes it: dark squares on white with room round them. */
function pictureOf(text: string): Buffer {
  const code = qrcode(0, 'M')
  code.addData(text)
  code.make()
  return Buffer.from(code.createDataURL(8, 32).split(',')[1] ?? '', 'base64')
}

test('a printed code is read where the browser has no reader of its own, and a picture without one says so', async ({ page, world }) => {
  const tam = await opened(page, world, 'phone')
  await tam.signIn()
  await tam.go('/sites/new')
  expect(await page.evaluate(() => 'BarcodeDetector' in globalThis)).toBe(false)
  await page.getByRole('radio', { name: 'At the sink' }).click()
  await page.getByRole('radio', { name: 'under-sink, two stages' }).click()
  const scan = page.getByLabel('Scan the code at 1')
  await scan.setInputFiles({ name: 'wall.png', mimeType: 'image/png', buffer: await page.screenshot() })
  await expect(page.getByText(/No code could be read on that picture/)).toBeVisible()
  await scan.setInputFiles({ name: 'label.gif', mimeType: 'image/gif', buffer: pictureOf('BRK-SED-10') })
  await expect(page.getByLabel('Part number at 1')).toHaveValue('BRK-SED-10')
  await expect(page.getByText(/No code could be read on that picture/)).toBeHidden()
})
