import type { Fact } from '@evenround/core/visit'
import type { FactReceipt } from '../../db/entities/facts'
import type { FirmScope } from '../../db/scope'

/** What every fact is judged by, whatever its kind. */
export interface Ground {
  receipt: Pick<FactReceipt, 'kind' | 'bodyHash' | 'flags'> | null
  /** Null where the firm has no such site. */
  site: { gone: boolean } | null
  /** When the visit was finished, where it was. */
  closedAt: Date | null
  /** The visit is a disinfection the firm knows. */
  isJob: boolean
}

/** Read in one statement: a tick comes with every step, from every phone. */
export async function groundOf(scope: FirmScope, { id, siteId, visitId }: Fact): Promise<Ground> {
  const [ground] = await scope.query<Ground>(
    `select
       (select json_build_object('kind', r.kind, 'bodyHash', r.body_hash, 'flags', r.flags) from fact_receipt r where r.firm_id = $1 and r.id = $2) as receipt,
       (select json_build_object('gone', s.gone_at is not null) from site s where s.firm_id = $1 and s.id = $3) as site,
       (select min(f.at) from fact_visit_finished f where f.firm_id = $1 and f.visit_id = $4) as "closedAt",
       exists (select 1 from disinfection d where d.firm_id = $1 and d.id = $4) as "isJob"`,
    [id, siteId, visitId],
  )
  if (!ground) throw new Error('a statement without a table answers with one row')
  return ground
}
