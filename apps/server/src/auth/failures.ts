import { say } from '@evenround/core/words'
import type { InAuthScope } from '../db/scope'
import { ApiError } from '../http/errors'

/** The first few slips cost nothing; each one after them doubles the wait. */
const FREE_FAILURES = 5
const FIRST_WAIT_S = 5
const LONGEST_WAIT_S = 900
/** A quarter of an hour without a failure wipes the slate. */
const FORGET_AFTER_S = 900
/** Nobody waits longer than a quarter of an hour: what is older says nothing any more. */
const KEPT_MS = 86_400_000

/** Seconds to wait after this many failures in a row. */
export function waitAfter(failures: number): number {
  if (failures < FREE_FAILURES) return 0
  return Math.min(LONGEST_WAIT_S, FIRST_WAIT_S * 2 ** (failures - FREE_FAILURES))
}

/**
 * Counts a try before it is looked at, so that of many at once no more are looked at than may; refuses whoever has to wait. Also for
 * e-mails nobody has, so that the wait tells nothing about who exists. What turns out right is forgotten again. `tries` are
 * "too many …", for the person.
 */
export async function countTry(inAuthScope: InAuthScope, who: string, now: Date, tries: string): Promise<void> {
  const locked = await inAuthScope(async (manager): Promise<Date | null> => {
    const [counted] = await manager.query<{ failures: number }[]>(
      `insert into sign_in_failure as f (who, failures, last_at, locked_until) values ($1, 1, $2, $2)
       on conflict (who) do update set last_at = $2,
         failures = case when f.last_at < $2::timestamptz - make_interval(secs => $3) then 1 else f.failures + 1 end
       where f.locked_until <= $2
       returning failures`,
      [who, now, FORGET_AFTER_S],
    )
    if (counted) {
      const until = new Date(now.getTime() + waitAfter(counted.failures) * 1000)
      await manager.query('update sign_in_failure set locked_until = $2 where who = $1', [who, until])
      return null
    }
    const [row] = await manager.query<{ locked_until: Date }[]>('select locked_until from sign_in_failure where who = $1', [who])
    return row?.locked_until ?? null
  })
  if (locked === null) return
  const wait = Math.max(1, Math.ceil((locked.getTime() - now.getTime()) / 1000))
  throw new ApiError('SLOW_DOWN', say`Too many ${tries}. Try again in ${wait} seconds.`, { retryAfterS: wait })
}

/** Tries that turned out right, or after which somebody came in another way. */
export async function forgetTries(inAuthScope: InAuthScope, who: string): Promise<void> {
  await inAuthScope((manager) => manager.query('delete from sign_in_failure where who = $1', [who]))
}

/** Throws away what nobody waits for any more. */
export async function purgeTries(inAuthScope: InAuthScope, now: Date): Promise<void> {
  await inAuthScope((manager) => manager.query('delete from sign_in_failure where last_at < $1', [new Date(now.getTime() - KEPT_MS)]))
}
