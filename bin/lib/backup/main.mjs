import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { buildServer } from '../build.mjs'
import { command } from '../command.mjs'
import { DATA } from '../paths.mjs'
import { databaseUser, PlainError } from '../postgres.mjs'
import { ask, drill } from './drill.mjs'
import { heedSignals } from './interrupt.mjs'
import { backupsIn, isInstalled } from './pgbackrest.mjs'
import { adminUrlOf, readPlace } from './place.mjs'
import { runningStart } from './running.mjs'
import { takeBackup } from './take.mjs'

const HELP = `bin/backup: backs up the whole database, photos and files with it, and proves that it can be restored

  bin/backup                 what changed since the last one; everything where the last whole one is a week old
  bin/backup check           no new one: restores the last one beside the real server and compares every firm
  bin/backup list            the backups there are
  --full                     everything, whatever there is
  --no-check                 does not restore it to look; a backup that nobody restored is a hope
  --if-older HOURS           does nothing where the last good one is younger
  --config FILE              settings of pgBackRest, where the database is not bin/start's own (docs/operate.md)
  --secret FILE              the server's own secret, kept beside the backups under their key

Every change of the database goes into the folder of backups within a minute: bin/restore brings back any second since the oldest one.`

const say = (text) => process.stdout.write(`${text}\n`)
const MB = 1e6
const sameText = (firms) => (firms === 1 ? 'its one firm is the same' : `all ${firms} firms are the same`)

function placeOf({ config, secret }) {
  if (config) return { ...readPlace(config), user: databaseUser(), secret: secret ? readFileSync(secret, 'utf8').trim() : null }
  const running = runningStart()
  if (!running?.backups)
    throw new PlainError(
      running
        ? 'This start makes no backups: its database is the one of DATABASE_URL, or it was told --no-backups.'
        : 'Even Round does not run from this folder. Start it with bin/start first, or name pgBackRest’s settings with --config.',
    )
  const own = join(DATA, 'auth-secret')
  return { ...readPlace(running.backups), user: databaseUser(), secret: existsSync(own) ? readFileSync(own, 'utf8').trim() : null }
}

async function main(values, [asked = 'take']) {
  if (!isInstalled()) throw new PlainError('pgBackRest is missing. Install Debian’s package pgbackrest.')
  const { secret, ...place } = placeOf(values)
  await buildServer()
  if (asked === 'list') {
    const all = await backupsIn(place)
    for (const { label, kind, endedAt, bytes } of all)
      say(`${endedAt.toISOString().slice(0, 16)}Z  ${kind.padEnd(11)}  ${(bytes / MB).toFixed(1).padStart(8)} MB  ${label}`)
    if (all.length === 0) say('There is none yet.')
    return
  }
  const from = performance.now()
  const took = () => `${((performance.now() - from) / 1000).toFixed(0)} s`
  if (asked === 'check') {
    const { firms } = await drill(place, say)
    say(`Good: restored, and ${sameText(firms)} as in the server. ${took()}`)
    return
  }
  if (asked !== 'take') throw new PlainError(`No such command: ${asked}\n\n${HELP}`)
  const hours = values['if-older'] === undefined ? null : Number(values['if-older'])
  if (hours !== null && !(hours > 0)) throw new PlainError(`--if-older wants hours, got ${values['if-older']}`)
  const { at } = await ask('last', adminUrlOf(place))
  if (hours !== null && at !== null && Date.now() - Date.parse(at) < hours * 3_600_000) {
    say(`The last good backup is of ${at}: nothing to do.`)
    return
  }
  const { kind, firms, label } = await takeBackup(place, {
    full: values.full,
    check: !values['no-check'],
    secret,
    tell: say,
  })
  say(`Good: ${kind} backup ${label}${firms === null ? ', not checked' : `, restored and compared: ${sameText(firms)}`}. ${took()}`)
}

heedSignals()

await command(
  {
    help: HELP,
    allowPositionals: true,
    options: {
      full: { type: 'boolean', default: false },
      'no-check': { type: 'boolean', default: false },
      'if-older': { type: 'string' },
      config: { type: 'string' },
      secret: { type: 'string' },
    },
  },
  main,
)
