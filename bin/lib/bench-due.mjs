// Twenty thousand systems with a million readings: the list of all that is due, and a fleet's forecasts made anew with a kill in the middle.
import { mkdtempSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { buildServer } from './build.mjs'
import { bundled } from './bundle.mjs'
import { ensurePackages, ensurePostgres } from './install.mjs'
import { SERVER_DIR } from './paths.mjs'
import { startPostgres } from './postgres.mjs'
import { prepare, serve } from './server.mjs'
import { step } from './steps.mjs'

const ASKED = 100
const TARGET_MS = 150
const QUERIES = [
  ['by date, first page', '/api/due?limit=200'],
  ['by date, overdue on one island', '/api/due?limit=200&island=Thrawn&until='],
  ['by risk, above 50 %', '/api/due?limit=200&sort=risk&risk=50&until='],
  ['by place, due in four weeks', '/api/due?limit=200&sort=place&until='],
  ['part of a name', '/api/due?limit=200&text=House%20123'],
]
const at = (values, share) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))]
const isoIn = (days) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10)

async function stale(client) {
  return Number((await client.query('select count(*) as n from stale_stage')).rows[0].n)
}

async function refresh(client, start, firmId) {
  await client.query(
    'insert into stale_stage (firm_id, stage_id, marked_at) select firm_id, id, now() from stage where firm_id = $1 on conflict do nothing',
    [firmId],
  )
  const all = await stale(client)
  const began = performance.now()
  let server = await start()
  while ((await stale(client)) > all * 0.6) await sleep(200)
  process.kill(server.pid, 'SIGKILL')
  await server.ended
  const killedAt = await stale(client)
  server = await start()
  for (let left = await stale(client); left > 0; left = await stale(client)) await sleep(500)
  const seconds = (performance.now() - began) / 1000
  const made = Number((await client.query('select count(*) as n from stage_forecast where firm_id = $1', [firmId])).rows[0].n)
  process.stdout.write(
    `\n${all} stages marked; killed with ${killedAt} to go; all ${made} forecasts stored after ${seconds.toFixed(1)} s (${Math.round(all / seconds)} a second, two starts included)\n`,
  )
  return server
}

async function ask(server) {
  const url = `http://127.0.0.1:${server.port}`
  const signIn = await fetch(`${url}/api/auth/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'isla@fennick.example', password: 'skellan-sound' }),
  })
  const cookie = signIn.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ')
  process.stdout.write(`\n| list | rows | median | 95 % | target |\n|---|---|---|---|---|\n`)
  let good = true
  for (const [name, path] of QUERIES) {
    const full = path.endsWith('until=') ? path + isoIn(name.includes('four') ? 28 : 0) : path
    const times = []
    let total = 0
    for (let run = 0; run < ASKED; run++) {
      const began = performance.now()
      const answer = await fetch(url + full, { headers: { cookie } })
      const body = await answer.json()
      times.push(performance.now() - began)
      total = body.total
    }
    good &&= at(times, 0.95) < TARGET_MS
    process.stdout.write(`| ${name} | ${total} | ${at(times, 0.5).toFixed(0)} ms | ${at(times, 0.95).toFixed(0)} ms | ${TARGET_MS} ms |\n`)
  }
  return good
}

export async function run() {
  await ensurePostgres()
  await ensurePackages()
  await step('Build the server', buildServer)
  const folder = mkdtempSync(join(tmpdir(), 'even-round-bench-'))
  const elsewhere = `${folder}-pg`
  const database = await startPostgres({ dir: folder, elsewhere, durable: true })
  const { Client } = createRequire(join(SERVER_DIR, 'package.json'))('pg')
  let server = null
  try {
    const urls = database.createDatabase('even_round')
    await prepare({ ...urls, loadDemo: '1' })
    const admin = new URL(database.adminUrl)
    admin.pathname = '/even_round'
    const client = new Client({ connectionString: admin.toString() })
    await client.connect()
    const { fillFirm } = await bundled('due-fleet')
    const { firm_id: firmId, id: personId } = (await client.query("select firm_id, id from person where email = 'tam@fennick.example'"))
      .rows[0]
    await step('Write 20,000 systems and a million readings', async () => {
      await fillFirm(client, firmId, personId, new Date())
      await client.query('analyze')
      return {}
    })
    const start = () => serve({ appUrl: urls.appUrl, port: 0, secret: 'for the bench only, never outside of it', showDemo: true })
    server = await refresh(client, start, firmId)
    await client.query('analyze stage_forecast')
    const good = await ask(server)
    await client.end()
    process.stdout.write(`\nTarget ${good ? 'met' : 'NOT met'}.\n`)
    return good
  } finally {
    await server?.stop()
    await database.stop()
    for (const dir of [folder, elsewhere]) rmSync(dir, { recursive: true, force: true })
  }
}
