import type { Client } from 'pg'
import { connected, databasesOf, inDatabase } from './fingerprint'

/** One try to back a server up. */
export interface Attempt {
  beganAt: Date
  endedAt: Date
  kind: 'full' | 'incremental'
  /** It was restored into a throw-away server, and every firm's data there was the same; null where that was not asked. */
  checked: boolean | null
  /** What went wrong; null where it is good. */
  failed: string | null
  /** Whole size of what is kept, bytes; null where it is not known. */
  bytes: number | null
}

/** When the last good one began; of a server without any, null. */
export const LAST_GOOD = 'select max(began_at) as at from backup_attempt where failed is null'

/** Does it in every database of the server that notes its backups. */
async function whereNoted(url: string, work: (client: Client) => Promise<void>): Promise<void> {
  for (const name of await connected(url, databasesOf))
    await connected(inDatabase(url, name), async (client) => {
      const { rows } = await client.query<{ there: boolean }>(`select to_regclass('public.backup_attempt') is not null as there`)
      if (rows[0]?.there) await work(client)
    })
}

/** Writes a try down in every database, for the owners in it to see. */
export const noteAttempt = (url: string, { beganAt, endedAt, kind, checked, failed, bytes }: Attempt): Promise<void> =>
  whereNoted(url, async (client) => {
    await client.query(
      'insert into backup_attempt (began_at, ended_at, kind, checked, failed, bytes) values ($1, $2, $3, $4, $5, $6) on conflict do nothing',
      [beganAt, endedAt, kind, checked, failed, bytes],
    )
  })

/** Since when every database has been in a good backup: the last good one of the database whose last is the oldest; null where one has none. */
export async function lastGood(url: string): Promise<Date | null> {
  const all: (Date | null)[] = []
  await whereNoted(url, async (client) => {
    const { rows } = await client.query<{ at: Date | null }>(LAST_GOOD)
    all.push(rows[0]?.at ?? null)
  })
  return all.reduce<Date | null>((oldest, at) => (at === null || oldest === null || at > oldest ? oldest : at), all[0] ?? null)
}
