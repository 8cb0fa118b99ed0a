import { randomBytes } from 'node:crypto'
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { connect, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import { serve } from '../bin/lib/server.mjs'
import { asAdmin, named, query, urls } from './databases'
import { expect, opened, type Page, test, type World } from './world'

/** Whatever breaks, nothing that was recorded is lost, and nothing stands there half. */
test.use({ ownWorld: 'faults' })

const READINGS = { untreated: '212', treated: '210' }
const BOATYARD = { untreated: '181', treated: '4' }
const ofSite = (world: World, table: string, site: string): Promise<{ n: number }[]> =>
  world.query(
    `select count(*)::int as n from ${table} f join site on site.id = f.site_id where site.name = $1 and f.at > test_clock() - interval '10 minutes'`,
    [site],
  )

async function quota(page: Page, url: string, bytes?: number): Promise<void> {
  const devtools = await page.context().newCDPSession(page)
  await devtools.send('Storage.overrideQuotaForOrigin', { origin: url, ...(bytes === undefined ? {} : { quotaSize: bytes }) })
}

test('a device without room says so, goes on, and sends what it could not keep', async ({ phone, world }) => {
  const { page } = phone
  // From the first page on: Chromium remembers for a while how much room there was.
  await quota(page, world.url, 1)
  await phone.signIn()
  await phone.openStop('Net loft cottage')
  await page.getByRole('button', { name: 'Start: measure first' }).click()
  await phone.measure(READINGS)
  await expect.poll(() => ofSite(world, 'fact_tds_reading', 'Net loft cottage')).toEqual([{ n: 2 }])
  await world.stopServer()
  await phone.step(READINGS)
  await phone.step(READINGS)
  await expect(page.getByRole('alert').filter({ hasText: /no room left. 2 records stand in this page alone/ })).toBeVisible()
  await world.startServer()
  await expect.poll(() => ofSite(world, 'fact_step_done', 'Net loft cottage')).toEqual([{ n: 2 }])
  await expect(page.getByRole('alert').filter({ hasText: 'without a network, nothing recorded would be kept' })).toBeVisible()
  await quota(page, world.url)
  await phone.step(READINGS)
  await expect(page.getByText('no room left')).toBeHidden()
  await expect.poll(() => ofSite(world, 'fact_step_done', 'Net loft cottage')).toEqual([{ n: 3 }])
})

test('a page that dies while it writes leaves all of what was recorded, or nothing', async ({ browser, world }) => {
  const context = await browser.newContext()
  const first = await opened(await context.newPage(), world, 'phone')
  await first.signIn('wren@fennick.example')
  for (const [site, waitMs] of [
    ['Choir school boarding house', 0],
    ['Weaving mill', 200],
  ] as const) {
    const phone = await opened(await context.newPage(), world, 'phone')
    const [stop] = await world.query<{ id: string }>('select stop.id from stop join site on site.id = stop.site_id where site.name = $1', [
      site,
    ])
    await phone.load(`/stop/${stop?.id}`)
    await phone.page.getByRole('button', { name: 'Start: measure first' }).click()
    await phone.typeReadings(READINGS)
    const devtools = await context.newCDPSession(phone.page)
    const died = new Promise((resolve) => phone.page.on('crash', resolve))
    await phone.page.evaluate((ms) => {
      ;(document.querySelector('[data-testid=measured]') as HTMLElement).click()
      const until = performance.now() + ms
      while (performance.now() < until);
    }, waitMs)
    devtools.send('Page.crash').catch(() => undefined)
    await died
    const again = await opened(await context.newPage(), world, 'phone')
    await again.load('/today')
    await again.allSent()
    // Two waters are one record: both of them, or neither.
    const [{ n = -1 } = {}] = await ofSite(world, 'fact_tds_reading', site)
    expect([0, 2]).toContain(n)
    await again.page.close()
  }
  await context.close()
})

test.describe('the program on the device', () => {
  test.use({ keepsProgram: true })

  test('a newer program comes in over a full outbox: all of it is sent, once', async ({ page }) => {
    const database = `f_${randomBytes(6).toString('hex')}`
    await asAdmin(`create database ${database} owner evenround_owner template er_demo strategy file_copy`)
    const folder = mkdtempSync(join(tmpdir(), 'even-round-app-'))
    cpSync(join(import.meta.dirname, '../apps/app/dist'), folder, { recursive: true })
    const counted = async (): Promise<number> => {
      const [row] = await query<{ n: number }>(named(urls().adminUrl, database), 'select count(*)::int as n from fact_tds_reading')
      return row?.n ?? -1
    }
    const how = {
      appUrl: named(urls().appUrl, database),
      secret: 'of this one test alone, 32 signs',
      showDemo: true,
      more: { APP_DIR: folder },
    }
    let server = await serve({ ...how, port: 0 })
    try {
      const phone = await opened(page, { url: `http://127.0.0.1:${server.port}` } as World, 'phone')
      await phone.signIn()
      await phone.openStop('Net loft cottage')
      await page.getByRole('button', { name: 'Start: measure first' }).click()
      await phone.onDevice()
      await phone.measure(READINGS)
      await phone.allSent()
      const before = await counted()
      // The server takes no records for a while: what is recorded from here on waits on the device.
      const holder = new pg.Client({ connectionString: named(urls().adminUrl, database) })
      await holder.connect()
      await holder.query('begin')
      await holder.query('lock table fact_receipt in access exclusive mode')
      await phone.step(READINGS)
      const added = await page.evaluate(async (many) => {
        const open = await new Promise<IDBDatabase>((resolve, reject) => {
          const asked = indexedDB.open('even-round')
          asked.onsuccess = () => resolve(asked.result)
          asked.onerror = () => reject(asked.error)
        })
        const store = open.transaction('outbox', 'readwrite').objectStore('outbox')
        const all = await new Promise<{ fact: { id: string; kind: string; seq: number }; state: string }[]>((resolve) => {
          const asked = store.getAll()
          asked.onsuccess = () => resolve(asked.result)
        })
        const one = all.find(({ fact }) => fact.kind === 'tds-reading')
        if (!one) return 0
        for (let index = 0; index < many; index++) {
          const id = crypto.randomUUID()
          store.put({ ...one, state: 'waiting', fact: { ...one.fact, id, seq: 10_000 + index } }, id)
        }
        return many
      }, 350)
      expect(added).toBe(350)
      await server.stop()
      // Another program: its files and its worker are not those the device has.
      writeFileSync(join(folder, 'sw.js'), `// the next version\n${'//'.padEnd(40, 'x')}\n`, { flag: 'a' })
      rmSync(join(folder, 'sw.js.br'), { force: true })
      rmSync(join(folder, 'sw.js.gz'), { force: true })
      server = await serve({ ...how, port: server.port })
      await phone.load('/today')
      await page.getByRole('button', { name: 'A newer version is ready. Tap to update.' }).click()
      await expect(page.getByRole('button', { name: 'A newer version is ready. Tap to update.' })).toBeHidden()
      const waiting = await phone.waiting()
      expect(waiting).toBeGreaterThanOrEqual(350)
      await holder.query('rollback')
      await holder.end()
      await phone.allSent()
      expect((await counted()) - before).toBe(350)
    } finally {
      await server.stop()
      await asAdmin(`drop database ${database} with (force)`)
      rmSync(folder, { recursive: true, force: true })
    }
  })
})

test('a database that hangs keeps nothing half: who asks is told to wait, and what is recorded comes in once', async ({ phone, world }) => {
  const { page } = phone
  await phone.signIn()
  await phone.openStop('Boatyard wash-down')
  await page.getByRole('button', { name: 'Start: measure first' }).click()
  await phone.measure(BOATYARD)
  await phone.allSent()
  const [before] = await ofSite(world, 'fact_step_done', 'Boatyard wash-down')
  const { adminUrl } = urls()
  const [{ name = '' } = {}] = await world.query<{ name: string }>('select current_database() as name')
  const holder = new pg.Client({ connectionString: named(adminUrl, name) })
  await holder.connect()
  await holder.query('begin')
  await holder.query('lock table fact_step_done, fact_receipt in access exclusive mode')
  await phone.step(BOATYARD)
  await phone.step(BOATYARD)
  // Longer than a statement may take.
  await expect(page.getByRole('status').filter({ hasText: /2 not sent yet/ })).toBeVisible()
  expect((await page.request.get(`${world.url}/api/health`)).status()).toBe(200)
  await holder.query('rollback')
  await holder.end()
  await expect(page.getByText(/not sent yet/)).toBeHidden()
  expect(await ofSite(world, 'fact_step_done', 'Boatyard wash-down')).toEqual([{ n: (before?.n ?? 0) + 2 }])
})

test.describe('at the door', () => {
  // Whoever signs in from the strangers' address is turned away for a minute.
  test.use({ ownWorld: 'strangers' })

  test('three hundred slow strangers keep nobody waiting', async ({ phone, world }) => {
    await phone.signIn()
    const { hostname, port } = new URL(world.url)
    const slow: Socket[] = []
    for (let index = 0; index < 300; index++) {
      const socket = connect(Number(port), hostname)
      socket.on('error', () => undefined)
      const head = `POST /api/auth/sign-in HTTP/1.1\r\nhost: ${hostname}\r\ncontent-type: application/json\r\ncontent-length: 4000\r\n\r\n{"email"`
      // Some never end their headers, some never end what they send.
      socket.write(index % 2 === 0 ? head : head.slice(0, 60))
      slow.push(socket)
    }
    const dribble = setInterval(() => {
      for (const socket of slow) socket.write(' ')
    }, 200)
    try {
      for (const path of ['/api/today', '/api/sites', '/api/me'])
        expect((await phone.page.request.get(`${world.url}${path}`)).status()).toBe(200)
      await phone.load('/sites')
      await expect(phone.page.getByRole('heading', { level: 1, name: 'Sites' })).toBeVisible()
    } finally {
      clearInterval(dribble)
      for (const socket of slow) socket.destroy()
    }
  })
})
