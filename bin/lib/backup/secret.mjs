// Prints the server's own secret, which lies sealed beside the backups: node bin/lib/backup/secret.mjs SETTINGS-OF-PGBACKREST
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { PlainError } from '../postgres.mjs'
import { fail } from '../steps.mjs'
import { opened, readPlace } from './place.mjs'
import { SECRET_FILE } from './take.mjs'

try {
  const { repo, key } = readPlace(process.argv[2] ?? '/etc/pgbackrest.conf')
  const file = join(repo, SECRET_FILE)
  if (!existsSync(file)) throw new PlainError(`There is no sealed secret in ${repo}: bin/backup was never told --secret.`)
  process.stdout.write(`${opened(readFileSync(file), key)}\n`)
} catch (error) {
  fail(error)
}
