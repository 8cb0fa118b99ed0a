import { inputOfSet } from '@evenround/contract/round-set'
import type { Move, RoundSet, SetPlan } from '@evenround/contract/rounds'
import { bestSpot, fromPlan, planOfSolution, problemOf, roundCost, type Solution, unplannedOf } from '@evenround/core/round'
import { say } from '@evenround/core/words'
import { RoundDraft, RoundSetRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { ApiError, badInput } from '../../http/errors'
import { waysStamp } from '../travel/stamp'
import { makeSet, type SetDeps, type Standing } from './set'
import { currentYearId } from './year-in-force'

export interface Draft {
  set: RoundSet
  standing: Standing[]
  row: RoundDraft
}

const planOf = (s: Solution): SetPlan => {
  const { days, unplanned, cost } = planOfSolution(s)
  return { days, unplanned, cost }
}

/** A plan's days by their dates, so that it can be put into a set made on another day. */
function byDate(set: RoundSet, plan: SetPlan): { technician: string; day: string; visits: string[] }[] {
  return plan.days.map(({ technician, day, stops }) => ({ technician, day: set.days[day] ?? '', visits: stops.map(({ visit }) => visit) }))
}

/** What stood in the plan before, as far as it still fits, and what the road has that the plan did not. */
export function carryOver(
  set: RoundSet,
  before: readonly { technician: string; day: string; visits: string[] }[],
  standing: readonly Standing[],
): SetPlan {
  const lines = new Map<string, { technician: string; day: number; visits: string[] }>()
  const put = (technician: string, day: string, visit: string): void => {
    const at = set.days.indexOf(day)
    if (at < 0) return
    const key = `${technician}/${at}`
    const line = lines.get(key) ?? { technician, day: at, visits: [] }
    line.visits.push(visit)
    lines.set(key, line)
  }
  const seen = new Set<string>()
  for (const { technician, day, visits } of before)
    for (const visit of visits) {
      seen.add(visit)
      put(technician, day, visit)
    }
  for (const { technician, day, visit } of standing) if (!seen.has(visit)) put(technician, day, visit)
  const days = [...lines.values()].map(({ technician, day, visits }) => ({
    technician,
    day,
    stops: visits.map((visit) => ({ visit, arriveMin: 0, startMin: 0, leaveMin: 0 })),
  }))
  return planOf(fromPlan(problemOf(inputOfSet(set)), { days }))
}

/** Sets never change: the last ones asked for are kept beside the database, which would have to read each out again. */
const MOST_KEPT = 6
const keptSets = new Map<string, RoundSet>()

/** What was to be planned, by its id. */
export async function setById(scope: FirmScope, id: string): Promise<RoundSet | null> {
  const key = `${scope.firmId}/${id}`
  const set = keptSets.get(key) ?? (await scope.findOne(RoundSetRow, { id }))?.set
  if (!set) return null
  keptSets.delete(key)
  keptSets.set(key, set)
  for (const oldest of keptSets.keys()) {
    if (keptSets.size <= MOST_KEPT) break
    keptSets.delete(oldest)
  }
  return set
}

/**
 * Whether a set still is what is to be planned: of today, by the plan of the year in force and the ways as they are known, with none of its work done since. Else it is
 * made again, the plan carried over.
 */
async function isOfNow(scope: FirmScope, set: RoundSet, today: string): Promise<boolean> {
  if (set.today !== today) return false
  const [year, ways, done] = await Promise.all([currentYearId(scope), waysStamp(scope), doneSince(scope, set)])
  return (set.byYear ?? null) === year && (set.ways ?? ways) === ways && !done
}

/** Whether work that a set still plans was done since it was made. */
async function doneSince(scope: FirmScope, { madeAt, visits }: RoundSet): Promise<boolean> {
  const stages = visits.flatMap(({ stops }) => stops.flatMap(({ tasks }) => tasks.map(({ stageId }) => stageId)))
  const [done] = await scope.query(
    `select 1 from fact_part_fitted f join fact_visit_finished v on v.firm_id = $1 and v.visit_id = f.visit_id and v.arrived_at > $2
     where f.firm_id = $1 and f.stage_id = any($3) and f.arrived_at > $2::timestamptz - interval '1 day' limit 1`,
    [madeAt, stages],
  )
  return done !== undefined
}

/** The firm's plan in the making as it stands; null where there is none, or none of today. Locks and writes nothing. */
export async function seenDraft(scope: FirmScope, today: string): Promise<Draft | null> {
  const row = await scope.findOne(RoundDraft, {})
  const set = row && (await setById(scope, row.setId))
  return row && set && (await isOfNow(scope, set, today)) ? { set, standing: await standingNow(scope, set), row } : null
}

/** The firm's plan in the making, locked for this transaction; made from the road as it stands where there is none, or none of today. */
export async function openDraft(scope: FirmScope, deps: SetDeps, today: string, personId: string, fresh = false): Promise<Draft> {
  await scope.query('select pg_advisory_xact_lock(hashtextextended($1::text, 10))', [])
  const row = await scope.findOne(RoundDraft, {})
  const kept = row && (await setById(scope, row.setId))
  if (row && kept && !fresh && (await isOfNow(scope, kept, today))) return { set: kept, standing: await standingNow(scope, kept), row }
  const { set, standing } = await makeSet(scope, deps)
  const plan = carryOver(set, row && kept ? byDate(kept, row.plan) : [], standing)
  const next = {
    setId: set.id,
    plan,
    version: (row?.version ?? 0) + 1,
    changedAt: row?.changedAt ?? deps.now,
    changedBy: row?.changedBy ?? personId,
  }
  if (row) await scope.update(RoundDraft, {}, next)
  else await scope.insert(RoundDraft, next)
  return { set, standing: await standingNow(scope, set), row: { firmId: scope.firmId, ...next } }
}

/** Where the road has the visits of a set that was made earlier. */
async function standingNow(scope: FirmScope, set: RoundSet): Promise<Standing[]> {
  const visitOf = new Map(set.visits.flatMap(({ id, stops }) => stops.map(({ stopId }) => [stopId, id] as const)))
  const rows = await scope.query<{ id: string; technician_id: string; day: string }>(
    'select id, technician_id, day from stop where firm_id = $1 and id = any($2) and day > $3 order by day, id',
    [[...visitOf.keys()], set.today],
  )
  const all = new Map<string, Standing>()
  for (const { id, technician_id, day } of rows) {
    const visit = visitOf.get(id)
    if (visit !== undefined) all.set(visit, { visit, technician: technician_id, day })
  }
  return [...all.values()]
}

export const sameSet = (draft: Draft, setId: string): void => {
  if (draft.set.id !== setId)
    throw new ApiError('STALE_VERSION', say`What is to be planned has changed meanwhile. Look at the round as it is now.`, {
      current: { version: draft.row.version, setId: draft.set.id },
    })
}

async function store(scope: FirmScope, draft: Draft, plan: SetPlan, personId: string, now: Date): Promise<RoundDraft> {
  const next = { version: draft.row.version + 1, plan, changedBy: personId, changedAt: now }
  await scope.update(RoundDraft, {}, next)
  return { ...draft.row, ...next }
}

const nameOf = ({ set }: Draft, visitId: string): string => set.visits.find(({ id }) => id === visitId)?.siteName ?? say`this visit`

/**
 * Carries one visit. Two people's moves never undo one another: a move is done on the plan as it stands now, and refused only where the
 * visit itself is no longer where its mover saw it, or no longer fits.
 */
export async function carry(
  scope: FirmScope,
  draft: Draft,
  { visitId, from, to }: Move,
  who: { personId: string },
  now: Date,
): Promise<RoundDraft> {
  const p = problemOf(inputOfSet(draft.set))
  const s = fromPlan(p, draft.row.plan)
  const v = draft.set.visits.findIndex(({ id }) => id === visitId)
  if (v < 0) throw badInput([{ path: 'visitId', message: say`expected a visit of this set` }])
  const route = s.where[v] as number
  const here = route < 0 ? null : { technician: p.technicians[s.technicianOf(route)]?.id ?? '', day: s.dayOf(route) }
  if (here?.technician !== from?.technician || here?.day !== from?.day)
    throw new ApiError(
      'CONFLICT',
      say`Somebody moved ${nameOf(draft, visitId)} meanwhile: it stands on ${(here && draft.set.days[here.day]) ?? say`no day`} now.`,
    )
  s.remove(v)
  if (to) {
    const t = p.technicians.findIndex(({ id }) => id === to.technician)
    if (t < 0 || to.day >= p.nDays) throw badInput([{ path: 'to', message: say`expected a technician and a day of this set` }])
    const target = t * p.nDays + to.day
    const at = Math.min(to.at, s.routes[target]?.length ?? 0)
    const placed = s.insert(v, target, at) || placeAnywhere(s, v, target)
    if (!placed) throw new ApiError('CONFLICT', say`${nameOf(draft, visitId)} does not fit on that day any more; it was left where it was.`)
  }
  return store(scope, draft, planOf(s), who.personId, now)
}

function placeAnywhere(s: Solution, v: number, route: number): boolean {
  if (!s.mayStand(v, route)) return false
  const { at } = bestSpot(s, v, route)
  return at >= 0 && s.insert(v, route, at)
}

/** Puts a whole plan in the draft's stead; what breaks a hard rule is refused with the rule. */
export async function replacePlan(
  scope: FirmScope,
  draft: Draft,
  version: number,
  days: SetPlan['days'],
  who: { personId: string },
  now: Date,
): Promise<RoundDraft> {
  if (draft.row.version !== version)
    throw new ApiError('STALE_VERSION', say`Somebody changed the plan meanwhile. Look at it, and plan again with it kept.`, {
      current: { version: draft.row.version, setId: draft.set.id },
    })
  const input = inputOfSet(draft.set)
  const { cost, broken } = roundCost(input, { days })
  if (broken.length > 0)
    throw badInput(broken.slice(0, 20).map(({ text, day }) => ({ path: day === undefined ? 'days' : `days[${day}]`, message: text })))
  return store(scope, draft, { days, unplanned: unplannedOf(fromPlan(problemOf(input), { days })), cost }, who.personId, now)
}

/** Puts visits that are held to a day, and stand nowhere, on that day: somebody just pinned or promised them. */
export async function placeHeld(scope: FirmScope, draft: Draft, who: { personId: string }, now: Date): Promise<RoundDraft> {
  const p = problemOf(inputOfSet(draft.set))
  const s = fromPlan(p, draft.row.plan)
  let placed = 0
  for (let v = 0; v < p.nVisits; v++) {
    const day = p.pinned[v] as number
    if ((s.where[v] as number) >= 0 || day < 0) continue
    const spots = (p.able[v] as number[])
      .map((t) => t * p.nDays + day)
      .filter((route) => s.mayStand(v, route))
      .map((route) => ({ route, ...bestSpot(s, v, route) }))
      .filter(({ at }) => at >= 0)
      .sort((a, b) => a.delta - b.delta)
    const [best] = spots
    if (best && s.insert(v, best.route, best.at)) placed++
  }
  return placed === 0 ? draft.row : store(scope, draft, planOf(s), who.personId, now)
}
