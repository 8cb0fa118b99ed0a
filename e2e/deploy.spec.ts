import { type ChildProcess, spawn } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { Agent, request } from 'node:https'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort } from '../bin/lib/postgres.mjs'
import { type RunningServer, serve } from '../bin/lib/server.mjs'
import { asAdmin, named, urls } from './databases'
import { expect, test } from './world'

/** What deploy/ sets up, on loopback: two server processes behind Caddy, with certificates of an authority of this machine's own. */
test.describe.configure({ mode: 'serial' })

const CADDYFILE = join(import.meta.dirname, '../deploy/Caddyfile')
const METRICS_TOKEN = 'a token for the metrics'
const secret = randomBytes(32).toString('hex')
const database = `d_${randomBytes(6).toString('hex')}`
const folder = mkdtempSync(join(tmpdir(), 'even-round-deploy-'))
let caddy: ChildProcess
let port = 0
let ports: number[] = []
const processes: RunningServer[] = []

const serverAt = (at: number): Promise<RunningServer> =>
  serve({
    appUrl: named(urls().appUrl, database),
    port: at,
    secret,
    showDemo: false,
    publicUrl: `https://localhost:${port}`,
    more: { TRUSTED_PROXIES: '127.0.0.1', DRAIN_SECONDS: '2', METRICS_TOKEN },
  })

interface Answer {
  status: number
  headers: Record<string, string | string[] | undefined>
  body: string
}
let agent: Agent
/** Asks through the proxy, holding its certificate against the authority's. */
function ask(
  path: string,
  { method = 'GET', cookie = '', json }: { method?: string; cookie?: string; json?: unknown } = {},
): Promise<Answer> {
  const headers = { cookie, ...(json === undefined ? {} : { 'content-type': 'application/json', origin: `https://localhost:${port}` }) }
  return new Promise((resolve, reject) => {
    const asked = request({ agent, host: 'localhost', port, path, method, headers }, (answer) => {
      let body = ''
      answer.on('data', (chunk) => {
        body += String(chunk)
      })
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, body }))
      answer.on('error', reject)
    })
    asked.on('error', reject)
    asked.end(json === undefined ? undefined : JSON.stringify(json))
  })
}

test.beforeAll(async () => {
  await asAdmin(`create database ${database} owner evenround_owner template er_demo strategy file_copy`)
  port = await freePort()
  ports = [await freePort(), await freePort()]
  for (const at of ports) processes.push(await serverAt(at))
  caddy = spawn('/usr/bin/caddy', ['run', '--config', CADDYFILE, '--adapter', 'caddyfile'], {
    env: {
      ...process.env,
      HOME: folder,
      XDG_DATA_HOME: folder,
      XDG_CONFIG_HOME: folder,
      EVEN_ROUND_SITE: `localhost:${port}`,
      EVEN_ROUND_TLS: 'internal',
      EVEN_ROUND_PROCESSES: ports.map((at) => `127.0.0.1:${at}`).join(' '),
      EVEN_ROUND_HTTP_PORT: String(await freePort()),
      CADDY_ADMIN: 'off',
    },
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  let said = ''
  caddy.stderr?.on('data', (chunk) => {
    said = (said + String(chunk)).slice(-4000)
  })
  const root = join(folder, 'caddy/pki/authorities/local/root.crt')
  // It is there before all of it is written.
  await expect.poll(() => existsSync(root) && readFileSync(root, 'utf8').includes('END CERTIFICATE'), { message: said }).toBe(true)
  agent = new Agent({ ca: readFileSync(root), keepAlive: true, maxSockets: 16 })
  await expect.poll(() => ask('/api/ready').then(({ status }) => status, String)).toBe(200)
})
test.afterAll(async () => {
  agent.destroy()
  caddy.kill('SIGTERM')
  for (const one of processes) await one.stop()
  await asAdmin(`drop database ${database} with (force)`)
  rmSync(folder, { recursive: true, force: true })
})

async function signedIn(): Promise<string> {
  const answer = await ask('/api/auth/sign-in', { method: 'POST', json: { email: 'tam@fennick.example', password: 'skellan-sound' } })
  expect([answer.status, answer.body]).toEqual([200, expect.any(String)])
  const cookies = [answer.headers['set-cookie'] ?? []].flat()
  expect(cookies.length).toBeGreaterThan(0)
  for (const cookie of cookies) expect(cookie).toMatch(/; Secure/i)
  return cookies.map((cookie) => cookie.split(';')[0]).join('; ')
}

test('people reach it by TLS alone; who they are is the same in either process', async () => {
  const cookie = await signedIn()
  for (let times = 0; times < 6; times++) expect((await ask('/api/me', { cookie })).status).toBe(200)
  const page = await ask('/')
  expect(page.headers['strict-transport-security']).toMatch(/max-age=31536000/)
  expect(page.headers.server).toBeUndefined()
  expect((await ask('/api/metrics')).status).toBe(404)
  const direct = await fetch(`http://127.0.0.1:${ports[0]}/api/metrics`, { headers: { authorization: `Bearer ${METRICS_TOKEN}` } })
  expect(await direct.text()).toMatch(/nodejs_eventloop_lag_p99_seconds[\s\S]*even_round_last_good_backup_seconds 0\n/)
})

/** Asks without a pause, from eight sides, until told to stop; how each was answered. */
function work(cookie: string): { answered: () => number; stop: () => Promise<Map<string, number>> } {
  const answers = new Map<string, number>()
  let going = true
  const one = async () => {
    while (going) {
      const how = await ask('/api/today', { cookie }).then(
        ({ status }) => String(status),
        (error: Error) => error.message,
      )
      answers.set(how, (answers.get(how) ?? 0) + 1)
    }
  }
  const all = Array.from({ length: 8 }, one)
  return {
    answered: () => answers.get('200') ?? 0,
    stop: async () => {
      going = false
      await Promise.all(all)
      return answers
    },
  }
}

test('a new release goes in process by process and nobody is turned away', async () => {
  const cookie = await signedIn()
  const people = work(cookie)
  for (const [index, at] of ports.entries()) {
    const old = processes[index] as RunningServer
    const ended = old.stop()
    // It says that it wants nothing new while it still answers.
    await expect.poll(async () => (await fetch(`http://127.0.0.1:${at}/api/ready`)).status).toBe(503)
    expect((await fetch(`http://127.0.0.1:${at}/api/sign-in-hints`)).status).toBe(200)
    await ended
    processes[index] = await serverAt(at)
    await expect.poll(async () => (await fetch(`http://127.0.0.1:${at}/api/ready`)).status).toBe(200)
  }
  const before = people.answered()
  await expect.poll(people.answered).toBeGreaterThan(before + 20)
  expect([...(await people.stop()).keys()]).toEqual(['200'])
})

test('a process that is killed takes only what it was answering with it', async () => {
  const cookie = await signedIn()
  const people = work(cookie)
  await expect.poll(people.answered).toBeGreaterThan(10)
  const killed = processes[0] as RunningServer
  process.kill(killed.pid, 'SIGKILL')
  await killed.ended
  const before = people.answered()
  await expect.poll(people.answered).toBeGreaterThan(before + 10)
  processes[0] = await serverAt(ports[0] as number)
  const answers = await people.stop()
  const lost = [...answers].filter(([how]) => how !== '200').reduce((sum, [, times]) => sum + times, 0)
  // Eight were asking at that moment, and none of them more than once.
  expect(lost).toBeLessThanOrEqual(8)
  expect((await ask('/api/me', { cookie })).status).toBe(200)
})
