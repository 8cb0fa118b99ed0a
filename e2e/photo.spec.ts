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
