// The round of a firm with 20,000 systems and forty technicians, planned by the server in worker threads, with a kill in the middle.
import { mkdtempSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { buildApp, buildServer } from './build.mjs'
import { bundled } from './bundle.mjs'
import { ensurePackages, ensurePostgres } from './install.mjs'
import { SERVER_DIR } from './paths.mjs'
import { startPostgres } from './postgres.mjs'
import { prepare, serve } from './server.mjs'
import { step } from './steps.mjs'

const SYSTEMS = 20_000
const TARGET_SECONDS = 300
const RUN = '01900000-0000-7000-8000-000000000001'

async function begin(server, setId) {
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
  const answer = await fetch(`${url}/api/round/runs`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify({ id: RUN, setId }),
  })
  if (!answer.ok) throw new Error(await answer.text())
}

export async function run() {
  await ensurePostgres()
  await ensurePackages()
  await step('Build the server', buildServer)
  await step('Build the app', buildApp)
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
    const { writeSet, check } = await bundled('bench-firm')
    const { firm_id: firmId } = (await client.query("select firm_id from person where email = 'isla@fennick.example'")).rows[0]
    const { setId, visits } = await writeSet(client, firmId, SYSTEMS)
    const start = () => serve({ appUrl: urls.appUrl, port: 0, secret: 'for the bench only, never outside of it', showDemo: true })
    const state = async () => (await client.query('select state, share, message from round_run where id = $1', [RUN])).rows[0]
    server = await start()
    const began = performance.now()
    await begin(server, setId)
    while (((await state())?.share ?? 0) < 0.4) await sleep(500)
    process.kill(server.pid, 'SIGKILL')
    await server.ended
    const killedAt = (await state()).share
    const killedAfter = (performance.now() - began) / 1000
    server = await start()
    for (let now = await state(); now.state !== 'done'; now = await state()) {
      if (now.state === 'failed') throw new Error(now.message)
      await sleep(500)
    }
    const seconds = (performance.now() - began) / 1000
    const { broken, unplanned, cost, days, travel } = await check(client, firmId, RUN)
    await client.end()
    const good = seconds < TARGET_SECONDS && broken === 0
    process.stdout.write(
      `\n${SYSTEMS} systems, ${visits} visits of the quarter, 40 technicians: killed after ${killedAfter.toFixed(0)} s at ${Math.round(100 * killedAt)} %, done after ${seconds.toFixed(0)} s in all (target ${TARGET_SECONDS} s), start and wait for the killed worker included\n${days} technician-days, ${broken} broken rules, ${unplanned} unplanned, ${Math.round(travel / 60)} h of driving, cost ${Math.round(cost)}\n\nTarget ${good ? 'met' : 'NOT met'}.\n`,
    )
    return good
  } finally {
    await server?.stop()
    await database.stop()
    for (const dir of [folder, elsewhere]) rmSync(dir, { recursive: true, force: true })
  }
}
