// The database's disk runs full under load and has room again: what was acknowledged is counted afterwards. Makes a small file system of its own, as root.
import { execFileSync } from 'node:child_process'
import { closeSync, mkdirSync, mkdtempSync, openSync, rmSync, statfsSync, unlinkSync, writeSync } from 'node:fs'
import { Agent } from 'node:http'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ask, factsOf, placeOfFacts } from './bench-ask.mjs'
import { signIn } from './bench-server.mjs'
import { buildServer } from './build.mjs'
import { ensurePackages, ensurePostgres } from './install.mjs'
import { keepUp } from './keep-up.mjs'
import { SERVER_DIR } from './paths.mjs'
import { PlainError, startPostgres } from './postgres.mjs'
import { prepare, serve } from './server.mjs'

const DISK = '330m'
const LEFT_BYTES = 4 * 2 ** 20
const BATCHES = 600
const BACK_SECONDS = 60
const PIECE = Buffer.alloc(2 ** 16)

/** Fills a file system up to what is to be left. */
function fill(path, left) {
  const file = openSync(path, 'w')
  try {
    for (;;) {
      const { bavail, bsize } = statfsSync(path)
      if (bavail * bsize <= left) break
      writeSync(file, PIECE)
    }
  } finally {
    closeSync(file)
  }
}

export async function run() {
  if (process.getuid?.() !== 0) throw new PlainError('This bench makes a small file system of its own: run it as root.')
  await ensurePostgres()
  await ensurePackages()
  await buildServer()
  const mount = mkdtempSync(join(tmpdir(), 'even-round-full-'))
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK},mode=755`, 'tmpfs', mount])
  const dir = join(mount, 'database')
  mkdirSync(dir)
  const where = { dir, elsewhere: dir, durable: true, more: ['max_wal_size=64MB'] }
  const own = await startPostgres(where)
  const tell = (text) => process.stdout.write(`${text}\n`)
  const kept = keepUp({ name: 'The database', first: own, again: () => startPostgres({ ...where, port: own.port }), tell })
  let server = null
  try {
    const urls = own.createDatabase('even_round')
    await prepare({ ...urls, loadDemo: '1' })
    own.psql('checkpoint')
    server = await serve({ appUrl: urls.appUrl, port: 0, secret: 'for the bench only, never outside of it', showDemo: true })
    const cookie = await signIn(server)
    const { Client } = createRequire(join(SERVER_DIR, 'package.json'))('pg')
    const client = new Client({ connectionString: own.adminUrl.replace('/postgres?', '/even_round?') })
    await client.connect()
    const facts = factsOf(await placeOfFacts(client))
    await client.end()
    fill(join(mount, 'filler'), LEFT_BYTES)
    const agent = new Agent({ keepAlive: true })
    const statuses = new Map()
    const acknowledged = []
    const send = async () => {
      const body = facts()
      const { status } = await ask(agent, server.port, cookie, { method: 'POST', path: '/api/facts', body: () => body })
      statuses.set(status, (statuses.get(status) ?? 0) + 1)
      if (status === 200) acknowledged.push(...body.facts.map(({ id }) => id))
      return status
    }
    for (let batch = 0; batch < BATCHES; batch++) await send()
    const whileFull = [...statuses].map(([status, count]) => `${status} × ${count}`).join(', ')
    unlinkSync(join(mount, 'filler'))
    let seconds = 0
    while ((await send()) !== 200 && seconds++ < BACK_SECONDS) await new Promise((resolve) => setTimeout(resolve, 1000))
    agent.destroy()
    const again = new Client({ connectionString: own.adminUrl.replace('/postgres?', '/even_round?') })
    await again.connect()
    const { rows } = await again.query('select count(*)::int as n from fact_receipt where id = any($1)', [acknowledged])
    await again.end()
    const lost = acknowledged.length - rows[0].n
    const good = lost === 0 && statuses.get(503) > 0 && ![...statuses.keys()].some((status) => status !== 200 && status !== 503)
    tell(`${BATCHES} batches of facts while the disk ran full: ${whileFull}. With room again after ${seconds} s.`)
    tell(`Acknowledged ${acknowledged.length} facts, found ${rows[0].n}: ${lost} lost.\n\nTarget ${good ? 'met' : 'NOT met'}.`)
    return good
  } finally {
    await server?.stop()
    await kept.stop()
    execFileSync('umount', [mount])
    rmSync(mount, { recursive: true, force: true })
  }
}
