import type { extraNewSchema, markNewSchema, publicationSchema, RoundState, SetPlan } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import type { z } from 'zod'
import { System } from '../../db/entities/master'
import { RoundExtra, RoundMarkRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import type { Who } from '../../http/env'
import { badInput, notFound } from '../../http/errors'
import type { Draft } from './draft'

/** Writes down what somebody decided about a visit; said twice it is written once. */
export async function addMark(
  scope: FirmScope,
  { set }: Draft,
  { window, ...mark }: z.output<typeof markNewSchema>,
  who: Who,
  now: Date,
): Promise<void> {
  if (set.visits.every(({ id }) => id !== mark.visitId))
    throw badInput([{ path: 'visitId', message: say`expected a visit of the round as it is now` }])
  if (mark.kind !== 'not-before' && !set.days.includes(mark.day))
    throw badInput([{ path: 'day', message: say`expected a day on which somebody is on the road, got ${mark.day}` }])
  if (await scope.findOne(RoundMarkRow, { id: mark.id })) return
  // One day is held at a time; a promise in a pin's stead takes it away.
  if (mark.kind === 'pin' || mark.kind === 'promise')
    await scope.query(`delete from round_mark where firm_id = $1 and visit_id = $2 and kind in ('pin', 'promise')`, [mark.visitId])
  const [fromMin, toMin] = window ?? [null, null]
  await scope.insert(RoundMarkRow, { ...mark, fromMin, toMin, madeBy: who.personId, madeAt: now })
}

export async function dropMark(scope: FirmScope, id: string): Promise<void> {
  if (!(await scope.findOne(RoundMarkRow, { id }))) throw notFound('mark')
  await scope.query('delete from round_mark where firm_id = $1 and id = $2', [id])
}

/** A visit that nothing is due for; said twice it is asked for once. */
export async function addExtra(scope: FirmScope, extra: z.output<typeof extraNewSchema>, who: Who, now: Date): Promise<void> {
  const system = await scope.findOne(System, { id: extra.systemId })
  if (!system) throw badInput([{ path: 'systemId', message: say`expected a system of this firm` }])
  if (extra.toDay < extra.fromDay) throw badInput([{ path: 'toDay', message: say`expected a last day no sooner than the first` }])
  if (await scope.findOne(RoundExtra, { id: extra.id })) return
  await scope.insert(RoundExtra, { ...extra, siteId: system.siteId, madeBy: who.personId, madeAt: now })
}

type Publication = z.infer<typeof publicationSchema>
/** What was published, the latest first. */
export async function publications(scope: FirmScope, most: number): Promise<Publication[]> {
  const rows = await scope.query<{ number: number; published_at: Date; by_name: string | null }>(
    `select p.number, p.published_at, person.name as by_name from round_publication p
     left join person on person.firm_id = p.firm_id and person.id = p.published_by
     where p.firm_id = $1 order by p.number desc limit $2`,
    [most],
  )
  return rows.map(({ number, published_at, by_name }) => ({ number, publishedAt: published_at.toISOString(), byName: by_name ?? '' }))
}

/** Calls a run off: one that waits is over at once, one that is worked on ends at its next step. */
export const callOff = (scope: FirmScope, runId: string): Promise<unknown> =>
  scope.query(
    `update round_run set cancelled = true, state = case when state = 'waiting' then 'cancelled' else state end
     where firm_id = $1 and id = $2 and state in ('waiting', 'running')`,
    [runId],
  )

/** The plan of a run (or of every run) is offered no more: it was applied, discarded, or another one was asked for. */
export const settle = (scope: FirmScope, runId: string | null, now: Date): Promise<unknown> =>
  scope.query('update round_run set settled_at = $3 where firm_id = $1 and settled_at is null and ($2::uuid is null or id = $2)', [
    runId,
    now,
  ])

interface RunRow {
  id: string
  set_id: string
  state: string
  share: number
  cost: number | null
  plan: SetPlan | null
  made_at: Date
  by_name: string
}

/** The plan that is offered, and the run that is under way; null where there is none. */
export async function runsNow(scope: FirmScope): Promise<Pick<RoundState, 'offered' | 'underWay'>> {
  const rows = await scope.query<RunRow>(
    `select r.id, r.set_id, r.state, r.share, r.cost, r.plan, r.made_at, p.name as by_name from round_run r
     join person p on p.firm_id = r.firm_id and p.id = r.asked_by
     where r.firm_id = $1 and r.settled_at is null and not r.cancelled order by r.made_at desc limit 1`,
  )
  const [run] = rows
  if (!run) return { offered: null, underWay: null }
  const { id, set_id: setId, made_at, by_name: byName, plan, state, share, cost } = run
  const going = state === 'waiting' || state === 'running'
  return {
    offered: !going && plan ? { id, setId, plan, madeAt: made_at.toISOString(), byName } : null,
    underWay: going ? { id, share, cost } : null,
  }
}

/** Whether there is a set of this id: looked for and not read, since sets are large. */
export async function hasSet(scope: FirmScope, id: string): Promise<boolean> {
  const [found] = await scope.query('select 1 from round_set where firm_id = $1 and id = $2', [id])
  return found !== undefined
}
