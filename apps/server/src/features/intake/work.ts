import type { IntakeField } from '@evenround/core/intake'
import { say } from '@evenround/core/words'
import { Intake } from '../../db/entities/intake'
import { Firm } from '../../db/entities/master'
import type { FirmScope, InFirm } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'
import { dayIn } from '../../time/zone'
import { countsOf, planOf, readSheet } from './read'
import { writeIntake } from './store'

interface Working {
  inFirm: InFirm
  now: () => Date
  newId: () => string
  /** How far it is, is said at most so often. */
  saidEveryMs?: number
}

/** Somebody asked to stop: nothing of the list stands. */
class Stopped extends Error {}

/** Says how far a list is, in a transaction of its own, so that others see it; whether somebody asked to stop meanwhile. */
const told = async (scope: FirmScope, id: string, progress: number): Promise<boolean> => {
  const [row] = await scope.query<{ stop_asked: boolean }>(
    `with said as (update intake set progress = $3 where firm_id = $1 and id = $2 returning stop_asked) select stop_asked from said`,
    [id, progress],
  )
  return row?.stop_asked ?? true
}

/** One that waits is stopped at once, one at work at its next look; one that ended stays as it is. */
export const askToStop = (scope: FirmScope, id: string): Promise<unknown> =>
  scope.query(
    `update intake set stop_asked = state = 'working', state = case when state = 'waiting' then 'stopped' else state end
     where firm_id = $1 and id = $2 and state in ('waiting', 'working')`,
    [id],
  )

async function writeAll(scope: FirmScope, row: Intake, { now, newId }: Working, onShare: (share: number) => Promise<void>): Promise<void> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw notFound('firm')
  // One list of a firm at a time: the next one is held against what this one brought.
  await scope.query(`select pg_advisory_xact_lock(hashtextextended('intake' || $1::text, 0))`)
  const sheet = readSheet(row.source)
  const columns = row.columns.map((field) => (field === '' ? null : (field as IntakeField)))
  const { plan } = await planOf(scope, firm, now(), {
    sheet,
    columns,
    order: row.dateOrder === 'month-first' ? 'month-first' : 'day-first',
  })
  const left = plan.rows.filter(({ problems }) => problems.length > 0).length
  if (plan.rows.length === left) throw new ApiError('BAD_INPUT', say`No line of this list can be imported as it stands.`)
  const { id, personId } = row
  await writeIntake(
    scope,
    plan,
    { intakeId: id, personId, timeZone: firm.timeZone, today: dayIn(firm.timeZone, now()), now: now(), newId },
    onShare,
  )
  await scope.query(`update intake set state = 'done', progress = 1, left_out = $3, counts = $4, at = $5 where firm_id = $1 and id = $2`, [
    id,
    left,
    countsOf(plan),
    now(),
  ])
}

/**
 * Brings a list in that waits, in one transaction: all of it stands, or nothing does. One that a process left behind half done is begun
 * again. True when it is in.
 */
export async function workIntake(working: Working, firmId: string, id: string): Promise<boolean> {
  const { inFirm, saidEveryMs = 300 } = working
  const row = await inFirm(firmId, async (scope) => {
    const found = await scope.findOne(Intake, { id })
    if (found?.state !== 'waiting' && found?.state !== 'working') return null
    await scope.update(Intake, { id }, { state: 'working', progress: 0 })
    return found
  })
  if (row === null) return false
  let saidAt = Number.NEGATIVE_INFINITY
  const onShare = async (share: number): Promise<void> => {
    if (performance.now() - saidAt < saidEveryMs) return
    saidAt = performance.now()
    if (await inFirm(firmId, (scope) => told(scope, id, share))) throw new Stopped()
  }
  const ended = (state: 'stopped' | 'failed', failure: string | null) =>
    inFirm(firmId, (scope) => scope.update(Intake, { id }, { state, failure, progress: 0, stopAsked: false }))
  try {
    await onShare(0)
    await inFirm(firmId, (scope) => writeAll(scope, row, working, onShare))
    return true
  } catch (error) {
    if (error instanceof Stopped) await ended('stopped', null)
    else if (error instanceof ApiError) await ended('failed', error.more.fields?.[0]?.message ?? error.message)
    else {
      await ended('failed', say`It could not be written. Nothing was changed: try again.`)
      throw error
    }
    return false
  }
}
