import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs'
import { freemem, tmpdir } from 'node:os'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { buildApp, buildServer } from './build.mjs'
import clock from './clock.cjs'
import { ensureBackups, ensureCaddy, ensureChromium, ensurePackages, ensurePostgres, packagesThere } from './install.mjs'
import { CLOCK, ROOT } from './paths.mjs'
import { startPostgres } from './postgres.mjs'
import seeds from './seed.cjs'
import { prepare } from './server.mjs'
import { fail, step } from './steps.mjs'

const PARTS = ['types', 'lint', 'unit', 'server', 'e2e']
/** The server's tests by requests nobody means: more of them than in a whole run, and nothing beside them. */
const FUZZ = { part: 'server', more: ['fuzz.test'], env: { FUZZ_REQUESTS: '2000' } }
const HELP = `bin/test [part ...] [--today YYYY-MM-DD] [--seed N] [-- more for the runner]

Parts: ${PARTS.join(', ')}; all of them when none is named. Installs what is missing first.
fuzz: ${FUZZ.env.FUZZ_REQUESTS} requests by the description of the API, of a kind nobody means; --seed draws others.
Tests live on a clock of their own, which begins on ${clock.TEST_DAY}; --today lets them live on another day.
Properties are tried on the same draws in every run; --seed draws others.`

const bin = (name) => join(ROOT, 'node_modules/.bin', name)
const seconds = (from) => `${((performance.now() - from) / 1000).toFixed(1)} s`

/** Runs to the end with its output passed on under a name; the exit code decides. */
function run(name, command, args, env = {}) {
  const from = performance.now()
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, NODE_OPTIONS: `--require ${CLOCK}`, FORCE_COLOR: '0', ...env },
    })
    const pass = (chunk) => process.stdout.write(chunk)
    child.stdout.on('data', pass)
    child.stderr.on('data', pass)
    child.on('error', (error) => {
      process.stdout.write(`${name}: ${error.message}\n`)
      resolve(false)
    })
    child.on('exit', (code) => {
      process.stdout.write(`== ${name}: ${code === 0 ? 'good' : `failed with ${code}`}, ${seconds(from)}\n`)
      resolve(code === 0)
    })
  })
}

const check = async (name, command, args) => ({
  name,
  ...((await run(name, command, args)) ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 }),
})

/** Counts of a runner's report; a runner that died without one has failed once. */
function counted(good, file, read) {
  try {
    const { passed, failed } = read(JSON.parse(readFileSync(file, 'utf8')))
    return { passed, failed: !good && failed === 0 ? 1 : failed }
  } catch {
    return { passed: 0, failed: 1 }
  }
}

async function jest(name, projects, { reports, more, env }) {
  const file = join(reports, `${name}.json`)
  const good = await run(
    name,
    bin('jest'),
    ['--selectProjects', ...projects, '--maxWorkers=100%', '--json', `--outputFile=${file}`, '--silent=false', ...more],
    env,
  )
  const counts = counted(good, file, ({ numPassedTests, numFailedTests, numRuntimeErrorTestSuites }) => ({
    passed: numPassedTests,
    failed: numFailedTests + numRuntimeErrorTestSuites,
  }))
  return { name, ...counts }
}

async function playwright({ reports, more, env }) {
  const file = join(reports, 'e2e.json')
  const good = await run('e2e', bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts', ...more], {
    ...env,
    // What a plan is worth is measured in bin/bench; here it has to be a plan.
    PLAN_SECONDS: '0.5',
    // One person's requests: a connection that is used again knows the tables already.
    DATABASE_POOL: '3',
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
  })
  const counts = counted(good, file, ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky + stats.skipped }))
  return { name: 'e2e', ...counts }
}

const MEMORY = '/dev/shm'
/** 370 MB were in use at most; eight times that is kept free. */
const ROOM_BYTES = 3 * 2 ** 30

/** Where a throw-away database stands: in memory, which saves a third of its work, where there is room; else on disk. */
function placeOfDatabase() {
  try {
    const { bavail, bsize } = statfsSync(MEMORY)
    return bavail * bsize > ROOM_BYTES && freemem() > ROOM_BYTES ? MEMORY : tmpdir()
  } catch {
    return tmpdir()
  }
}

/** A throw-away PostgreSQL with two databases to copy from: one migrated and empty, one with the demo. */
async function testDatabases(home) {
  const own = await startPostgres({
    dir: home,
    elsewhere: home,
    durable: false,
    // Every test file has servers and pools of its own beside the others'.
    // Nobody copies this database or lives long enough for housekeeping.
    more: ['max_connections=150', 'autovacuum=off', 'wal_level=minimal', 'max_wal_senders=0'],
  })
  // Every partition is some files to copy for each test that has a database of its own, and no test lives for months.
  process.env.FACT_MONTHS_AHEAD = '0'
  // Tests plan the round themselves.
  process.env.DEMO_ROUND = '0'
  const empty = own.createDatabase('er_empty')
  await prepare({ ...empty, loadDemo: '0' })
  own.psql('create database er_demo owner evenround_owner template er_empty')
  const demo = own.createDatabase('er_demo')
  await prepare({ ...demo, loadDemo: '1' })
  for (const name of ['er_empty', 'er_demo']) own.psql('analyze', name)
  // The clock of the run, for tests that ask the tables themselves.
  const ahead = `interval '${process.env.EVEN_ROUND_CLOCK_AHEAD_MS} milliseconds'`
  for (const name of ['er_empty', 'er_demo'])
    own.psql(`create function test_clock() returns timestamptz stable language sql as $$ select now() + ${ahead} $$`, name)
  return { own, env: { EVEN_ROUND_TEST_DATABASE: JSON.stringify({ adminUrl: own.adminUrl, ...empty }) } }
}

async function main(wanted, more) {
  const parts = wanted.length > 0 ? PARTS.filter((part) => wanted.includes(part)) : PARTS
  const has = (part) => parts.includes(part)
  const from = performance.now()
  const folder = mkdtempSync(join(tmpdir(), 'even-round-test-'))
  const reports = join(folder, 'reports')
  mkdirSync(reports)
  const home = has('server') || has('e2e') ? mkdtempSync(join(placeOfDatabase(), 'even-round-pg-')) : null
  let databases = null
  const stop = async () => {
    await databases?.own.stop()
    for (const made of [folder, home]) if (made !== null) rmSync(made, { recursive: true, force: true })
  }
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void stop().finally(() => process.exit(130)))
  try {
    if (has('server') || has('e2e')) await step('PostgreSQL', ensurePostgres)
    if (has('e2e')) await step('Chromium', ensureChromium)
    if (has('e2e')) await step('pgBackRest', ensureBackups)
    if (has('e2e')) await step('Caddy', ensureCaddy)
    await step('Packages', ensurePackages, packagesThere(true))
    // Made while the app is built and the types are checked.
    const onDatabases = async () => {
      if (home === null) return { reports, more, env: {} }
      await step('Build the server', buildServer)
      databases = await step('Start a throw-away database', () => testDatabases(home))
      return { reports, more, env: databases.env }
    }
    const ready = onDatabases()
    // Said by the first lane that waits for it.
    ready.catch(() => undefined)
    // Two lanes: the browser's, which waits for the app and the databases, and everything else. Either has a worker a core and more, since
    // half of a test's time is waiting: for the database, or for the next frame of a page.
    const browser = async () => {
      if (!has('e2e')) return []
      await step('Build the app', buildApp)
      return [await playwright(await ready)]
    }
    const rest = async () => {
      const results = []
      // The compiler that other tools read (typescript 6) takes more than twice as long. Several checkers do half of it over again.
      if (has('types')) results.push(await check('types', join(ROOT, 'node_modules/typescript7/bin/tsc'), ['-b', '--checkers', '1']))
      if (has('lint')) {
        results.push(await check('biome', bin('biome'), ['ci', '--colors=off', '--error-on-warnings', '.']))
        results.push(await check('words', process.execPath, ['bin/lib/words.mjs']))
        results.push(await check('messages', process.execPath, ['bin/lib/messages.mjs']))
        results.push(await check('unused code and packages', bin('knip'), ['--no-progress', '--no-config-hints']))
        results.push(await check('import directions', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages', 'apps']))
      }
      // All of them by one runner, so that no worker is idle before the last file.
      const projects = [...(has('server') ? ['server'] : []), ...(has('unit') ? ['core', 'contract', 'bin', 'app'] : [])]
      if (projects.length > 0)
        results.push(await jest(parts.filter((part) => ['server', 'unit'].includes(part)).join(' and '), projects, await ready))
      return results
    }
    const results = (await Promise.all([browser(), rest()])).flat()
    const passed = results.reduce((sum, one) => sum + one.passed, 0)
    const failed = results.reduce((sum, one) => sum + one.failed, 0)
    const bad = results.filter((one) => one.failed > 0).map(({ name }) => name)
    process.stdout.write(
      `\nAll parts (${parts.join(', ')}) after ${seconds(from)}:\n${passed} passed, ${failed} failed${bad.length > 0 ? ` (${bad.join(', ')})` : ''}\n`,
    )
    return failed === 0 && passed > 0
  } finally {
    await stop()
  }
}

const [given, more] = process.argv.includes('--')
  ? [process.argv.slice(2, process.argv.indexOf('--')), process.argv.slice(process.argv.indexOf('--') + 1)]
  : [process.argv.slice(2), []]
const { values, positionals: args } = parseArgs({
  args: given,
  allowPositionals: true,
  options: {
    today: { type: 'string', default: clock.TEST_DAY },
    seed: { type: 'string', default: String(seeds.USUAL_SEED) },
    help: { type: 'boolean' },
  },
})
if (values.help) {
  process.stdout.write(`${HELP}\n`)
} else if (args.some((part) => !PARTS.includes(part) && !(part === 'fuzz' && args.length === 1))) {
  process.stderr.write(`No such part: ${args.filter((part) => !PARTS.includes(part)).join(', ')}\n\n${HELP}\n`)
  process.exit(2)
} else if (!/^-?\d{1,9}$/.test(values.seed)) {
  process.stderr.write(`A seed is a whole number of up to nine digits, not "${values.seed}".\n`)
  process.exit(2)
} else {
  try {
    process.env.EVEN_ROUND_SEED = values.seed
    process.env.EVEN_ROUND_CLOCK_AHEAD_MS = String(clock.aheadOf(values.today))
    const fuzzed = args[0] === 'fuzz'
    if (fuzzed) Object.assign(process.env, { ...FUZZ.env, ...process.env })
    process.exitCode = (await (fuzzed ? main([FUZZ.part], [...FUZZ.more, ...more]) : main(args, more))) ? 0 : 1
  } catch (error) {
    fail(error)
  }
}
