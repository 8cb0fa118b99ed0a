// The database that bin/start runs itself: where it stands, and how every change of it reaches the backups.
import { createHash } from 'node:crypto'
import { join } from 'node:path'
import { DATA, ROOT } from '../paths.mjs'
import { commandFor } from './pgbackrest.mjs'

/** Its folder, and the one that is used where the database's user cannot reach that. */
export const ownDatabase = () => ({
  dir: join(DATA, 'database'),
  elsewhere: `/var/tmp/even-round-${createHash('sha256').update(ROOT).digest('hex').slice(0, 12)}`,
})

const MOST_LOST_SECONDS = 60
const quoted = (word) => (word === '%p' ? '"%p"' : `'${word.replaceAll("'", `'\\''`)}'`)

/** Settings by which PostgreSQL hands on its log as it grows, a minute late at most. */
export const archiving = (config) => [
  'archive_mode=on',
  `archive_command=${commandFor(config, 'archive-push', '%p').map(quoted).join(' ')}`,
  `archive_timeout=${MOST_LOST_SECONDS}`,
]
