// What the machine and the project need before anything runs.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './paths.mjs'
import { PlainError, postgresBin } from './postgres.mjs'
import { quietly } from './steps.mjs'

const isRoot = process.getuid?.() === 0

let updated = false
async function debian(packages, why) {
  if (!isRoot) {
    throw new PlainError(
      `${why} is missing and installing it wants root. Run once:\n  sudo apt-get update && sudo apt-get install --no-install-recommends ${packages.join(' ')}`,
    )
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  if (!updated) await quietly('apt-get', ['update', '-qq'], { env })
  updated = true
  await quietly('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], { env })
}

export async function ensurePostgres() {
  if (postgresBin()) return { skipped: true }
  // We make a cluster of our own: Debian's need not be made and started beside it.
  const settings = '/etc/postgresql-common/createcluster.conf'
  if (isRoot && !existsSync(settings)) {
    mkdirSync('/etc/postgresql-common', { recursive: true })
    writeFileSync(settings, 'create_main_cluster = false\n')
  }
  await debian(['postgresql'], 'PostgreSQL')
  if (!postgresBin()) throw new PlainError('PostgreSQL was installed, but its programs are not where Debian puts them.')
  return {}
}

/** What backs the database up. It is no reason not to start: `missing` says what to do where it cannot be had. */
export async function ensureBackups() {
  if (existsSync('/usr/bin/pgbackrest')) return { skipped: true }
  try {
    await debian(['pgbackrest'], 'pgBackRest, which makes the backups,')
    return {}
  } catch (error) {
    if (!(error instanceof PlainError)) throw error
    return { missing: error.message }
  }
}

/** What stands in front of several processes with TLS (deploy/Caddyfile). */
export async function ensureCaddy() {
  if (existsSync('/usr/bin/caddy')) return { skipped: true }
  await debian(['caddy'], 'Caddy, which the tests of deploy/ run,')
  return {}
}

export const CHROMIUM = '/usr/bin/chromium'
export async function ensureChromium() {
  if (existsSync(CHROMIUM)) return { skipped: true }
  await debian(['chromium'], 'Chromium, which the browser tests drive,')
  return {}
}

const stampOf = (what) =>
  createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .update(process.version)
    .update(what)
    .digest('hex')

/** Where the packages that the lock file wants will stand, those inside of others left out. */
function wantedPackages(withTools) {
  const { packages } = JSON.parse(readFileSync(join(ROOT, 'package-lock.json'), 'utf8'))
  return Object.entries(packages).flatMap(([path, { dev, optional, link }]) =>
    path.lastIndexOf('node_modules/') === 0 && !optional && !link && (withTools || !dev) ? [join(ROOT, path, 'package.json')] : [],
  )
}

/** How far the packages are, in words. */
export function packagesThere(withTools) {
  const wanted = wantedPackages(withTools)
  return () => `${wanted.filter((path) => existsSync(path)).length} of ${wanted.length} are there`
}

/** Packages by the lock file, and only when it changed: all of them, or only those that building and running the program asks for. */
async function ensure(withTools) {
  const stampFile = join(ROOT, 'node_modules/.even-round-stamp')
  const found = existsSync(stampFile) ? readFileSync(stampFile, 'utf8') : ''
  if (found === stampOf('all') || (!withTools && found === stampOf('program'))) return { skipped: true }
  await quietly('npm', ['ci', '--no-audit', '--no-fund', ...(withTools ? [] : ['--omit=dev'])], {
    cwd: ROOT,
    env: { ...process.env, PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1' },
  })
  writeFileSync(stampFile, stampOf(withTools ? 'all' : 'program'))
  return {}
}
export const ensurePackages = () => ensure(true)
export const ensureProgramPackages = () => ensure(false)
