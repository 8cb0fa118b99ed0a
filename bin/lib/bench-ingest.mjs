// Telemetry: 5,000 readings a second in batches of 500, for five minutes with fsync on, counted afterwards.
import { mkdtempSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { buildServer } from './build.mjs'
import { ensurePackages, ensurePostgres } from './install.mjs'
import { SERVER_DIR } from './paths.mjs'
import { startPostgres } from './postgres.mjs'
import { prepare, serve } from './server.mjs'
import { step } from './steps.mjs'

const PER_SECOND = 5000
const BATCH = 500
const SECONDS = Number(process.env.BENCH_SECONDS ?? 300)
const DEVICES = 50
/** One batch in so many is sent twice, one in so many is held back and sent late. */
const TWICE = 20
const LATE = 25

async function signIn(url) {
  const answer = await fetch(`${url}/api/auth/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'isla@fennick.example', password: 'skellan-sound' }),
  })
  return answer.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ')
}

async function addDevices(url, client) {
  const cookie = await signIn(url)
  const systems = (await client.query('select id from system order by id limit $1', [DEVICES])).rows
  const keys = []
  for (let i = 0; i < DEVICES; i++) {
    const answer = await fetch(`${url}/api/devices`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify({
        id: crypto.randomUUID(),
        systemId: systems[i % systems.length].id,
        name: `Counter ${i}`,
        kind: 'pulse-counter',
      }),
    })
    keys.push((await answer.json()).key)
  }
  return keys
}

/** Sends at a steady beat whatever the answers do; an answer that fails is sent again. */
async function flood(url, keys) {
  const sent = { readings: 0, batches: 0, repeats: 0, slowest: 0, behind: 0 }
  const waiting = new Set()
  const held = []
  const send = async (key, readings) => {
    const began = performance.now()
    for (;;) {
      const answer = await fetch(`${url}/api/telemetry`, {
        method: 'POST',
        headers: { authorization: `Device ${key}`, 'content-type': 'application/json' },
        body: JSON.stringify({ readings }),
      }).catch(() => null)
      if (answer?.ok) break
      await sleep(200)
    }
    sent.slowest = Math.max(sent.slowest, performance.now() - began)
  }
  const start = (work) => {
    const one = work.finally(() => waiting.delete(one))
    waiting.add(one)
  }
  const began = performance.now()
  const seqs = new Array(DEVICES).fill(0)
  for (let n = 0; n < (SECONDS * PER_SECOND) / BATCH; n++) {
    const due = began + (n * BATCH * 1000) / PER_SECOND
    const early = due - performance.now()
    if (early > 0) await sleep(early)
    else sent.behind = Math.max(sent.behind, -early)
    const device = n % DEVICES
    const at = Date.now()
    const readings = Array.from({ length: BATCH }, (_, i) => {
      const seq = seqs[device]++
      return { at: new Date(at - (BATCH - i) * 10).toISOString(), seq, value: seq * 0.4 }
    })
    sent.readings += BATCH
    sent.batches++
    if (n % LATE === LATE - 1) held.push([keys[device], readings.reverse()])
    else start(send(keys[device], readings))
    if (n % TWICE === TWICE - 1) {
      sent.repeats++
      start(send(keys[device], readings))
    }
    while (waiting.size > 64) await Promise.race(waiting)
  }
  for (const [key, readings] of held) start(send(key, readings))
  while (waiting.size > 0) await Promise.race(waiting)
  return { ...sent, seconds: (performance.now() - began) / 1000 }
}

export async function run() {
  await ensurePostgres()
  await ensurePackages()
  await step('Build the server', buildServer)
  const folder = mkdtempSync(join(tmpdir(), 'even-round-bench-'))
  const elsewhere = `${folder}-pg`
  const database = await startPostgres({ dir: folder, elsewhere, durable: true })
  const { Client } = createRequire(join(SERVER_DIR, 'package.json'))('pg')
  try {
    const urls = database.createDatabase('even_round')
    await prepare({ ...urls, loadDemo: '1' })
    const admin = new URL(database.adminUrl)
    admin.pathname = '/even_round'
    const client = new Client({ connectionString: admin.toString() })
    await client.connect()
    const fsync = (await client.query('show fsync')).rows[0].fsync
    const server = await serve({ appUrl: urls.appUrl, port: 0, secret: 'for the bench only, never outside of it', showDemo: true })
    try {
      const url = `http://127.0.0.1:${server.port}`
      const sent = await flood(url, await addDevices(url, client))
      const stored = Number((await client.query('select count(*) as n from device_reading')).rows[0].n)
      const inDays = Number((await client.query('select sum(readings) as n from device_day')).rows[0].n)
      const good = stored === sent.readings && inDays === sent.readings && sent.seconds < SECONDS * 1.05
      process.stdout.write(
        `\nTelemetry, fsync ${fsync}, ${DEVICES} devices\n\n| what | measured | target |\n|---|---|---|\n` +
          `| sent | ${sent.readings} readings in ${sent.batches} batches of ${BATCH}, ${sent.seconds.toFixed(1)} s | ${PER_SECOND} a second for ${SECONDS} s |\n` +
          `| stored | ${stored} | all |\n| counted in days | ${inDays} | all |\n` +
          `| batches sent twice, batches sent late and backwards | ${sent.repeats}, ${Math.floor(sent.batches / LATE)} | harmless |\n` +
          `| slowest answer, furthest behind the beat | ${sent.slowest.toFixed(0)} ms, ${sent.behind.toFixed(0)} ms | |\n\nTarget ${good ? 'met' : 'NOT met'}.\n`,
      )
      return good
    } finally {
      await client.end()
      await server.stop()
    }
  } finally {
    await database.stop()
    for (const dir of [folder, elsewhere]) rmSync(dir, { recursive: true, force: true })
  }
}
