// One backup: taken, checked by a drill, and noted for the owners.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ask, drill } from './drill.mjs'
import { wasInterrupted } from './interrupt.mjs'
import { backupsIn, openStanza, pgBackRest } from './pgbackrest.mjs'
import { adminUrlOf, sealed } from './place.mjs'

const WEEK_MS = 7 * 86_400_000
/** Beside pgBackRest's own folders; under the same key. */
export const SECRET_FILE = 'server-secret.sealed'

/** Full where it is asked for, where there is none yet, or where the last one is a week old. */
export function kindFor({ full, backups, now }) {
  const last = backups.findLast(({ kind }) => kind === 'full')
  return full || last === undefined || now - last.endedAt.getTime() >= WEEK_MS ? 'full' : 'incremental'
}

/**
 * Backs up the database of `place` ({ user, config, pg, repo, port, socket, superuser, key }). `secret` is the server's own, without which
 * second factors cannot be read again. Whatever goes wrong is noted too, and thrown.
 */
export async function takeBackup(place, { full = false, check = true, secret = null, tell = () => undefined, now = Date.now }) {
  const beganAt = new Date(now())
  const url = adminUrlOf(place)
  let kind = 'full'
  const note = async (checked, failed, bytes) => {
    await ask('note', url, JSON.stringify({ beganAt, endedAt: new Date(now()), kind, checked, failed, bytes }))
  }
  try {
    await openStanza(place)
    kind = kindFor({ full, backups: await backupsIn(place), now: now() })
    tell(kind === 'full' ? 'Backing up everything' : 'Backing up what changed')
    await pgBackRest(place, [`--type=${kind === 'full' ? 'full' : 'incr'}`, 'backup'])
    if (secret !== null && place.key !== null) writeFileSync(join(place.repo, SECRET_FILE), sealed(secret, place.key), { mode: 0o600 })
    const checked = check ? await drill(place, tell) : null
    const made = (await backupsIn(place)).at(-1)
    await note(check ? true : null, null, made?.bytes ?? null)
    return { kind, firms: checked?.firms ?? null, label: made?.label ?? '' }
  } catch (error) {
    // What is wrong with the backup is what is told, also where it cannot be noted.
    if (!wasInterrupted()) await note(check ? false : null, String(error.message).slice(0, 2000), null).catch(() => undefined)
    throw error
  }
}
