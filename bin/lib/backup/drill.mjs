// Restores the backups into a throw-away server and compares every firm's data with what stood in the real one.
import { spawn, spawnSync } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { SERVER_DIR, SERVER_DIST } from '../paths.mjs'
import { asUser, ownDir, PlainError, postgresBin } from '../postgres.mjs'
import { quietly } from '../steps.mjs'
import { endWhereTold, wasInterrupted } from './interrupt.mjs'
import { pgBackRest } from './pgbackrest.mjs'
import { adminUrlOf } from './place.mjs'

/** The server's own part, which looks into databases. */
export async function ask(command, ...args) {
  endWhereTold()
  try {
    return JSON.parse(await quietly(process.execPath, [join(SERVER_DIST, 'backups.mjs'), command, ...args], { cwd: SERVER_DIR }))
  } catch (error) {
    const told = /^\w*[Ee]rror: (.+)$/m.exec(error.message)
    throw told ? new PlainError(told[1]) : error
  }
}

const SECONDS = 1800

/** Starts PostgreSQL on a restored folder, by its private socket alone and with settings of its own, and waits until it is done recovering. */
async function startRestored({ user, superuser }, data, scratch) {
  const bin = postgresBin()
  const socket = ownDir(user, mkdtempSync(join(tmpdir(), 'even-round-drill-')))
  const hba = join(scratch, 'hba.conf')
  writeFileSync(hba, 'local all all trust\n')
  const config = join(scratch, 'drill.conf')
  writeFileSync(
    config,
    `data_directory = '${data}'
hba_file = '${hba}'
ident_file = '${hba}'
listen_addresses = ''
unix_socket_directories = '${socket}'
archive_mode = off
hot_standby = off
max_connections = 20
fsync = off
jit = off
`,
  )
  for (const file of [hba, config]) chmodSync(file, 0o644)
  const [program, args] = asUser(user, join(bin, 'postgres'), ['-c', `config_file=${config}`])
  // Of our own group: whoever ends us ends it too.
  const child = spawn(program, args, { stdio: ['ignore', 'ignore', 'pipe'], cwd: '/' })
  let said = ''
  child.stderr.on('data', (chunk) => {
    said = (said + chunk).slice(-4000)
  })
  const ended = new Promise((resolve) => child.on('exit', resolve))
  const stop = async () => {
    if (child.exitCode === null) child.kill('SIGINT')
    await ended
    rmSync(socket, { recursive: true, force: true })
  }
  const place = { socket, port: '5432', superuser }
  for (let waited = 0; spawnSync(join(bin, 'pg_isready'), ['-h', socket, '-q']).status !== 0; waited++) {
    if (child.exitCode !== null || waited > SECONDS * 5) {
      await stop()
      throw new PlainError(`The backup was restored, but no server starts on it:\n${said.trim()}`)
    }
    if (wasInterrupted()) await stop()
    endWhereTold()
    await sleep(200)
  }
  return { url: adminUrlOf(place), stop }
}

/**
 * The drill: names a moment, restores it beside the real server and compares. Resolves with how many firms were the same;
 * throws with every difference. What it restored is thrown away.
 */
export async function drill(place, tell) {
  const { user, pg } = place
  const scratch = mkdtempSync(join(dirname(pg), 'restore-check-'))
  if (user) chmodSync(scratch, 0o755)
  let server = null
  try {
    const kept = join(scratch, 'print.json')
    const { name } = await ask('point', adminUrlOf(place), `check-${Date.now()}`, kept)
    const data = ownDir(user, join(scratch, 'pg'))
    tell('Restoring into a throw-away server')
    await pgBackRest(place, [`--pg1-path=${data}`, '--type=name', `--target=${name}`, '--target-action=promote', '--link-all', 'restore'])
    server = await startRestored(place, data, scratch)
    tell('Comparing every firm')
    const { same, firms, differences } = await ask('compare', server.url, kept)
    if (!same)
      throw new PlainError(
        `The restored server differs from the real one:\n${differences.slice(0, 20).join('\n')}${differences.length > 20 ? `\nand ${differences.length - 20} more` : ''}`,
      )
    return { firms }
  } finally {
    await server?.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
}
