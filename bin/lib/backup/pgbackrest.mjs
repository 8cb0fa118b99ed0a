// pgBackRest, run as the database's user on one settings file.
import { spawn, spawnSync } from 'node:child_process'
import { asUser, PlainError } from '../postgres.mjs'
import { endWhereTold } from './interrupt.mjs'
import { STANZA } from './place.mjs'

export const PROGRAM = '/usr/bin/pgbackrest'
/** What pgBackRest ends with where its stanza belongs to another database than the one it finds. */
const OTHER_DATABASE = 28

export const commandFor = (config, ...rest) => [PROGRAM, `--config=${config}`, `--stanza=${STANZA}`, ...rest]

/** Runs it without stopping whatever else this process does; resolves with its output. */
export async function pgBackRest({ user, config }, args) {
  endWhereTold()
  const [program, ...rest] = commandFor(config, ...args)
  const [command, list] = asUser(user, program, rest)
  return new Promise((resolve, reject) => {
    const child = spawn(command, list, { cwd: '/', stdio: ['ignore', 'pipe', 'pipe'] })
    let [said, output] = ['', '']
    child.stdout.on('data', (chunk) => {
      output += chunk
      said = (said + chunk).slice(-4000)
    })
    child.stderr.on('data', (chunk) => {
      said = (said + chunk).slice(-4000)
    })
    child.on('error', reject)
    child.on('exit', (code) => {
      if (code === 0) resolve(output)
      else
        reject(Object.assign(new PlainError(`pgBackRest could not ${args.find((arg) => !arg.startsWith('-'))}:\n${said.trim()}`), { code }))
    })
  })
}

/** The folder of backups is made ready for this database; one that was made anew since goes on in the same folder. */
export async function openStanza(place) {
  try {
    await pgBackRest(place, ['stanza-create'])
  } catch (error) {
    if (error.code !== OTHER_DATABASE) throw error
    await pgBackRest(place, ['stanza-upgrade'])
  }
}

/** Throws where the key of the settings is not the one the backups were made under. */
export async function tryKey(place) {
  const read = await pgBackRest(place, ['repo-get', `backup/${STANZA}/backup.info`]).catch((error) => error.message)
  if (!read.includes('backrest-format')) throw new PlainError('The key does not open these backups.')
}

/** The backups there are, the oldest first: `{ label, kind, endedAt, bytes }`; bytes are what all that it needs takes on disk. */
export async function backupsIn(place) {
  const [stanza] = JSON.parse(await pgBackRest(place, ['info', '--output=json']))
  return (stanza?.backup ?? []).map(({ label, type, timestamp, info }) => ({
    label,
    kind: type === 'full' ? 'full' : 'incremental',
    endedAt: new Date(timestamp.stop * 1000),
    bytes: info.repository.size ?? info.repository.delta,
  }))
}

export const isInstalled = () => spawnSync(PROGRAM, ['version']).status === 0
