// What everyday acts ask of the network and of the database: requests, bytes, statements.
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { gzipSync } from 'node:zlib'
import { withDemo } from './bench-server.mjs'
import { CHROMIUM, ensureChromium } from './install.mjs'
import { ROOT } from './paths.mjs'

const TARGETS = { requests: 1, statements: 12, bytes: 4096 }
/** After so long without a request an act is taken to be over. */
const QUIET_MS = 2500
const COUNTING = ['shared_preload_libraries=pg_stat_statements', 'pg_stat_statements.track=top']

/** Statements the server sent since the last reset, without the queue's own polling. */
async function statements(client) {
  const { rows } = await client.query(
    `select coalesce(sum(calls), 0)::int as n from pg_stat_statements s join pg_roles r on r.oid = s.userid
     where r.rolname = 'evenround_app' and query not ilike '%jobs.%' and query not ilike 'listen %'`,
  )
  return rows[0].n
}

/** Requests to the API of a page, with the bytes that came back over the wire. */
async function watched(page) {
  const seen = new Map()
  const devtools = await page.context().newCDPSession(page)
  await devtools.send('Network.enable')
  let last = performance.now()
  const touch = () => {
    last = performance.now()
  }
  devtools.on('Network.requestWillBeSent', ({ requestId, request }) => {
    const { pathname } = new URL(request.url)
    if (!pathname.startsWith('/api/') || pathname === '/api/live') return
    seen.set(requestId, { path: `${request.method} ${pathname}`, bytes: 0 })
    touch()
  })
  devtools.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const one = seen.get(requestId)
    if (one) one.bytes = encodedDataLength
    touch()
  })
  return {
    /** Counts what an act asks for, until nothing more is asked. */
    async count(client, act) {
      seen.clear()
      await client.query('select pg_stat_statements_reset()')
      touch()
      await act()
      while (performance.now() - last < QUIET_MS) await sleep(100)
      const all = [...seen.values()]
      return {
        requests: all.length,
        bytes: all.reduce((sum, { bytes }) => sum + bytes, 0),
        statements: await statements(client),
        paths: all.map(({ path }) => path),
      }
    },
  }
}

async function measure(client, url) {
  const { chromium } = createRequire(join(ROOT, 'e2e/package.json'))('@playwright/test')
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  })
  try {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
    await context.request.post(`${url}/api/auth/sign-in`, { data: { email: 'tam@fennick.example', password: 'skellan-sound' } })
    const page = await context.newPage()
    const watch = await watched(page)
    const today = await watch.count(client, async () => {
      await page.goto(`${url}/today`)
      await page.getByText('Net loft cottage').first().waitFor()
    })
    await client.query('select pg_stat_statements_reset()')
    const week = await context.request.get(`${url}/api/offline?days=7`)
    const body = await week.body()
    const offline = {
      requests: 1,
      bytes: gzipSync(body).length,
      statements: await statements(client),
      paths: ['GET /api/offline'],
    }
    await page.goto(`${url}/today`)
    await page.getByRole('link', { name: 'Net loft cottage' }).or(page.getByText('Net loft cottage')).first().click()
    await page.getByRole('button', { name: 'Start: measure first' }).click()
    await page.getByLabel('Untreated', { exact: true }).fill('212')
    await page.getByLabel('Treated', { exact: true }).fill('208')
    await page.getByTestId('measured').click()
    const act = page.getByTestId('rung-act')
    await act.waitFor()
    await sleep(QUIET_MS)
    const ticks = []
    for (let step = 0; step < 5; step++) {
      const before = await page.getByText(/^Step \d+ of \d+/).textContent()
      ticks.push(
        await watch.count(client, async () => {
          await act.click()
          await page.getByText(before, { exact: true }).waitFor({ state: 'hidden' })
        }),
      )
    }
    const worst = (key) => Math.max(...ticks.map((one) => one[key]))
    const tick = { requests: worst('requests'), bytes: worst('bytes'), statements: worst('statements'), paths: ticks.at(-1).paths }
    return { today, offline, tick }
  } finally {
    await browser.close()
  }
}

export async function run() {
  await ensureChromium()
  return withDemo(async ({ client, start }) => {
    await client.query('create extension pg_stat_statements')
    const server = await start()
    const { today, offline, tick } = await measure(client, `http://127.0.0.1:${server.port}`)
    process.stdout.write('\n| what | requests | bytes over the wire | statements |\n|---|---|---|---|\n')
    for (const [name, one] of [
      ['a tick (worst of five)', tick],
      ['opening Today, with the week behind it', today],
      ['a week onto the device', offline],
    ])
      process.stdout.write(`| ${name} | ${one.requests} | ${one.bytes} | ${one.statements} |\n`)
    process.stdout.write(`\nOpening Today asked for: ${today.paths.join(', ')}.\nA tick asked for: ${tick.paths.join(', ')}.\n`)
    const good = Object.entries(TARGETS).every(([key, most]) => tick[key] <= most)
    process.stdout.write(
      `Targets of a tick (${TARGETS.requests} request, ${TARGETS.statements} statements, ${TARGETS.bytes} bytes) ${good ? 'met' : 'NOT met'}.\n`,
    )
    return good
  }, COUNTING)
}
