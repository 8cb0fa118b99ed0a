import { Planner } from './driver/planner'
import { expect, SETUP_CODE, test } from './world'

test.use({ ownWorld: 'empty-begin', keepsProgram: true, geolocation: { latitude: 41.15, longitude: -8.61 }, permissions: ['geolocation'] })

const READINGS = { untreated: '212', treated: '210' }
/** Taps from nothing to the first finished visit: a promise to whoever begins. */
const MOST_TAPS = 80

test('an empty server to the first finished visit by one person on a phone, half of it without a signal', async ({
  phone,
  world,
  context,
}) => {
  const { page } = phone
  // Every tap counts, over all pages.
  let taps = 0
  await context.exposeFunction('tapped', () => {
    taps += 1
  })
  await context.addInitScript(() => document.addEventListener('click', () => Reflect.get(window, 'tapped')(), true))

  await phone.load('/')
  await expect(page.getByRole('heading', { name: 'Set up your firm' })).toBeVisible()
  await page.getByLabel('Code').fill(SETUP_CODE)
  await page.getByLabel('Your name').fill('Hale Wick')
  await page.getByLabel('E-mail').fill('hale@weir.example')
  await page.getByLabel('Password').fill('kelp and tideway')
  await page.getByLabel('Name of the firm').fill('Weir Water')
  await page.getByLabel('Currency').selectOption('EUR')
  await page.getByRole('button', { name: 'Use where I am' }).click()
  await expect(page.getByLabel('Where it is')).toHaveValue('41.15000, -8.61000')
  await page.getByRole('button', { name: 'Set up the firm' }).click()
  await expect(page.getByRole('heading', { name: 'Your first customers' })).toBeVisible()

  await expect.poll(() => page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state)).toBe('activated')
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null)
  await context.setOffline(true)
  await page.getByRole('button', { name: 'Add your first site' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Smokehouse')
  await page.getByRole('button', { name: 'Use where I am' }).click()
  await page.getByLabel('Telephone').fill('+351 555 0147')
  await page.getByRole('radio', { name: 'At the sink' }).click()
  await page.getByRole('radio', { name: 'under-sink, two stages' }).click()
  await page.getByLabel('Part number at 1').fill('LT-SED-5')
  await page.getByRole('button', { name: 'Add this site' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Smokehouse' })).toBeVisible()
  await expect(page.getByText(/not sent yet/)).toBeVisible()

  await page.getByRole('button', { name: 'Work here today' }).click()
  await page.getByRole('checkbox', { name: /^1 · Sediment/ }).click()
  await page.getByRole('button', { name: 'Put it on today' }).click()
  await page.getByRole('button', { name: 'Start: measure first' }).click()
  await phone.measure(READINGS)
  await phone.toTheEnd(READINGS)
  await phone.finish()
  expect(await world.query('select 1 from site')).toEqual([])

  await context.setOffline(false)
  await phone.allSent()
  await expect
    .poll(() => world.query('select name, lat, lon, phone from site'))
    .toEqual([{ name: 'Smokehouse', lat: 41.15, lon: -8.61, phone: '+351 555 0147' }])
  expect(await world.query('select outcome from fact_visit_finished')).toEqual([{ outcome: 'done' }])
  expect(await world.query('select count(*)::int as parts from fact_part_fitted')).toEqual([{ parts: 2 }])
  expect(
    await world.query("select s.day = to_char(b.at, 'YYYY-MM-DD') as same from fact_visit_begun b join stop s on s.id = b.stop_id"),
  ).toEqual([{ same: true }])
  expect(taps).toBeLessThanOrEqual(MOST_TAPS)
  process.stdout.write(`taps from an empty server to the first finished visit: ${taps}\n`)
})

test.describe('a firm on a mainland', () => {
  test.use({ ownWorld: 'empty-mainland' })

  test('sites by typed coordinates are planned over estimated ways and published; the day has its map', async ({ desk, world }) => {
    const { page } = desk
    const post = async (path: string, data: object): Promise<void> => {
      const answer = await page.context().request.post(`${world.url}${path}`, { data })
      expect([path, answer.status()]).toEqual([path, 200])
    }
    await post('/api/setup', {
      code: SETUP_CODE,
      firm: {
        name: 'Minho Water',
        timeZone: 'Europe/Lisbon',
        currency: 'EUR',
        gallon: 'us',
        units: { volume: 'L', pressure: 'bar', temperature: 'C' },
      },
      owner: { name: 'Hale Wick', email: 'hale@minho.example', password: 'kelp and tideway' },
      base: { name: 'Workshop', lat: 41.69, lon: -8.83 },
      week: { weekdays: [1, 2, 3, 4, 5], fromMin: 480, toMin: 990 },
    })
    const towns = [
      ['Mouth house', '41.874, -8.862', '2026-04-02'],
      ['River café', '42°01′30″N 8°38′40″W', '2026-03-20'],
      ['Hill farm', '41.77 -8.58', '2026-05-11'],
    ] as const
    for (const [name, position, fitted] of towns) {
      await desk.load('/sites/new')
      await page.getByLabel('Name', { exact: true }).fill(name)
      await page.getByLabel('Where it is').fill(position)
      await page.getByRole('radio', { name: 'At the sink' }).click()
      await page.getByRole('radio', { name: 'under-sink, two stages' }).click()
      await page.getByLabel('Part number at 1').fill('LT-SED-5')
      await page.getByLabel('Fitted at 1').fill(fitted)
      await page.getByLabel('Part number at 2').fill('LT-CB-5')
      await page.getByLabel('Fitted at 2').fill(fitted)
      await page.getByRole('button', { name: 'Add this site' }).click()
      await expect(page.getByRole('heading', { level: 1, name })).toBeVisible()
      await desk.allSent()
    }
    await expect
      .poll(
        async () => (await world.query<{ n: number }>('select count(*)::int as n from stage_forecast where part_number is not null'))[0]?.n,
      )
      .toBe(6)
    const hale = new Planner(desk)
    await hale.open()
    await hale.planAndTake()
    await expect(page.getByTestId('round-summary')).toContainText('everything is scheduled')
    expect(await hale.publish()).toBe(1)
    const stops = await world.query<{ travel_min: number }>('select travel_min from stop order by day, order_no')
    expect(stops.length).toBeGreaterThanOrEqual(3)
    // Over thirty kilometres of road from the workshop to the mouth of the river: nobody is there in five minutes, nor in two hours.
    for (const { travel_min } of stops) expect(travel_min).toBeGreaterThan(5)
    for (const { travel_min } of stops) expect(travel_min).toBeLessThan(120)
  })
})
