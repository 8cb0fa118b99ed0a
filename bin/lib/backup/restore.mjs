import { mkdirSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { command } from '../command.mjs'
import { ensureBackups, ensurePostgres } from '../install.mjs'
import { DATA } from '../paths.mjs'
import { PlainError } from '../postgres.mjs'
import { step } from '../steps.mjs'
import { bringBack, instantOf } from './bring-back.mjs'
import { ownDatabase } from './own.mjs'
import { readKey } from './place.mjs'
import { runningStart } from './running.mjs'

const HELP = `bin/restore: brings the database of bin/start back from its backups

  bin/restore                          as it was last, to the last minute that reached the backups
  bin/restore --to '2026-11-30 14:05'  as it was at that time (this machine's clock; or with a zone: '2026-11-30 14:05:30+00')
  --backups DIR                        a folder of backups from elsewhere; with it:
  --key-file FILE                      the key that was printed when the backups began ("-" reads it from the terminal)

Stop Even Round first. The database that stands there is set aside, never deleted. For a database that is not bin/start's own: docs/operate.md.`

const say = (text) => process.stdout.write(`${text}\n`)

/** What came back, for somebody to see that it is what they meant. */
function tellWhatIsBack(server) {
  const names = server.psql(`select datname from pg_database where datname like 'even\\_round%' order by 1`).trim().split('\n')
  for (const name of names) {
    const firms = server.psql(
      `select f.name || ': ' || (select count(*) from site s where s.firm_id = f.firm_id) || ' sites' from firm f order by 1`,
      name,
    )
    const last = server.psql('select max(arrived_at) from fact_receipt', name).trim()
    say(`  ${name}: the last record from a device arrived ${last === '' ? 'never' : last}`)
    for (const line of firms.trim().split('\n')) say(`    ${line}`)
  }
}

async function main({ to, backups, 'key-file': keyFile }) {
  const running = runningStart()
  if (running) throw new PlainError(`Even Round runs from this folder (process ${running.pid}). Stop it with Ctrl-C first.`)
  const at = to === undefined ? null : instantOf(to)
  const key = keyFile === undefined ? null : readKey(readFileSync(keyFile === '-' ? 0 : keyFile, 'utf8'))
  await step('PostgreSQL', ensurePostgres)
  const { missing } = await step('pgBackRest', ensureBackups)
  if (missing) throw new PlainError(missing)
  mkdirSync(DATA, { recursive: true })
  const repo = backups === undefined ? null : resolve(backups)
  const { server, aside } = await bringBack({ where: ownDatabase(), repo, key, at, secretFile: join(DATA, 'auth-secret'), step })
  try {
    say('')
    tellWhatIsBack(server)
  } finally {
    await server.stop()
  }
  say(`\nRestored; bin/start runs it.${aside === null ? '' : ` What stood there before is in ${aside}: delete it when you are sure.`}`)
}

await command({ help: HELP, options: { to: { type: 'string' }, backups: { type: 'string' }, 'key-file': { type: 'string' } } }, main)
