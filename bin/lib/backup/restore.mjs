import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { buildServer } from '../build.mjs'
import { ensureBackups, ensurePostgres, ensureProgramPackages } from '../install.mjs'
import { DATA } from '../paths.mjs'
import { databaseUser, freePort, homeFor, ownDir, PlainError, startPostgres } from '../postgres.mjs'
import { fail, step } from '../steps.mjs'
import { archiving, ownDatabase } from './own.mjs'
import { backupsIn, pgBackRest } from './pgbackrest.mjs'
import { opened, readKey, readPlace, writePlace } from './place.mjs'
import { runningStart } from './running.mjs'
import { SECRET_FILE } from './take.mjs'

const HELP = `bin/restore: brings the database of bin/start back from its backups

  bin/restore                          as it was last, to the last minute that reached the backups
  bin/restore --to '2026-11-30 14:05'  as it was at that time (this machine's clock; or with a zone: '2026-11-30 14:05:30+00')
  --backups DIR                        a folder of backups from elsewhere; with it:
  --key-file FILE                      the key that was printed when the backups began ("-" reads it from the terminal)

Stop Even Round first. The database that stands there is set aside, never deleted. For a database that is not bin/start's own: docs/operate.md.`

const say = (text) => process.stdout.write(`${text}\n`)

/** As PostgreSQL reads it: the machine's own zone where none is said. */
export function instantOf(text) {
  const at = new Date(/([+-]\d{2}(:?\d{2})?|Z)$/.test(text) ? text.replace(' ', 'T').replace(/([+-]\d{2})$/, '$1:00') : text)
  if (Number.isNaN(at.getTime())) throw new PlainError(`--to wants a time such as 2026-11-30 14:05 or 2026-11-30 14:05:30+00, got ${text}`)
  return at
}

function givenKey(file) {
  if (!file) return null
  return readKey(readFileSync(file === '-' ? 0 : file, 'utf8'))
}

/** Any other time is told before anything is touched. */
function refuseTooEarly(all, at) {
  const first = all[0]
  if (!first) throw new PlainError('There is no backup in that folder.')
  if (at !== null && at < first.endedAt)
    throw new PlainError(`The oldest backup is of ${first.endedAt.toISOString()}: nothing earlier can be brought back.`)
  if (at !== null && at.getTime() > Date.now()) throw new PlainError('That time is still to come.')
}

/** Sets aside what stands there, so that a restore of the wrong time costs nothing. */
function setAside(pg) {
  if (!existsSync(pg)) return null
  const aside = `${pg}.before-restore-${new Date().toISOString().replaceAll(/[:.]/g, '-')}`
  renameSync(pg, aside)
  return aside
}

async function main({ to, backups, 'key-file': keyFile }) {
  const running = runningStart()
  if (running) throw new PlainError(`Even Round runs from this folder (process ${running.pid}). Stop it with Ctrl-C first.`)
  const at = to === undefined ? null : instantOf(to)
  await step('PostgreSQL', ensurePostgres)
  const { missing } = await step('pgBackRest', ensureBackups)
  if (missing) throw new PlainError(missing)
  await step('Packages', ensureProgramPackages)
  await step('Build the server', buildServer)
  const user = databaseUser()
  const home = homeFor(user, ownDatabase())
  const repo = backups === undefined ? undefined : resolve(backups)
  if (repo !== undefined && !existsSync(join(repo, 'backup'))) throw new PlainError(`${repo} is no folder of backups.`)
  if (repo === undefined && !existsSync(join(home, 'pgbackrest.conf')))
    throw new PlainError('There are no backups of this folder’s database. Name a folder of backups with --backups.')
  const key = givenKey(keyFile)
  // Until it is restored nothing listens: any port will do.
  const where = repo === undefined ? { repo: readPlace(join(home, 'pgbackrest.conf')).repo } : { repo }
  const { config } = writePlace({ home, ...where, user, port: await freePort(), socket: '/nowhere', key })
  const place = { ...readPlace(config), user }
  refuseTooEarly(await backupsIn(place), at)
  const aside = setAside(place.pg)
  try {
    ownDir(user, place.pg)
    const target =
      at === null
        ? ['--type=default']
        : ['--type=time', `--target=${at.toISOString().replace('T', ' ').replace('Z', '+00')}`, '--target-action=promote']
    await step('Restore', () => pgBackRest(place, [...target, 'restore']))
    const server = await step('Start on it', () =>
      startPostgres({
        ...ownDatabase(),
        durable: true,
        recovering: true,
        moreFor: (at) => archiving(writePlace({ ...at, ...where }).config),
      }),
    )
    say('')
    for (const line of server
      .psql(`select datname from pg_database where datallowconn and not datistemplate and datname like 'even_round%'`)
      .trim()
      .split('\n')) {
      const firms = server
        .psql(`select f.name || ': ' || (select count(*) from site s where s.firm_id = f.id) || ' sites' from firm f order by 1`, line)
        .trim()
      const last = server.psql('select max(arrived_at) from fact_receipt', line).trim()
      say(`${line}: last record arrived ${last || 'never'}\n  ${firms.split('\n').join('\n  ')}`)
    }
    await server.stop()
    const sealedFile = join(place.repo, SECRET_FILE)
    if (existsSync(sealedFile)) {
      writeFileSync(join(DATA, 'auth-secret'), opened(readFileSync(sealedFile), place.key), { mode: 0o600 })
    }
  } catch (error) {
    if (aside !== null) {
      rmSync(place.pg, { recursive: true, force: true })
      renameSync(aside, place.pg)
      say('What stood there before is back in its place.')
    }
    throw error
  }
  say(`\nRestored.${aside === null ? '' : ` What stood there before is in ${aside}; delete it when you are sure.`} bin/start runs it.`)
}

try {
  const { values } = parseArgs({
    options: { to: { type: 'string' }, backups: { type: 'string' }, 'key-file': { type: 'string' }, help: { type: 'boolean' } },
  })
  if (values.help) say(HELP)
  else await main(values)
} catch (error) {
  if (error?.code?.startsWith?.('ERR_PARSE_ARGS')) {
    process.stderr.write(`${error.message}\n\n${HELP}\n`)
    process.exit(2)
  }
  fail(error)
}
