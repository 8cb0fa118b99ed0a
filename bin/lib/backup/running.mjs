// What bin/start that runs from this folder says of itself.
import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { DATA } from '../paths.mjs'

export const RUNNING = join(DATA, 'running.json')

/** `{ pid, url, database, backups }` of a start that runs from this folder; null where none does. */
export function runningStart() {
  if (!existsSync(RUNNING)) return null
  const note = JSON.parse(readFileSync(RUNNING, 'utf8'))
  try {
    return readFileSync(`/proc/${note.pid}/cmdline`, 'utf8').includes('start.mjs') ? note : null
  } catch {
    return null // that process is gone: it was ended without a chance to tidy up
  }
}
