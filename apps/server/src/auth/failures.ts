import { say } from '@evenround/core/words'
import type { InAuthScope } from '../db/scope'
import { ApiError } from '../http/errors'

/** The first few slips cost nothing; each one after them doubles the wait. */
const FREE_FAILURES = 5
const FIRST_WAIT_S = 5
const LONGEST_WAIT_S = 900
/** A quarter of an hour without a failure wipes the slate. */
const FORGET_AFTER_S = 900

/** Seconds to wait after this many failures in a row. */
export function waitAfter(failures: number): number {
  if (failures < FREE_FAILURES) return 0
  return Math.min(LONGEST_WAIT_S, FIRST_WAIT_S * 2 ** (failures - FREE_FAILURES))
}

/** Whole seconds still to wait before this e-mail may try again; 0 when it may. */
async function secondsLocked(inAuthScope: InAuthScope, who: string, now: Date): Promise<number> {
  const [row] = await inAuthScope<{ locked_until: Date }[]>((manager) =>
    manager.query('select locked_until from sign_in_failure where who = $1', [who]),
  )
  return row ? Math.max(0, Math.ceil((row.locked_until.getTime() - now.getTime()) / 1000)) : 0
}

/** Refuses for as long as this one has to wait; `tries` are "too many …", for the person. */
export async function refuseLocked(inAuthScope: InAuthScope, who: string, now: Date, tries: string): Promise<void> {
  const wait = await secondsLocked(inAuthScope, who, now)
  if (wait > 0) throw new ApiError('SLOW_DOWN', say`Too many ${tries}. Try again in ${wait} seconds.`, { retryAfterS: wait })
}

/** Counts one failure, also for e-mails nobody has, so that the wait tells nothing about who exists. */
export async function countFailure(inAuthScope: InAuthScope, who: string, now: Date): Promise<void> {
  await inAuthScope(async (manager) => {
    const [row] = await manager.query<{ failures: number }[]>(
      `insert into sign_in_failure (who, failures, last_at, locked_until) values ($1, 1, $2, $2)
       on conflict (who) do update set last_at = $2,
         failures = case when sign_in_failure.last_at < $2::timestamptz - make_interval(secs => $3) then 1 else sign_in_failure.failures + 1 end
       returning failures`,
      [who, now, FORGET_AFTER_S],
    )
    const until = new Date(now.getTime() + waitAfter(row?.failures ?? 0) * 1000)
    await manager.query('update sign_in_failure set locked_until = $2 where who = $1', [who, until])
  })
}

export async function forgetFailures(inAuthScope: InAuthScope, who: string): Promise<void> {
  await inAuthScope((manager) => manager.query('delete from sign_in_failure where who = $1', [who]))
}
