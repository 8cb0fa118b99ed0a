import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { expect, opened, test } from './world'

const SHEET = fileURLToPath(new URL('./lists/two.xlsx', import.meta.url))
const FORTY = fileURLToPath(new URL('./lists/forty.csv', import.meta.url))

test('a list of forty lines with five bad ones: checked, imported, corrected, undone', async ({ page, world }) => {
  const isla = await opened(page, world, 'desk')
  await isla.signedIn('isla@fennick.example')
  const count = async (sql: string): Promise<number> => Number((await world.query<{ n: string }>(`select count(*) as n from ${sql}`))[0]?.n)
  const before = await count('site where gone_at is null')
  await isla.go('/sites')
  await page.getByText('Import a list').click()
  await page.getByLabel('Choose a file').setInputFiles(FORTY)
  await expect(page.getByText('40 lines: 35 can be imported, 5 cannot yet.')).toBeVisible()
  const bad = page.getByRole('list', { name: 'Lines to correct' }).getByRole('listitem')
  await expect(bad).toHaveText([
    /Line 6.*Fitted: There is no such day: 31\/02\/2026/,
    /Line 11.*People: “many” is not a number/,
    /Line 35.*Fitted: 2062-05-01 is still to come/,
    /Line 38.*Read on: Nothing says on which day untreated was read/,
    /Line 41.*Customer: No site/,
  ])
  // A column read otherwise is looked through anew: as a note the meter makes no reading.
  await page.getByLabel('What “Customer” holds').selectOption('')
  await expect(page.getByText('40 lines: 0 can be imported, 40 cannot yet.')).toBeVisible()
  await expect(page.getByTestId('bring-in')).toBeDisabled()
  await page.getByLabel('What “Customer” holds').selectOption('site')
  await expect(page.getByText('40 lines: 35 can be imported, 5 cannot yet.')).toBeVisible()
  expect(await count('intake')).toBe(0)
  await page.getByTestId('bring-in').click()
  await expect(page.getByText('forty.csv is imported')).toBeVisible()
  await expect(page.getByText('5 lines are left')).toBeVisible()
  expect(await count('site where gone_at is null')).toBe(before + 10)

  // The window of a part whose day nobody knows says so, and stands in the list of what is due.
  await expect.poll(() => count('stale_stage')).toBe(0)
  await isla.go('/due?until=all&sort=place&text=otter')
  await expect(page.getByRole('link', { name: /^Otter Cottage/ })).toHaveCount(4)
  await isla.openSite('Otter Cottage')
  await expect(page.getByText(/^BRK-CB-10, in there already on .+; nobody knows since when$/)).toBeVisible()

  // Mended and brought in by itself, the rest finds its place beside what came before.
  await isla.load('/intake')
  await page.getByLabel('Choose a file').setInputFiles(FORTY)
  await expect(page.getByText(/40 lines: 35 can be imported/)).toBeVisible()
  await expect(page.getByText('It makes nothing new.')).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save these lines to correct' }).click()
  const lines = readFileSync(await (await download).path(), 'utf8')
    .replace('\uFEFF', '')
    .trim()
    .split('\r\n')
  expect(lines).toHaveLength(6)
  expect(lines[0]).toMatch(/,To correct$/)
  const [heading = '', ...rest] = lines.map((line) => line.replace(/,[^,]*$/, '').replace(/,"[^"]*"$/, ''))
  const mended = rest.map((line) =>
    line
      .replace('31/02/2026', '28/02/2026')
      .replace('many', '2')
      .replace('01/05/2062', '01/05/2026')
      .replace(/^,Quay|^,Hollin/, 'The Old Kiln,Quay'),
  )
  await page.getByRole('button', { name: 'Another list' }).click()
  await page.getByLabel('Or paste its lines, headings first').fill([heading, ...mended].join('\n'))
  await page.getByRole('button', { name: 'Check it' }).click()
  await expect(page.getByText(/^5 lines: /)).toBeVisible()

  await isla.load('/intake')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText(/^Undone /)).toBeVisible()
  await expect.poll(() => count('site where gone_at is null')).toBe(before)
  await isla.load('/sites')
  await page.getByLabel('Search sites by name or place').fill('otter')
  await expect(page.getByText('Nothing by that name')).toBeVisible()
})

test('what is no list says so and writes nothing; a technician brings none in', async ({ page, world }) => {
  const isla = await opened(page, world, 'phone')
  await isla.signedIn('isla@fennick.example')
  await isla.load('/intake')
  await page.getByLabel('Or paste its lines, headings first').fill('only a heading')
  await page.getByRole('button', { name: 'Check it' }).click()
  await expect(page.getByText('This list cannot be read')).toBeVisible()
  await expect(page.getByText(/a line of headings and at least one line under it/)).toBeVisible()
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByText('Choose a file')).toBeVisible()
  await page.context().clearCookies()
  await isla.signedIn('tam@fennick.example')
  await isla.load('/intake')
  await expect(page.getByText(/An owner or a planner/)).toBeVisible()
})

test('a spreadsheet and an address card come in as they are: address, coordinates, a bed with its bypass, a day out of its cell', async ({
  page,
  world,
}) => {
  const isla = await opened(page, world, 'desk')
  await isla.signedIn('isla@fennick.example')
  await isla.go('/intake')
  await page.getByLabel('Choose a file').setInputFiles(SHEET)
  await expect(page.getByText('2 lines, and all can be imported.')).toBeVisible()
  await page.getByTestId('bring-in').click()
  await expect(page.getByText('two.xlsx is imported')).toBeVisible()
  expect(await world.query(`select name, street, postcode, village, lat, lon from site where street <> '' order by name`)).toEqual([
    { name: 'Mill café', street: '4 Mill Lane', postcode: '4050-121', village: 'Weir', lat: 58.32, lon: -21.6 },
    { name: 'Smokehouse', street: '7 Smoke Lane', postcode: '4050-120', village: 'Quay', lat: 58.31, lon: -21.62 },
  ])
  const [bed] = await world.query<{ kinds: string[]; seen: string[] }>(
    `select array(select n->>'kind' from jsonb_array_elements(t.train->'nodes') n) as kinds,
       array(select n->>'id' from jsonb_array_elements(t.train->'nodes') n where n ? 'inletConfirmed') as seen
     from train_version t join system y on y.id = t.system_id join site s on s.id = y.site_id where s.street = '7 Smoke Lane'`,
  )
  expect([bed?.kinds.includes('bypass'), bed?.seen]).toEqual([true, []])
  // Day 46,000 of a spreadsheet is 9 December 2025.
  expect(
    await world.query(
      `select to_char(at, 'YYYY-MM-DD') as day from fact_part_fitted f join site s on s.id = f.site_id where s.name = 'Mill café'`,
    ),
  ).toEqual([{ day: '2025-12-09' }])

  await isla.load('/intake')
  await page.getByLabel('Choose a file').setInputFiles({
    name: 'cards.vcf',
    mimeType: 'text/vcard',
    buffer: Buffer.from(['BEGIN:VCARD', 'VERSION:3.0', 'FN:Odd Larn', 'ORG:Ice house', 'TEL:Quay 9', 'END:VCARD'].join('\r\n')),
  })
  await expect(page.getByText('One line, and it can be imported.')).toBeVisible()
})

test('a supplier’s list of parts: prices and bar codes into the catalogue, a bad line named', async ({ page, world }) => {
  const isla = await opened(page, world, 'phone')
  await isla.signedIn('isla@fennick.example')
  await isla.go('/shelf?show=parts')
  await page.getByText('Import a parts list').click()
  await page
    .getByLabel('Or paste its lines, headings first')
    .fill(['Article no;Category;Net price;EAN', 'BRK-SED-10;;9,95;5601234500017', 'BRK-SED-99;sediment;12;', 'BRK-X;gravel;1;'].join('\n'))
  await page.getByRole('button', { name: 'Check it' }).click()
  await expect(page.getByText('3 lines: 2 can be imported, 1 cannot yet.')).toBeVisible()
  await expect(page.getByRole('list', { name: 'Lines to correct' }).getByRole('listitem')).toHaveText([
    /Line 4.*Category: “gravel” is no kind of part/,
  ])
  await page.getByRole('button', { name: 'Import it' }).click()
  await expect(page.getByText('1 part added, 1 changed. 1 line is left to correct.')).toBeVisible()
  expect(
    await world.query(
      `select part_number, price_minor, barcode from part where part_number like 'BRK-SED-%0' or part_number = 'BRK-SED-99' order by 1`,
    ),
  ).toEqual([
    { part_number: 'BRK-SED-10', price_minor: 995, barcode: '5601234500017' },
    { part_number: 'BRK-SED-20', price_minor: 2250, barcode: '' },
    { part_number: 'BRK-SED-99', price_minor: 1200, barcode: '' },
  ])
})
