import type { VisitFinished } from '@evenround/core/visit'
import type { FirmScope } from '../../db/scope'
import { counting } from '../records/counting'

/** Stages whose part came or went at a visit. */
const STAGES_DONE = `
  select f.stage_id from fact_part_fitted f where f.firm_id = $1 and f.visit_id = $2 and ${counting('fact_part_fitted')}
  union
  select f.stage_id from fact_part_removed f where f.firm_id = $1 and f.visit_id = $2 and ${counting('fact_part_removed')}`

/** A visit of a few minutes is still one. */
const LEAST_MINUTES = 15

/**
 * What was done at a visit, planned or not, leaves every other stop that nobody has begun, at once; a stop with nothing left to do goes,
 * unless the customer has somebody's word for it. Second visit to a bed that soaks stays: it is the rest of the same work.
 */
export async function leaveTheLists(scope: FirmScope, { visitId }: Pick<VisitFinished, 'visitId'>): Promise<void> {
  const rows = await scope.query<{ stop_id: string; left: number; was: number }>(
    `with done as (${STAGES_DONE}),
     open as (
       select s.id from stop s where s.firm_id = $1 and s.job_id is null and s.follows_why is distinct from 'soak'
         and not exists (select 1 from fact_visit_begun b where b.firm_id = $1 and b.stop_id = s.id)),
     hit as (
       select t.stop_id, count(*) filter (where t.stage_id not in (select stage_id from done))::int as left, count(*)::int as was
       from stop_task t join open on open.id = t.stop_id where t.firm_id = $1
       and t.stop_id in (select stop_id from stop_task where firm_id = $1 and stage_id in (select stage_id from done)) group by t.stop_id)
     select * from hit`,
    [visitId],
  )
  if (rows.length === 0) return
  const ids = rows.map(({ stop_id }) => stop_id)
  await scope.query(`delete from stop_task where firm_id = $1 and stop_id = any($3) and stage_id in (${STAGES_DONE})`, [visitId, ids])
  const empty = rows.filter(({ left }) => left === 0).map(({ stop_id }) => stop_id)
  await scope.query('delete from stop where firm_id = $1 and id = any($2) and not promised', [empty])
  for (const { stop_id, left, was } of rows)
    if (left > 0)
      await scope.query(
        'update stop set work_min = greatest($3::int, round(work_min * $4::float8)::int), version = version + 1 where firm_id = $1 and id = $2',
        [stop_id, LEAST_MINUTES, left / was],
      )
}
