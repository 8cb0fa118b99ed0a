// Brings a database back from its backups; what stood there is set aside, never deleted.
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { databaseUser, freePort, homeFor, ownDir, PlainError, reachable, startPostgres } from '../postgres.mjs'
import { archiving } from './own.mjs'
import { backupsIn, pgBackRest, tryKey } from './pgbackrest.mjs'
import { opened, readPlace, writePlace } from './place.mjs'
import { SECRET_FILE } from './take.mjs'

/** A time as somebody types it: the machine's own zone where none is said. */
export function instantOf(text) {
  const zoned = /^(\S+)[ T](\S+?)\s*(Z|[+-]\d{2}(?::?\d{2})?)$/.exec(text)
  const zone = zoned?.[3].length === 3 ? `${zoned[3]}:00` : zoned?.[3]
  const at = new Date(zoned ? `${zoned[1]}T${zoned[2]}${zone}` : text)
  if (Number.isNaN(at.getTime()) || !/^\d{4}-\d{2}-\d{2}\D\d{2}:\d{2}/.test(text))
    throw new PlainError(`--to wants a time such as "2026-11-30 14:05" or "2026-11-30 14:05:30+00", got "${text}".`)
  return at
}

/** Any other time is told before anything is touched. */
function refuseOutside(all, at, now) {
  const first = all[0]
  if (!first) throw new PlainError('There is no backup in that folder.')
  if (at === null) return
  if (at < first.endedAt)
    throw new PlainError(`The oldest backup is of ${first.endedAt.toISOString()}: nothing earlier can be brought back.`)
  if (at.getTime() > now) throw new PlainError('That time is still to come.')
}

function setAside(pg) {
  if (!existsSync(pg)) return null
  const aside = `${pg}.before-restore-${new Date().toISOString().replaceAll(/[:.]/g, '-')}`
  renameSync(pg, aside)
  return aside
}

/** `type=time` ends just before the first change after it; the last change of all is brought back without a target. */
const targetOf = (at) =>
  at === null
    ? ['--type=default']
    : ['--type=time', `--target=${at.toISOString().replace('T', ' ').replace('Z', '+00')}`, '--target-action=promote']

/**
 * Restores into the cluster of `where` ({ dir, elsewhere }) what stands in `repo`, or in that cluster's own backups: at `at`, or the
 * last there is. The server's own secret goes into `secretFile`. Resolves with the started server and where the old one is now; where
 * it fails, what stood there is back.
 */
export async function bringBack({ where, repo = null, key = null, at = null, secretFile, step, now = Date.now }) {
  const user = databaseUser()
  const home = homeFor(user, where)
  const known = join(home, 'pgbackrest.conf')
  if (repo === null && !existsSync(known))
    throw new PlainError('There are no backups of this folder’s database. Name a folder of backups with --backups.')
  if (repo !== null && !existsSync(join(repo, 'backup'))) throw new PlainError(`${repo} is no folder of backups.`)
  if (repo !== null && !reachable(user, join(repo, 'backup')))
    throw new PlainError(
      `The database’s user, postgres, cannot read ${repo}. Copy it to a folder that it can reach, such as one below /var/tmp, and give it to that user: chown -R postgres: FOLDER`,
    )
  const among = { home, repo: repo ?? readPlace(known).repo, user, key }
  // Until it is restored nothing listens: any port will do.
  const place = { ...readPlace(writePlace({ ...among, port: await freePort(), socket: '/nowhere' }).config), user }
  await tryKey(place)
  refuseOutside(await backupsIn(place), at, now())
  const aside = setAside(place.pg)
  try {
    ownDir(user, place.pg)
    await step('Restore', () => pgBackRest(place, [...targetOf(at), 'restore']))
    const sealedFile = join(place.repo, SECRET_FILE)
    const secret = existsSync(sealedFile) ? opened(readFileSync(sealedFile), place.key) : null
    const moreFor = (there) => archiving(writePlace({ ...there, repo: place.repo }).config)
    const server = await step('Start on it', () => startPostgres({ ...where, durable: true, recovering: true, moreFor }))
    if (secret !== null) writeFileSync(secretFile, secret, { mode: 0o600 })
    return { server, aside }
  } catch (error) {
    // Half of it is worse than nothing: a start would run on it.
    rmSync(place.pg, { recursive: true, force: true })
    if (aside !== null) renameSync(aside, place.pg)
    throw error
  }
}
