import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import pg from 'pg'
import { bringBack, instantOf } from '../bin/lib/backup/bring-back.mjs'
import { archiving } from '../bin/lib/backup/own.mjs'
import { adminUrlOf, type Place, readKey, readPlace, writePlace } from '../bin/lib/backup/place.mjs'
import { takeBackup } from '../bin/lib/backup/take.mjs'
import { type OwnPostgres, startPostgres } from '../bin/lib/postgres.mjs'
import { prepare } from '../bin/lib/server.mjs'
import { expect, test } from './world'

/** Real backups of a real database of our own with two firms in it; the server is built already. */
const FIRMS = join(import.meta.dirname, '../apps/server/dist/firms.mjs')
test.describe.configure({ mode: 'serial' })

const step = <T>(_: string, work: () => T): T => work()

let home = ''
let own: OwnPostgres
let place: Place
let madeKey: string | null = null
const running = async (): Promise<OwnPostgres> =>
  startPostgres({
    dir: home,
    elsewhere: home,
    durable: true,
    moreFor: (where) => {
      const written = writePlace(where)
      madeKey ??= written.madeKey
      return archiving(written.config)
    },
  })

test.beforeAll(async () => {
  home = mkdtempSync(join(tmpdir(), 'even-round-backups-'))
  own = await running()
  place = { ...readPlace(join(own.home, 'pgbackrest.conf')), user: own.user }
  const urls = own.createDatabase('even_round')
  await prepare({ ...urls, loadDemo: '0' })
  for (const [name, email] of [
    ['Weir Water', 'hale@weir.example'],
    ['Ford Filters', 'ann@ford.example'],
  ] as const) {
    const args = ['create', '--name', name, '--zone', 'Europe/Lisbon', '--currency', 'EUR', '--owner', 'Ann', '--email', email]
    const made = spawnSync(process.execPath, [FIRMS, ...args], {
      env: { ...process.env, DATABASE_URL: urls.ownerUrl, DATABASE_AS_APP_ROLE: '1', PUBLIC_URL: 'http://127.0.0.1' },
      encoding: 'utf8',
    })
    expect(made.stderr).toBe('')
  }
})
test.afterAll(async () => {
  await own.stop()
  rmSync(home, { recursive: true, force: true })
})

const names = (server: OwnPostgres): string => server.psql('select name from firm order by 1', 'even_round').trim()
/** The database lives by the machine's own clock, whatever day the run lives on. */
const clockOf = (server: OwnPostgres): number => Number(server.psql('select extract(epoch from clock_timestamp()) * 1000'))
const attempts = (server: OwnPostgres): string =>
  server
    .psql('select kind, checked, coalesce(split_part(failed, chr(10), 1), $$good$$) from backup_attempt order by began_at', 'even_round')
    .trim()

test('a backup is restored beside the server and every firm compared, while people go on working', async () => {
  const writer = new pg.Client({ connectionString: own.createDatabase('even_round').ownerUrl })
  await writer.connect()
  let [writing, written] = [true, 0]
  const work = (async () => {
    for (; writing; written++) await writer.query(`insert into rate_limit (key, points) values ($1, 1)`, [`busy ${written}`])
  })()
  expect(await takeBackup(place, { secret: 'the secret of the server' })).toMatchObject({ kind: 'full', firms: 2 })
  writing = false
  await work
  await writer.end()
  expect(written).toBeGreaterThan(20)
  expect(attempts(own)).toBe('full|t|good')
  expect(await takeBackup(place, {})).toMatchObject({ kind: 'incremental', firms: 2 })
  // Nothing that was restored for the comparison is left.
  expect(readdirSync(own.home).filter((name) => name.startsWith('restore-check'))).toEqual([])
})

test('nothing in the folder of backups can be read without the key, and the key is not in it', () => {
  expect(madeKey).toMatch(/^[2-9A-Z]{5}(-[2-9A-Z]{5}){5}$/)
  const found = spawnSync('grep', ['-rlE', `Weir Water|${madeKey}|secret of the server`, place.repo], { encoding: 'utf8' })
  expect(found.stdout).toBe('')
  expect(existsSync(join(place.repo, 'server-secret.sealed'))).toBe(true)
})

test('a second that is named comes back, with all that was written until then, on another machine too', async () => {
  own.psql(`update firm set name = 'Weir Water of old' where name = 'Weir Water'`, 'even_round')
  await sleep(1100)
  const then = new Date(clockOf(own))
  await sleep(1100)
  own.psql(`update firm set name = 'Overwritten by mistake' where name = 'Weir Water of old'`, 'even_round')
  own.psql('select pg_switch_wal()')
  await expect
    .poll(() => own.psql('select last_archived_wal > $$0$$ and last_archived_time > now() - interval $$5 s$$ from pg_stat_archiver').trim())
    .toBe('t')
  const elsewhere = mkdtempSync(join(tmpdir(), 'even-round-restored-'))
  chmodSync(elsewhere, 0o755)
  const repo = join(elsewhere, 'brought')
  // The whole folder is carried there; whoever carries it has the key on paper.
  expect(spawnSync('cp', ['-a', place.repo, repo]).status).toBe(0)
  const where = { dir: join(elsewhere, 'database'), elsewhere: join(elsewhere, 'database') }
  const secretFile = join(elsewhere, 'secret')
  const bring = { where, repo, secretFile, step, now: () => clockOf(own) }
  await expect(bringBack({ ...bring, key: readKey('22222-22222-22222-22222-22222-22222') })).rejects.toThrow(/key does not open/)
  await expect(bringBack({ ...bring, key: readKey(madeKey ?? ''), at: new Date('2001-01-01T00:00:00Z') })).rejects.toThrow(/oldest backup/)
  const { server, aside } = await bringBack({ ...bring, key: readKey((madeKey ?? '').toLowerCase().replaceAll('-', ' ')), at: then })
  try {
    expect(aside).toBe(null)
    expect(names(server)).toBe('Ford Filters\nWeir Water of old')
    expect(readFileSync(secretFile, 'utf8')).toBe('the secret of the server')
    // The program signs in to it by this machine's own secret.
    const urls = server.createDatabase('even_round')
    expect((await prepare({ ...urls, loadDemo: '0' })).demo).toBe('none')
  } finally {
    await server.stop()
    rmSync(elsewhere, { recursive: true, force: true })
  }
  expect(names(own)).toBe('Ford Filters\nOverwritten by mistake')
})

test('in its own place the last minute comes back, what stood there is kept, and the backups go on', async () => {
  own.psql(`update firm set name = 'Weir Water' where name = 'Overwritten by mistake'`, 'even_round')
  await own.stop()
  const { server, aside } = await bringBack({ where: { dir: home, elsewhere: home }, secretFile: join(home, 'secret'), step })
  expect(names(server)).toBe('Ford Filters\nWeir Water')
  expect(existsSync(join(aside ?? '', 'PG_VERSION'))).toBe(true)
  await server.stop()
  own = await running()
  place = { ...readPlace(join(own.home, 'pgbackrest.conf')), user: own.user }
  expect(await takeBackup(place, {})).toMatchObject({ firms: 2 })
})

test('a backup that is damaged is found out, noted as failed, and the next good one is noted too', async () => {
  const folder = join(place.repo, 'backup/even-round')
  const last =
    readdirSync(folder)
      .filter((name) => /^\d/.test(name))
      .sort()
      .at(-1) ?? ''
  const bundles = join(folder, last, 'bundle')
  for (const name of readdirSync(bundles)) writeFileSync(join(bundles, name), Buffer.alloc(5000, 7))
  // An incremental one leans on what is damaged.
  await expect(takeBackup(place, {})).rejects.toThrow()
  expect(attempts(own).split('\n').at(-1)).toMatch(/^incremental\|f\|pgBackRest could not restore/)
  expect(await takeBackup(place, { full: true })).toMatchObject({ kind: 'full', firms: 2 })
})

test('a dump by a role that sees no firm fails, also where it asks to be let off', () => {
  const { ownerUrl, appUrl } = own.createDatabase('even_round')
  for (const url of [ownerUrl, appUrl])
    for (const more of [[], ['--enable-row-security']]) {
      const dump = spawnSync('pg_dump', [...more, '-d', url], { encoding: 'utf8' })
      expect([dump.status, dump.stdout.includes('Weir Water')]).toEqual([1, false])
    }
  const letOff = spawnSync('pg_dump', ['--enable-row-security', '-d', ownerUrl], { encoding: 'utf8' })
  expect(letOff.stderr).toMatch(/sees the rows of one firm at most/)
  const whole = spawnSync('pg_dump', ['-h', place.socket, '-p', place.port, '-U', 'postgres', '--table', 'firm', 'even_round'], {
    encoding: 'utf8',
  })
  expect([whole.status, whole.stdout.includes('Weir Water')]).toEqual([0, true])
})

test('a backup that is ended in the middle leaves nothing behind and says nothing is wrong', async () => {
  const before = attempts(own)
  const options = { cwd: join(import.meta.dirname, '..'), stdio: 'pipe', detached: true } as const
  const child = spawn(process.execPath, ['bin/lib/backup/main.mjs', '--config', place.config], options)
  await once(child.stdout, 'data')
  process.kill(-(child.pid ?? 0), 'SIGTERM')
  await once(child, 'exit')
  expect(attempts(own)).toBe(before)
  expect(readdirSync(own.home).filter((name) => name.startsWith('restore-check'))).toEqual([])
})

test('times are read as they are typed', () => {
  expect(instantOf('2026-11-30 14:05:30+00').toISOString()).toBe('2026-11-30T14:05:30.000Z')
  expect(instantOf('2026-11-30 14:05 +05:30').toISOString()).toBe('2026-11-30T08:35:00.000Z')
  expect(instantOf('2026-11-30T14:05:00Z').toISOString()).toBe('2026-11-30T14:05:00.000Z')
  expect(() => instantOf('yesterday')).toThrow(/--to wants a time/)
  expect(adminUrlOf(place)).toContain('postgres@localhost')
})
