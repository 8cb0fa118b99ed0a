import { setTimeout as sleep } from 'node:timers/promises'
import { Client } from 'pg'
import { connected, databasesOf, inDatabase, printOf, type ServerPrint } from './fingerprint'

const MOST_TRIES = 400
const PAUSE_MS = 5

/** A moment of a server that can be restored to by its name, and what stood in every database just then. */
export interface Point {
  name: string
  /** The last file of the log that is wanted for it. */
  walFile: string
  print: ServerPrint
}

interface Snapshot {
  seen: string
}
const snapshot = async (client: Client): Promise<string> =>
  (await client.query<Snapshot>('select pg_current_snapshot()::text as seen')).rows[0]?.seen ?? ''
/** Nothing was being written at that moment: the first and the last transaction not yet done are the same. */
const still = (seen: string): boolean => {
  const [first, next, running] = seen.split(':')
  return first === next && running === ''
}

/**
 * Names a moment and sums up what stands in the server at that very moment, while people go on working. Every reader's transaction keeps
 * the moment it began at; the name is good where none was writing then, nor any between the first reader and the name.
 * Throws where the server is never still that long.
 */
export async function takePoint(url: string, name: string): Promise<Point> {
  return connected(url, async (admin) => {
    const names = await databasesOf(admin)
    const readers = names.map((database) => new Client({ connectionString: inDatabase(url, database) }))
    await Promise.all(readers.map((reader) => reader.connect()))
    try {
      for (let tries = 0; tries < MOST_TRIES; tries++) {
        const moment = `${name}-${tries}`
        const seen = await Promise.all(
          readers.map(async (reader) => {
            await reader.query('begin isolation level repeatable read read only')
            return snapshot(reader)
          }),
        )
        if (seen.every((one) => one === seen[0] && still(one))) {
          const { rows } = await admin.query<{ lsn: string }>('select pg_create_restore_point($1)::text as lsn', [moment])
          if ((await snapshot(admin)) === seen[0]) {
            const print: ServerPrint = {}
            for (const [index, reader] of readers.entries()) print[names[index] ?? ''] = await printOf(reader)
            const { rows: files } = await admin.query<{ file: string }>('select pg_walfile_name($1::pg_lsn) as file', [rows[0]?.lsn])
            return { name: moment, walFile: files[0]?.file ?? '', print }
          }
        }
        await Promise.all(readers.map((reader) => reader.query('rollback')))
        await sleep(PAUSE_MS)
      }
      throw new Error(`The database was written to at every one of ${MOST_TRIES} moments: there is none to compare a backup with`)
    } finally {
      await Promise.all(readers.map((reader) => reader.end()))
    }
  })
}

/** Ends the running file of the log and waits until it, too, stands among the backups; throws where it does not within `seconds`. */
export async function archived(url: string, walFile: string, seconds = 120): Promise<void> {
  await connected(url, async (admin) => {
    await admin.query('select pg_switch_wal()')
    for (let waited = 0; waited < seconds * 10; waited++) {
      const { rows } = await admin.query<{ last: string | null; failed: string | null }>(
        `select last_archived_wal as last, case when last_failed_time > coalesce(last_archived_time, '-infinity') then last_failed_wal end as failed
         from pg_stat_archiver`,
      )
      // Names of the log's files sort by age within a timeline, and a later timeline sorts later.
      if ((rows[0]?.last ?? '') >= walFile) return
      await sleep(100)
    }
    throw new Error(`The database’s log (${walFile}) did not reach the backups within ${seconds} s; see the database’s own log`)
  })
}
