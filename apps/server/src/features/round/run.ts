import { inputOfSet } from '@evenround/contract/round-set'
import type { RoundSet, SetPlan } from '@evenround/contract/rounds'
import type { GivenPlan, RoundInput } from '@evenround/core/round'
import { joinPlans, splitRound } from '@evenround/core/round/large'
import { say } from '@evenround/core/words'
import { RoundDraft, RoundRunRow, RoundSetRow } from '../../db/entities/round'
import { databaseAway } from '../../db/errors'
import type { FirmScope, InFirm } from '../../db/scope'

/** Asked of a worker thread: a plan of this input within these seconds, going on from another where there is one. */
export interface PlanAsk {
  input: RoundInput
  seconds: number
  from: GivenPlan | null
}
export type PlanInThread = (ask: PlanAsk) => Promise<{ days: SetPlan['days']; cost: number }>

export interface RunDeps {
  inFirm: InFirm
  now: () => Date
  plan: PlanInThread
}

/** Rounds up to this many visits are searched whole, in turns that each go on from the one before; larger ones technician by technician. */
const WHOLE_VISITS = 400
const TURNS = 4
const TURN_SECONDS = 4
const PART_SECONDS = 14
const AT_ONCE = 2

interface Task {
  key: string
  input: RoundInput
  seconds: number
}

function tasksOf(input: RoundInput): { tasks: Task[]; whole: boolean } {
  if (input.visits.length <= WHOLE_VISITS)
    return { whole: true, tasks: Array.from({ length: TURNS }, (_, turn) => ({ key: `turn-${turn}`, input, seconds: TURN_SECONDS })) }
  return {
    whole: false,
    tasks: splitRound(input).map(({ technician, input: part }) => ({ key: technician, input: part, seconds: PART_SECONDS })),
  }
}

const load = (scope: FirmScope, id: string): Promise<RoundRunRow | null> => scope.findOne(RoundRunRow, { id })

/** Keeps what a part came to, unless somebody called the run off meanwhile. */
async function keep(
  deps: RunDeps,
  firmId: string,
  id: string,
  patch: Partial<RoundRunRow>,
  part?: { key: string; days: SetPlan['days'] },
): Promise<void> {
  await deps.inFirm(firmId, async (scope) => {
    if (part)
      await scope.query(`update round_run set parts = parts || jsonb_build_object($3::text, $4::jsonb) where firm_id = $1 and id = $2`, [
        id,
        part.key,
        JSON.stringify(part.days),
      ])
    await scope.update(RoundRunRow, { id }, { ...patch, changedAt: deps.now() })
  })
}

/** Whoever works a run tells of each part sooner than this; one that is silent for longer was killed, and another takes it over. */
const SILENT_SECONDS = 30

/** Takes a run that nobody works: one waits until its worker is done or has been silent for long. */
async function claim(deps: RunDeps, firmId: string, id: string): Promise<boolean> {
  const now = deps.now()
  const taken = await deps.inFirm(firmId, (scope) =>
    scope.query<{ id: string }>(
      `with mine as (update round_run set state = 'running', changed_at = $3 where firm_id = $1 and id = $2
         and (state = 'waiting' or changed_at < $3::timestamptz - interval '${SILENT_SECONDS} seconds') returning id) select id from mine`,
      [id, now],
    ),
  )
  return taken.length > 0
}

/**
 * Works a run until it is done, called off, or `goOn` says no; true when nothing of it is left to do. Each part is kept as it comes: after
 * a kill the run goes on with the parts that are missing.
 */
export async function workRun(deps: RunDeps, firmId: string, id: string, goOn: () => boolean): Promise<boolean> {
  const { row, set, draft } = await deps.inFirm(firmId, async (scope) => {
    const found = await load(scope, id)
    const kept = found ? await scope.findOne(RoundSetRow, { id: found.setId }) : null
    const open = await scope.findOne(RoundDraft, {})
    // A plan goes on from the one in the making: what need not move does not.
    return { row: found, set: kept?.set ?? null, draft: open && open.setId === found?.setId ? open.plan.days : null }
  })
  if (!row || !set || (row.state !== 'waiting' && row.state !== 'running')) return true
  if (!(await claim(deps, firmId, id))) return false
  try {
    return await workParts(deps, firmId, { row, set, draft }, goOn)
  } catch (error) {
    // With the database away the run waits for it; anything else would only fail again.
    if (databaseAway(error)) throw error
    await keep(deps, firmId, id, { state: 'failed', message: say`The plan could not be worked out; the round stays as it was. Try again.` })
    throw error
  }
}

interface Open {
  row: RoundRunRow
  set: RoundSet
  draft: SetPlan['days'] | null
}

async function workParts(deps: RunDeps, firmId: string, { row, set, draft }: Open, goOn: () => boolean): Promise<boolean> {
  const { id } = row
  const input = inputOfSet(set)
  const { tasks, whole } = tasksOf(input)
  const parts: Record<string, SetPlan['days']> = { ...row.parts }
  const left = tasks.filter(({ key }) => parts[key] === undefined)
  while (left.length > 0) {
    if (!goOn()) {
      await keep(deps, firmId, id, { state: 'waiting' })
      return false
    }
    const [current] = await deps.inFirm(firmId, (scope) =>
      scope.query<{ cancelled: boolean }>('select cancelled from round_run where firm_id = $1 and id = $2', [id]),
    )
    if (!current || current.cancelled) {
      await keep(deps, firmId, id, { state: 'cancelled', message: say`Cancelled; the plan stays as it was.` })
      return true
    }
    const now = left.splice(0, whole ? 1 : AT_ONCE)
    await Promise.all(
      now.map(async ({ key, input: part, seconds }) => {
        const last = whole ? (Object.values(parts).at(-1) ?? draft) : null
        const { days, cost } = await deps.plan({ input: part, seconds, from: last ? { days: last } : null })
        parts[key] = days
        const share = Object.keys(parts).length / tasks.length
        await keep(deps, firmId, id, { share: Math.min(0.99, share), ...(whole ? { cost } : {}) }, { key, days })
      }),
    )
  }
  await finish(deps, firmId, id, set, whole ? [Object.values(parts).at(-1) ?? []] : Object.values(parts))
  return true
}

async function finish(deps: RunDeps, firmId: string, id: string, set: RoundSet, parts: SetPlan['days'][]): Promise<void> {
  const { days, unplanned, cost } = joinPlans(
    inputOfSet(set),
    parts.map((one) => ({ days: one })),
  )
  await keep(deps, firmId, id, { state: 'done', share: 1, cost: cost.total, plan: { days, unplanned, cost }, message: '' })
}
