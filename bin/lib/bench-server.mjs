import { createHmac, randomBytes } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildApp, buildServer } from './build.mjs'
import { bundled } from './bundle.mjs'
import { ensurePackages, ensurePostgres } from './install.mjs'
import { SERVER_DIR } from './paths.mjs'
import { startPostgres } from './postgres.mjs'
import { prepare, serve } from './server.mjs'
import { step } from './steps.mjs'

const SECRET = 'for the bench only, never outside of it'

/** The demo on a database that syncs to disk, for a bench, with `more` settings; gone afterwards. `work` gets a client past every lock and a way to start the server. */
export async function withDemo(work, more = []) {
  await ensurePostgres()
  await ensurePackages()
  await step('Build the server', buildServer)
  await step('Build the app', buildApp)
  const folder = mkdtempSync(join(tmpdir(), 'even-round-bench-'))
  const elsewhere = `${folder}-pg`
  const database = await startPostgres({ dir: folder, elsewhere, durable: true, more })
  const { Client } = createRequire(join(SERVER_DIR, 'package.json'))('pg')
  let server = null
  try {
    const urls = database.createDatabase('even_round')
    await prepare({ ...urls, loadDemo: '1' })
    const admin = new URL(database.adminUrl)
    admin.pathname = '/even_round'
    const client = new Client({ connectionString: admin.toString() })
    // Ended with its database where the work failed: what failed is said, not this.
    client.on('error', () => undefined)
    await client.connect()
    const start = async (onLine) => {
      server = await serve({ appUrl: urls.appUrl, port: 0, secret: SECRET, showDemo: true, onLine })
      return server
    }
    const good = await work({ client, start })
    await client.end()
    return good
  } finally {
    await server?.stop()
    await database.stop()
    for (const dir of [folder, elsewhere]) rmSync(dir, { recursive: true, force: true })
  }
}

/** Writes more systems into the demo's firm by `fill`, from the module they are made up in; the firm's id. */
async function writeFirm(client, what, fill) {
  const fleet = await bundled('due-fleet')
  const { firm_id: firmId, id: personId } = (await client.query("select firm_id, id from person where email = 'tam@fennick.example'"))
    .rows[0]
  await step(`Write ${what}`, async () => {
    await fill(fleet, firmId, personId)
    await client.query('vacuum analyze')
    return {}
  })
  return firmId
}

/** Fills the demo's firm up to 20,000 systems and a million readings; its id. */
export const writeLargeFirm = (client) =>
  writeFirm(client, '20,000 systems and a million readings', ({ fillFirm }, firmId, personId) =>
    fillFirm(client, firmId, personId, new Date()),
  )

/** Fills the demo's firm up to so many systems at places of its own land, with a dozen more people to drive to them; its id. */
export const writeRoundFirm = (client, systems) =>
  writeFirm(client, `${systems.toLocaleString('en')} systems where somebody drives`, async ({ fillFirm, layOut }, firmId, personId) => {
    await fillFirm(client, firmId, personId, new Date(), systems)
    await layOut(client, firmId)
  })

/** What the bench shows to read the server's metrics. */
export const TOKEN = 'a token for this bench alone'

/** Figures of the server's own metrics, by their names and labels as a pattern. */
export async function metricsOf(port, ...names) {
  const text = await (await fetch(`http://127.0.0.1:${port}/api/metrics`, { headers: { authorization: `Bearer ${TOKEN}` } })).text()
  return names.map((name) => Number(new RegExp(`^${name} (\\S+)`, 'm').exec(text)?.[1]))
}

/** How long the thread that answers was kept from its work since this was asked last, ms. */
export async function eventLoopOf(port) {
  const [p99, most] = await metricsOf(port, 'nodejs_eventloop_lag_p99_seconds', 'nodejs_eventloop_lag_max_seconds')
  return { p99: 1000 * p99, most: 1000 * most }
}

/** Resident memory of a process, MB. */
export const memoryOf = (pid) => Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024)

/** Signs the demo's owner in; the cookie. */
export async function signIn(server) {
  const answer = await fetch(`http://127.0.0.1:${server.port}/api/auth/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'isla@fennick.example', password: 'skellan-sound' }),
  })
  return answer.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ')
}

/** So many more sign-ins like that of a cookie: each device has its own, which the server looks up by itself. */
export async function moreSignIns(client, cookie, count) {
  const [name, signed] = cookie
    .split('; ')
    .find((one) => one.includes('session_token'))
    .split('=')
  const [token] = decodeURIComponent(signed).split('.')
  const columns = ['expires_at', 'created_at', 'updated_at', 'ip_address', 'user_agent', 'user_id', 'firm_id'].join(', ')
  const tokens = Array.from({ length: count }, () => randomBytes(24).toString('hex'))
  await client.query(
    `insert into auth_session (id, token, ${columns}) select gen_random_uuid(), t, ${columns} from auth_session, unnest($2::text[]) t where token = $1`,
    [token, tokens],
  )
  return tokens.map((one) => `${name}=${encodeURIComponent(`${one}.${createHmac('sha256', SECRET).update(one).digest('base64')}`)}`)
}
