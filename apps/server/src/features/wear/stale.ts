import type { Medium } from '@evenround/core/catalogue'
import type { Fact } from '@evenround/core/visit'
import type { FirmScope } from '../../db/scope'

/** Marks stages whose forecast has to be recomputed; part of the transaction of what changed. */
const mark = (scope: FirmScope, now: Date, stages: string, params: readonly unknown[]): Promise<unknown> =>
  scope.query(
    `insert into stale_stage (firm_id, stage_id, marked_at) select stage.firm_id, stage.id, $2 from stage where stage.firm_id = $1 and ${stages}
     on conflict (firm_id, stage_id) do update set marked_at = excluded.marked_at`,
    [now, ...params],
  )

export const markSystems = (scope: FirmScope, now: Date, systemIds: readonly string[]): Promise<unknown> =>
  mark(scope, now, 'stage.system_id = any($3)', [systemIds])

export const markSite = (scope: FirmScope, now: Date, siteId: string): Promise<unknown> =>
  mark(
    scope,
    now,
    'exists (select 1 from system where system.firm_id = stage.firm_id and system.id = stage.system_id and system.site_id = $3)',
    [siteId],
  )

/** Stages that hold a medium, and those nothing rated so far. */
export const markMedium = (scope: FirmScope, now: Date, media: Medium): Promise<unknown> =>
  mark(
    scope,
    now,
    `not exists (select 1 from stage_forecast f where f.firm_id = stage.firm_id and f.stage_id = stage.id and f.media <> $3)`,
    [media],
  )

export const markFirm = (scope: FirmScope, now: Date): Promise<unknown> => mark(scope, now, 'true', [])

/** A fact of one stage touches its whole system: dirt that got past it cuts the next one's life. True when anything was marked. */
export async function markByFact(scope: FirmScope, now: Date, fact: Fact): Promise<boolean> {
  switch (fact.kind) {
    case 'tds-reading':
    case 'stage-reading':
      await markSystems(scope, now, [fact.systemId])
      return true
    case 'part-removed':
    case 'part-fitted':
      await mark(scope, now, 'stage.system_id = (select system_id from stage s where s.firm_id = $1 and s.id = $3)', [fact.stageId])
      return true
    default:
      return false
  }
}
