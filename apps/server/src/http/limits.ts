import { createHash } from 'node:crypto'
import { say } from '@evenround/core/words'
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import type { DataSource } from 'typeorm'
import { ApiError } from './errors'

/**
 * How often somebody may ask for what is dear or guessable: so many times in so many seconds, by address where nobody is signed in yet,
 * else by person. An office behind one address signs in a hundred people in ten minutes; nobody uploads a photo a second all day.
 */
export const LIMITS = {
  'sign-in': { times: 100, seconds: 600 },
  link: { times: 60, seconds: 600 },
  setup: { times: 60, seconds: 600 },
  feed: { times: 240, seconds: 3600 },
  password: { times: 20, seconds: 600 },
  invitation: { times: 60, seconds: 3600 },
  calc: { times: 1200, seconds: 60 },
  photo: { times: 600, seconds: 600 },
  import: { times: 60, seconds: 600 },
  export: { times: 60, seconds: 3600 },
} as const satisfies Record<string, { times: number; seconds: number }>
export type LimitName = keyof typeof LIMITS
/** Counts one asking; refuses beyond the limit, with when to come again. */
export type Limit = (name: LimitName, who: string) => Promise<void>

/** What is kept of an address or a person: enough to tell one from another, and nothing to read. */
const keyOf = (who: string): string => createHash('sha256').update(who).digest('base64url')

/** Limits counted in the database: right whichever process is asked. */
export function limitsOn(source: DataSource, limits: Record<LimitName, { times: number; seconds: number }> = LIMITS): Limit {
  const limiters = new Map(
    Object.entries(limits).map(([name, { times, seconds }]) => [
      name,
      new RateLimiterPostgres({
        storeClient: source,
        storeType: 'typeorm',
        tableName: 'rate_limit',
        tableCreated: true,
        keyPrefix: name,
        points: times,
        duration: seconds,
        // Whoever is far beyond costs no statement any more.
        inMemoryBlockOnConsumed: times + 1,
      }),
    ]),
  )
  return async (name, who) => {
    try {
      await limiters.get(name)?.consume(keyOf(who))
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error
      const wait = Math.max(1, Math.ceil(error.msBeforeNext / 1000))
      throw new ApiError('SLOW_DOWN', say`That was asked too often. Try again in ${wait} seconds.`, { retryAfterS: wait })
    }
  }
}
