// Where the backups of a database of our own stand, and how pgBackRest is told.
import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto'
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { CODE_SIGNS, inGroups, newCode } from '../codes.mjs'
import { PlainError } from '../postgres.mjs'

export const STANZA = 'even-round'
const KEY_GROUPS = 6
const GROUP = 5

/** 30 signs of 30: 147 bits. */
const newKey = () => newCode(KEY_GROUPS, GROUP)

/** A key as somebody types it: small letters and any spaces are the same. */
export function readKey(text) {
  const signs = text.toUpperCase().replaceAll(/[^0-9A-Z]/g, '')
  if (signs.length !== KEY_GROUPS * GROUP || [...signs].some((sign) => !CODE_SIGNS.includes(sign)))
    throw new PlainError(`That is no backup key: ${KEY_GROUPS} groups of ${GROUP} letters and digits were printed when the backups began.`)
  return inGroups(signs, GROUP)
}

function folder(user, path) {
  mkdirSync(path, { recursive: true, mode: 0o700 })
  chmodSync(path, 0o700)
  if (user) chownSync(path, user.uid, user.gid)
  return path
}

function ownFile(user, path, text) {
  writeFileSync(path, text, { mode: 0o600 })
  chmodSync(path, 0o600)
  if (user) chownSync(path, user.uid, user.gid)
}

const keyIn = (config) => /^repo1-cipher-pass=(.+)$/m.exec(config)?.[1]?.trim() ?? null

/**
 * Writes pgBackRest's settings for the database in `home`, its backups in `repo`. The key is made the first time and stands in these
 * settings alone, never among the backups; `madeKey` is it then, and null ever after.
 */
export function writePlace({ home, repo = join(home, 'backups'), user, port, socket, key = null }) {
  const config = join(home, 'pgbackrest.conf')
  const known = existsSync(config) ? keyIn(readFileSync(config, 'utf8')) : null
  const cipher = key ?? known ?? newKey()
  if (known === null && key === null && existsSync(join(repo, 'backup')))
    throw new PlainError(
      `${repo} has backups made under another key. Bring them back with bin/restore --key-file, or let the backups begin anew in another folder (--backups).`,
    )
  const work = folder(user, join(home, 'pgbackrest'))
  folder(user, repo)
  const text = `# Written at every start. The key in it opens the backups: keep a copy of it away from this machine.
[global]
repo1-path=${repo}
repo1-cipher-type=aes-256-cbc
repo1-cipher-pass=${cipher}
repo1-bundle=y
# Four full ones, one a week: any second of four weeks can be brought back.
repo1-retention-full=4
compress-type=zst
process-max=2
start-fast=y
# Where the backups cannot be written, the log is let go past this size rather than filling the database's own disk.
archive-push-queue-max=2GiB
lock-path=${folder(user, join(work, 'lock'))}
log-path=${folder(user, join(work, 'log'))}
spool-path=${folder(user, join(work, 'spool'))}
log-level-console=warn
log-level-file=info
log-level-stderr=off

[${STANZA}]
pg1-path=${join(home, 'pg')}
pg1-port=${port}
pg1-socket-path=${socket}
pg1-user=postgres
`
  ownFile(user, config, text)
  return { config, repo, madeKey: known === null && key === null ? cipher : null }
}

/** What a settings file of pgBackRest says of the database it backs up. */
export function readPlace(config) {
  if (!existsSync(config)) throw new PlainError(`There are no settings of pgBackRest at ${config}.`)
  const text = readFileSync(config, 'utf8')
  const of = (name, otherwise) => new RegExp(`^${name}=(.+)$`, 'm').exec(text)?.[1]?.trim() ?? otherwise
  const pg = of('pg1-path', null)
  if (pg === null) throw new PlainError(`${config} names no database (pg1-path).`)
  return {
    config,
    pg,
    repo: of('repo1-path', '/var/lib/pgbackrest'),
    port: of('pg1-port', '5432'),
    socket: of('pg1-socket-path', '/var/run/postgresql'),
    superuser: of('pg1-user', 'postgres'),
    key: keyIn(text),
  }
}

/** The superuser's address by the private socket. */
export const adminUrlOf = ({ socket, port, superuser }) =>
  `postgres://${superuser}@localhost/postgres?host=${encodeURIComponent(socket)}&port=${port}`

const SALT = 16
const NONCE = 12
const TAG = 16

/** A short text under the key of the backups, to be kept beside them. */
export function sealed(text, key) {
  const [salt, nonce] = [randomBytes(SALT), randomBytes(NONCE)]
  const cipher = createCipheriv('aes-256-gcm', scryptSync(key, salt, 32), nonce)
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return Buffer.concat([salt, nonce, cipher.getAuthTag(), body])
}

export function opened(bytes, key) {
  const [salt, nonce, tag] = [bytes.subarray(0, SALT), bytes.subarray(SALT, SALT + NONCE), bytes.subarray(SALT + NONCE, SALT + NONCE + TAG)]
  const cipher = createDecipheriv('aes-256-gcm', scryptSync(key, salt, 32), nonce)
  cipher.setAuthTag(tag)
  try {
    return cipher.update(bytes.subarray(SALT + NONCE + TAG), undefined, 'utf8') + cipher.final('utf8')
  } catch {
    throw new PlainError('The key does not open these backups.')
  }
}
