// Prepares a database and runs the built server on it.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { APP_DIST, CLOCK, SERVER_DIR, SERVER_DIST } from './paths.mjs'
import { PlainError } from './postgres.mjs'
import { quietly } from './steps.mjs'

const node = process.execPath
/** Every process of the program takes its clock from the environment (see clock.cjs). */
const run = (name) => ['--require', CLOCK, join(SERVER_DIST, name)]
/** Room for what lives only as long as its request, so that it is not moved about while it waits (as in deploy/even-round@.service). */
const YOUNG = '--max-semi-space-size=32'
const clockAhead = () => Number(process.env.EVEN_ROUND_CLOCK_AHEAD_MS ?? 0)

/** Migrates, and loads the demo where asked; resolves with what was found and done. */
export async function prepare({ appUrl, ownerUrl, loadDemo }) {
  const env = { ...process.env, DATABASE_URL: appUrl, LOAD_DEMO: loadDemo }
  if (ownerUrl) env.DATABASE_OWNER_URL = ownerUrl
  else delete env.DATABASE_OWNER_URL
  try {
    const output = await quietly(node, run('prepare.mjs'), { cwd: SERVER_DIR, env })
    return JSON.parse(output.trim().split('\n').at(-1))
  } catch (error) {
    // The remedy is in the message of the error; its stack is of no use to whoever starts the program.
    const told = /Error: ((?:DATABASE_URL|The database role|The role)[\s\S]*?)\n\s+at /.exec(error.message)
    throw told ? new PlainError(told[1]) : error
  }
}

/** Starts the server and waits until it answers. With `clockMoves` its clock can be moved while it runs. */
export async function serve({
  appUrl,
  asAppRole = false,
  port,
  secret,
  showDemo,
  setupCode,
  publicUrl,
  clockMoves = false,
  more = {},
  onLine,
}) {
  const env = {
    ...process.env,
    DATABASE_URL: appUrl,
    DATABASE_AS_APP_ROLE: asAppRole ? '1' : '0',
    PORT: String(port),
    AUTH_SECRET: secret,
    APP_DIR: APP_DIST,
    SHOW_DEMO: showDemo ? '1' : '0',
    ...(setupCode ? { SETUP_CODE: setupCode } : {}),
    ...(publicUrl && !process.env.PUBLIC_URL ? { PUBLIC_URL: publicUrl } : {}),
    NODE_ENV: 'production',
    EVEN_ROUND_CLOCK_AHEAD_MS: String(clockAhead()),
    EVEN_ROUND_CLOCK_MOVES: clockMoves ? '1' : '0',
    ...more,
  }
  const child = spawn(node, [YOUNG, ...run('main.mjs')], {
    cwd: SERVER_DIR,
    env,
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe', ...(clockMoves ? ['ipc'] : [])],
  })
  const ended = new Promise((resolve) => child.on('exit', (code, signal) => resolve(code ?? signal)))
  let complaints = ''
  child.stderr.on('data', (chunk) => {
    complaints = (complaints + chunk).slice(-4000)
    onLine?.(String(chunk))
  })
  const listening = new Promise((resolve) => {
    let rest = ''
    child.stdout.on('data', (chunk) => {
      rest += chunk
      const lines = rest.split('\n')
      rest = lines.pop() ?? ''
      for (const line of lines) {
        onLine?.(line)
        if (line.includes('"event":"listening"')) resolve(JSON.parse(line).port)
      }
    })
  })
  const failed = ended.then((code) => {
    const told = /Error: (The database role[\s\S]*?)\n\s+at /.exec(complaints)
    throw new PlainError(told ? told[1] : `The server ended with ${code} while starting:\n${complaints}`)
  })
  const tooLong = sleep(30_000, undefined, { ref: false }).then(() => {
    throw new PlainError(`The server did not start within 30 s:\n${complaints}`)
  })
  const actual = await Promise.race([listening, failed, tooLong])
  failed.catch(() => undefined)
  return {
    port: actual,
    pid: child.pid,
    ended,
    /** From now on it runs this much ahead of its own beginning. */
    async moveClock(aheadMs) {
      const followed = new Promise((resolve) => child.once('message', resolve))
      child.send({ clockAheadMs: clockAhead() + aheadMs })
      await followed
    },
    async stop() {
      if (child.exitCode === null) child.kill('SIGTERM')
      await ended
    },
  }
}

/** The demo's counters and controllers, which report to the server by its own door until they are stopped. */
export function serveDemoDevices({ url, demoDay }) {
  const env = {
    PATH: process.env.PATH,
    EVEN_ROUND_URL: url,
    DEMO_DAY: demoDay,
    NODE_ENV: 'production',
    EVEN_ROUND_CLOCK_AHEAD_MS: String(clockAhead()),
  }
  const child = spawn(node, run('demo-devices.mjs'), {
    cwd: SERVER_DIR,
    env,
    detached: true,
    stdio: 'ignore',
  })
  const ended = new Promise((resolve) => child.on('exit', resolve))
  return {
    async stop() {
      if (child.exitCode === null) child.kill('SIGTERM')
      await ended
    },
  }
}
