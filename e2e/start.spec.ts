import { type ChildProcess, execFileSync, spawn } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { join } from 'node:path'
import { asAdmin, named, urls } from './databases'
import { expect, test } from './world'

/** The first command of the README on somebody's own database; the app and the server are built already. */
const START = join(import.meta.dirname, '../bin/start')

interface Run {
  child: ChildProcess
  output: () => string
  ended: Promise<number | null>
  /** The address it serves at. */
  address: () => Promise<string>
}

function start(args: string[], env: Record<string, string>): Run {
  const child = spawn(START, args, { env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] })
  let text = ''
  const keep = (chunk: Buffer): void => {
    text += String(chunk)
  }
  child.stdout.on('data', keep)
  child.stderr.on('data', keep)
  const ended = new Promise<number | null>((resolve) => child.on('exit', resolve))
  // As long as it takes: to load a demo on a busy machine takes minutes.
  const ready = new Promise<void>((resolve) => child.stdout.on('data', () => text.includes('Ctrl-C stops everything') && resolve()))
  const address = async (): Promise<string> => {
    await Promise.race([ready, ended])
    expect(text).toContain('Ctrl-C stops everything')
    return /http:\/\/127\.0\.0\.1:\d+/.exec(text)?.[0] ?? ''
  }
  return { child, output: () => text, ended, address }
}

let database = ''
test.beforeEach(async () => {
  database = `s_${randomBytes(6).toString('hex')}`
  await asAdmin(`create database ${database} owner evenround_owner`)
})
test.afterEach(() => asAdmin(`drop database ${database} with (force)`))

test('a superuser’s DATABASE_URL is refused with the remedy, and nothing is made in it', async () => {
  const run = start([], { DATABASE_URL: named(urls().adminUrl, database) })
  expect(await run.ended).toBe(1)
  expect(run.output()).toContain('superuser')
  expect(run.output()).toContain('create role evenround_owner')
  expect(run.output()).not.toContain(' at ')
})

test('on a DATABASE_URL no demo is loaded and no password shown; Ctrl-C stops the server', async ({ request }) => {
  const run = start([], { DATABASE_URL: named(urls().appUrl, database), DATABASE_OWNER_URL: named(urls().ownerUrl, database) })
  const address = await run.address()
  const health = await request.get(`${address}/api/health`)
  expect(await health.json()).toEqual({ ok: true })
  // An idle connection outlives the minute for which whoever asks takes it for open.
  expect(health.headers()['keep-alive']).toBe('timeout=75')
  expect(await (await request.get(`${address}/api/sign-in-hints`)).json()).toEqual({ people: [], setUp: true })
  // A server that is killed is back at the same address, and it is said.
  const server = execFileSync('pgrep', ['-f', '-P', String(run.child.pid), 'main.mjs'], { encoding: 'utf8' }).trim()
  process.kill(Number(server), 'SIGKILL')
  await expect.poll(run.output).toContain('The server ended by itself (SIGKILL). Starting it again in 1 s.')
  await expect.poll(run.output).toContain('The server is back.')
  expect((await request.get(`${address}/api/health`)).status()).toBe(200)
  // Nobody is in it: the code for the first firm is printed, and nothing is to be had without it.
  expect(run.output()).toMatch(/Set up your firm at \S+\/set-up with the code [2-9A-Z]{4}-[2-9A-Z]{4}-[2-9A-Z]{4}/)
  expect((await request.post(`${address}/api/setup`, { data: {} })).status()).toBe(400)
  expect(
    (await request.post(`${address}/api/auth/sign-in`, { data: { email: 'tam@fennick.example', password: 'skellan-sound' } })).status(),
  ).toBe(401)
  expect(run.output()).not.toContain('skellan-sound')
  run.child.kill('SIGINT')
  expect(await run.ended).toBe(0)
  await expect(request.get(`${address}/api/health`)).rejects.toThrow()
})

test('--demo loads the demo there; the role that owns the tables takes on the server’s role', async ({ request }) => {
  const run = start(['--demo'], { DATABASE_URL: named(urls().ownerUrl, database) })
  const address = await run.address()
  expect(
    (await request.post(`${address}/api/auth/sign-in`, { data: { email: 'tam@fennick.example', password: 'skellan-sound' } })).status(),
  ).toBe(200)
  expect(((await (await request.get(`${address}/api/today`)).json()) as { stops: unknown[] }).stops).toHaveLength(5)
  run.child.kill('SIGINT')
  expect(await run.ended).toBe(0)
})

test('wrong words are answered with the right ones', async () => {
  const port = start(['--port', 'seven'], {})
  expect(await port.ended).toBe(1)
  expect(port.output()).toContain('--port wants a whole number from 1 to 65535, got seven')
  const word = start(['--portt', '7'], {})
  expect(await word.ended).toBe(2)
  expect(word.output()).toContain('--fresh')
  const fresh = start(['--fresh'], { DATABASE_URL: named(urls().ownerUrl, database) })
  expect(await fresh.ended).toBe(1)
  expect(fresh.output()).toContain('never touches the one of DATABASE_URL')
})
