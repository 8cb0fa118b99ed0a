import { setTimeout as sleep } from 'node:timers/promises'
import { Client } from 'pg'
import { connected, databasesOf, inDatabase, printOf, type ServerPrint } from './fingerprint'

const MOST_TRIES = 1000
const PAUSE_MS = 5

/** A moment of a server that can be restored to by its name, and what stood in every database just then. */
export interface Point {
  name: string
  /** The last file of the log that is wanted for it. */
  walFile: string
  print: ServerPrint
}

/** What the name of a moment takes in the log, and one that meets the end of a page there (short heads of pages are 24 bytes). */
const NAME_BYTES = new Set([104, 128])

const BEGIN = 'begin isolation level repeatable read read only; select 1'
const named = (name: string): string => `select pg_create_restore_point('${name}')::text as lsn`
/** A transaction holds this lock from its first change until everybody sees what it did. */
const WRITING = `select count(*)::int as writing from pg_locks where locktype = 'transactionid' and mode = 'ExclusiveLock'`

/** Several statements in one message, as little apart as can be; every row they answer with. */
async function atOnce(client: Client, ...statements: string[]): Promise<Record<string, unknown>[]> {
  const answers: unknown = await client.query(statements.join('; '))
  return [answers].flat().flatMap((one) => (one as { rows?: Record<string, unknown>[] }).rows ?? [])
}

/**
 * Names a moment and lets every reader's transaction begin at it; null where somebody wrote meanwhile. A first name is put into the log,
 * then nobody may be writing, then the readers begin, then the second name is put there: where nothing stands between the two names in the
 * log, whatever was committed before the second is seen by the readers, and nothing else is.
 */
async function tryPoint([first, ...others]: readonly Client[], name: string): Promise<{ lsn: string } | null> {
  if (!first) return null
  const [before, after] = [named(`${name}-before`), named(name)]
  // Read by name of what they answer, whatever message they came in.
  const rows: Record<string, unknown>[] = []
  if (others.length === 0) rows.push(...(await atOnce(first, before, WRITING, 'commit', BEGIN, after)))
  else {
    rows.push(...(await atOnce(first, before, WRITING)))
    for (const other of others) await atOnce(other, BEGIN)
    rows.push(...(await atOnce(first, BEGIN, after)))
  }
  const [from, to] = rows.flatMap(({ lsn }) => (typeof lsn === 'string' ? [lsn] : []))
  const writing = rows.find((row) => 'writing' in row)?.writing
  return from !== undefined && to !== undefined && writing === 0 && NAME_BYTES.has(bytesBetween(from, to)) ? { lsn: to } : null
}

/** Places in the log are written as two hexadecimal numbers of 32 bits. */
const placeOf = (lsn: string): bigint => lsn.split('/').reduce((sum, part) => sum * 2n ** 32n + BigInt(`0x${part}`), 0n)
const bytesBetween = (from: string, to: string): number => Number(placeOf(to) - placeOf(from))

/**
 * Names a moment and sums up what stands in the server at that very moment, while people go on working. Throws where the server is never
 * still that long.
 */
export async function takePoint(url: string, name: string): Promise<Point> {
  const names = await connected(url, databasesOf)
  const readers = names.map((database) => new Client({ connectionString: inDatabase(url, database) }))
  await Promise.all(readers.map((reader) => reader.connect()))
  try {
    for (let tries = 0; tries < MOST_TRIES; tries++) {
      const moment = `${name}-${tries}`
      const point = await tryPoint(readers, moment)
      if (point !== null) {
        const print: ServerPrint = {}
        for (const [index, reader] of readers.entries()) print[names[index] ?? ''] = await printOf(reader)
        const { rows } = await connected(url, (admin) =>
          admin.query<{ file: string }>('select pg_walfile_name($1::pg_lsn) as file', [point.lsn]),
        )
        return { name: moment, walFile: rows[0]?.file ?? '', print }
      }
      await Promise.all(readers.map((reader) => reader.query('rollback')))
      await sleep(PAUSE_MS)
    }
    throw new Error(`The database was written to at every one of ${MOST_TRIES} moments: there is none to compare a backup with`)
  } finally {
    await Promise.all(readers.map((reader) => reader.end()))
  }
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
