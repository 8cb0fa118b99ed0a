import { type RuledStage, ruleOf, type StageSummary } from '@evenround/core/wear'
import { Firm } from '../../db/entities/master'
import type { FirmScope, InFirm } from '../../db/scope'
import { dayIn } from '../../time/zone'
import { type KnownStage, knownOfSystems } from './inputs'

/** Stages a batch: small enough to be done again after a kill, large enough to read in bulk. */
const BATCH = 400

export interface RefreshDeps {
  inFirm: InFirm
  now: () => Date
  /** Summaries in a worker thread, in the order of the stages. */
  summarise: (stages: readonly RuledStage[]) => Promise<(StageSummary | null)[]>
}

interface Waiting {
  stage_id: string
  system_id: string
  marked_at: string
}

/** A day to change that moves by itself: from some day on the part's own readings say more than its rule. */
const markTurned = (scope: FirmScope, today: string, now: Date): Promise<unknown> =>
  scope.query(
    `insert into stale_stage (firm_id, stage_id, marked_at) select f.firm_id, f.stage_id, $3 from stage_forecast f
     where f.firm_id = $1 and f.turns_on <= $2 on conflict do nothing`,
    [today, now],
  )

/** Some marks, and every other mark of the systems they fall in: a system is read once. */
const waiting = (scope: FirmScope): Promise<Waiting[]> =>
  scope.query(
    `with first as (
       select stage.system_id from stale_stage s join stage on stage.firm_id = s.firm_id and stage.id = s.stage_id
       where s.firm_id = $1 order by s.stage_id limit ${BATCH})
     select s.stage_id, stage.system_id, s.marked_at::text from stale_stage s
     join stage on stage.firm_id = s.firm_id and stage.id = s.stage_id
     where s.firm_id = $1 and stage.system_id in (select distinct system_id from first)`,
  )

/** A row by the names of its columns. */
function forecastRow(firmId: string, known: KnownStage, summary: StageSummary, now: Date): Record<string, unknown> {
  const { node, row, current, school, rule } = known
  const { curve, due, p10, p50, p90, governing } = summary
  return {
    firm_id: firmId,
    stage_id: node.id,
    system_id: row.systemId,
    site_id: row.siteId,
    media: node.media,
    part_number: current?.partNumber ?? '',
    fitted_on: curve.fittedOn,
    fitted_known: current?.dateKnown ?? true,
    days: curve.days,
    survival: curve.survival,
    // What is spent stands in the list from that day on, whatever day its rule says.
    due_on: due.spentOn < due.due ? due.spentOn : due.due,
    window_from: due.windowFrom,
    window_to: due.windowTo,
    rule,
    due,
    spent_on: due.spentOn,
    turns_on: due.turnsOn,
    advice: due.advice,
    p10,
    p50,
    p90,
    governing,
    school: school.inForce,
    computed_at: now.toISOString(),
  }
}

const COLUMNS =
  'firm_id, stage_id, system_id, site_id, media, part_number, fitted_on, fitted_known, days, survival, due_on, window_from, window_to, p10, p50, p90, governing, school, rule, due, spent_on, turns_on, advice, computed_at'

async function store(scope: FirmScope, done: readonly Waiting[], rows: readonly Record<string, unknown>[]): Promise<void> {
  const ids = done.map(({ stage_id }) => stage_id)
  await scope.query('delete from stage_forecast where firm_id = $1 and stage_id = any($2)', [ids])
  // One statement for the batch, rows as JSON: arrays of arrays cannot be unnested. What has left has no day to change.
  await scope.query(
    `insert into stage_forecast (${COLUMNS}) select ${COLUMNS} from json_populate_recordset(null::stage_forecast, $2::json) r
     where r.firm_id = $1 and exists (select 1 from system y where y.firm_id = $1 and y.id = r.system_id and y.gone_at is null)`,
    [JSON.stringify(rows)],
  )
  // A mark set again meanwhile is newer than the one this batch answers, and stays.
  await scope.query(
    `delete from stale_stage s using unnest($2::uuid[], $3::timestamptz[]) as done (stage_id, marked_at)
     where s.firm_id = $1 and s.stage_id = done.stage_id and s.marked_at = done.marked_at`,
    [ids, done.map(({ marked_at }) => marked_at)],
  )
}

/** One batch of a firm's stale stages; how many it did, 0 when none waits. Reading and storing are transactions of their own. */
async function refreshBatch(deps: RefreshDeps, firmId: string): Promise<number> {
  const now = deps.now()
  const { marks, known } = await deps.inFirm(firmId, async (scope) => {
    const firm = await scope.findOne(Firm, {})
    if (firm) await markTurned(scope, dayIn(firm.timeZone, now), now)
    const marks = await waiting(scope)
    if (marks.length === 0 || !firm) return { marks: [], known: new Map<string, KnownStage>() }
    const context = { firm, today: dayIn(firm.timeZone, now) }
    return { marks, known: await knownOfSystems(scope, [...new Set(marks.map(({ system_id }) => system_id))], context) }
  })
  if (marks.length === 0) return 0
  const asked = marks.flatMap(({ stage_id }) => {
    const stage = known.get(stage_id)
    return stage?.input ? [{ stage, ruled: { input: stage.input, rule: ruleOf(stage.rule) } }] : []
  })
  const summaries = await deps.summarise(asked.map(({ ruled }) => ruled))
  const rows = asked.flatMap(({ stage }, index) => {
    const summary = summaries[index]
    return summary ? [forecastRow(firmId, stage, summary, now)] : []
  })
  await deps.inFirm(firmId, (scope) => store(scope, marks, rows))
  return marks.length
}

/**
 * Makes the forecasts of a firm's stale stages anew, batch by batch, each stored for good before the next: killed in the middle,
 * it goes on where it was. `goOn` is asked between batches. Returns how many stages were done.
 */
export async function refreshFirm(deps: RefreshDeps, firmId: string, goOn: () => boolean = () => true): Promise<number> {
  let total = 0
  while (goOn()) {
    const done = await refreshBatch(deps, firmId)
    if (done === 0) break
    total += done
  }
  return total
}
