/** SQLSTATE classes and socket errors that mean the database is away, or too slow or too full to answer; the request was not wrong. */
const AWAY_STATES = /^(08|57P|57014|55P03|53)/
const AWAY_CODES = new Set(['ECONNREFUSED', 'ECONNRESET', 'ENOENT', 'EPIPE', 'ETIMEDOUT'])
const AWAY_WORDS =
  /connection terminated|timeout exceeded when trying to connect|connection timeout|not queryable|client has encountered a connection error/i
/** What TypeORM says of a connection that died under a transaction. */
const LOST_WORDS = /already released|transaction is not started|is not established/i

export function databaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false
  const { code } = error as { code?: unknown }
  if (typeof code === 'string' && (AWAY_STATES.test(code) || AWAY_CODES.has(code))) return true
  if (AWAY_WORDS.test(error.message) || LOST_WORDS.test(error.message)) return true
  return error instanceof AggregateError && error.errors.some(databaseAway)
}

/** So many wait for a connection already that one more would only wait to be turned away. */
export class TooManyWaiting extends Error {}

/** Nothing was wrong with what was sent: the whole of it is to come again. */
export const toComeAgain = (error: unknown): boolean => error instanceof TooManyWaiting || databaseAway(error)

/** The database ended one of two transactions that waited for each other (SQLSTATE class 40): nothing of it stands, and it may come again. */
export const gaveWay = (error: unknown): boolean => /^40/.test(String((error as { code?: unknown } | null)?.code ?? ''))

/** A value the database cannot hold (SQLSTATE class 22): a control character, a year out of range. The request was wrong, not the server. */
export const cannotHold = (error: unknown): boolean => /^22/.test(String((error as { code?: unknown } | null)?.code ?? ''))

/** SQLSTATE of a breach of uniqueness or of a reference. */
export function breach(error: unknown): 'unique' | 'reference' | null {
  const code = (error as { code?: unknown } | null)?.code
  if (code === '23505') return 'unique'
  return code === '23503' ? 'reference' : null
}
