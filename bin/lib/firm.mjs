// Runs the built server's own tool for firms on the database that bin/start uses, or on the one of DATABASE_URL.
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { runningStart } from './backup/running.mjs'
import { buildServer } from './build.mjs'
import { SERVER_DIR, SERVER_DIST } from './paths.mjs'
import { PlainError } from './postgres.mjs'
import { fail } from './steps.mjs'

/** The database of a start that runs from this folder. */
function running() {
  const start = runningStart()
  if (!start?.database)
    throw new PlainError('Even Round does not run from this folder. Start it with bin/start first, or name a database in DATABASE_URL.')
  return { DATABASE_URL: start.database, PUBLIC_URL: start.url }
}

try {
  const asks = process.argv.length > 2 && !process.argv.includes('--help')
  const env = { ...(asks && !process.env.DATABASE_URL ? running() : {}), ...process.env }
  await buildServer()
  const { status } = spawnSync(process.execPath, [join(SERVER_DIST, 'firms.mjs'), ...process.argv.slice(2)], {
    cwd: SERVER_DIR,
    env,
    stdio: 'inherit',
  })
  process.exitCode = status ?? 1
} catch (error) {
  fail(error)
}
