import type { Pool } from 'pg'
import type { DataSource } from 'typeorm'
import { TooManyWaiting } from './errors'
import { type InSessionScope, MOST_WAITING, poolOf, type SignedIn } from './scope'

const WHO_ASKS = `select n::int, session_id as "sessionId", w.firm_id as "firmId", person_id as "personId", name, role, skills, last_seen as "lastSeen", second_missing as "secondMissing",
  json_build_object('records', r.records::text, 'ticks', r.ticks::text) as revision
from unnest($1::text[], $2::timestamptz[]) with ordinality as a (token, at, n), lateral who_asks(a.token, a.at) w, lateral revision_of(w.firm_id) r`

/** Questions under way at the same time: what comes meanwhile goes together in the next one. */
const UNDER_WAY = 2
const MOST_TOGETHER = 64

interface Asked {
  token: string
  now: Date
  done: (found: SignedIn | null) => void
  failed: (error: unknown) => void
}

async function answer(pool: Pool | undefined, asked: readonly Asked[]): Promise<void> {
  try {
    if (!pool) throw new Error('the database is not connected')
    // Named, which the mapper cannot do: it comes with every request and is planned once for each connection.
    const values = [asked.map(({ token }) => token), asked.map(({ now }) => now)]
    const { rows } = await pool.query<SignedIn & { n: number }>({ name: 'who-asks', text: WHO_ASKS, values })
    const found = new Map(rows.map(({ n, ...who }) => [n, who]))
    for (const [index, { done }] of asked.entries()) done(found.get(index + 1) ?? null)
  } catch (error) {
    for (const { failed } of asked) failed(error)
  }
}

/**
 * The named exception of requests: from a sign-in's token to the person behind it, by a function that opens no more than that. Requests that
 * come at the same time are looked up in one statement. Each is looked up after it came: a sign-in that was ended before is never found.
 */
export function sessionScope(source: DataSource): InSessionScope {
  const waiting: Asked[] = []
  let underWay = 0
  let soon = false
  const ask = (): void => {
    soon = false
    while (underWay < UNDER_WAY && waiting.length > 0) {
      underWay++
      void answer(poolOf(source), waiting.splice(0, MOST_TOGETHER)).finally(() => {
        underWay--
        askSoon()
      })
    }
  }
  // After whatever else came in at the same turn of the event loop.
  const askSoon = (): void => {
    if (soon || waiting.length === 0) return
    soon = true
    setImmediate(ask)
  }
  return async (token, now) => {
    if ((poolOf(source)?.waitingCount ?? 0) >= MOST_WAITING || waiting.length >= MOST_WAITING)
      throw new TooManyWaiting('too many wait for a connection')
    return new Promise((done, failed) => {
      waiting.push({ token, now, done, failed })
      askSoon()
    })
  }
}
