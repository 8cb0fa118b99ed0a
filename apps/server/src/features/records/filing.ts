import type { Fact } from '@evenround/core/visit'
import type { FirmScope } from '../../db/scope'

/** What says where it happened: a fact, or a photo. */
export interface Sent {
  siteId: string
  at: string
  /** Null for what belongs to no visit. */
  visitId: string | null
  /** The system it is about, by its own id or by a place in it; null for what is about the site or its visit. */
  systemId: string | null
  stageId: string | null
}

export const sentOf = (fact: Fact): Sent => ({
  siteId: fact.siteId,
  at: fact.at,
  visitId: fact.visitId,
  systemId: 'systemId' in fact && typeof fact.systemId === 'string' ? fact.systemId : null,
  stageId: 'stageId' in fact && typeof fact.stageId === 'string' ? fact.stageId : null,
})

/**
 * Where a fact or a photo is filed. A phone that was away names a site as it knew it: what has since been merged is filed under the site that
 * stands, and work at a system that has since moved goes to where the system was when it was done (to where it is now, if it was only
 * filed wrongly before). All of a visit is filed where its beginning is.
 */
export async function filedAt(scope: FirmScope, { siteId, at, visitId, systemId, stageId }: Sent): Promise<string> {
  const [row] = await scope.query<{ merged: string | null; moved: string | null; begun: string | null }>(
    `select (select s.merged_into from site s where s.firm_id = $1 and s.id = $2) as merged,
       (select y.site_id from site_move m join system y on y.firm_id = m.firm_id and y.id = m.system_id
        where m.firm_id = $1 and m.from_site = $2 and (m.whole_past or m.at <= $3)
          and (m.system_id = $4 or m.system_id = (select t.system_id from stage t where t.firm_id = $1 and t.id = $5))
        order by m.at desc limit 1) as moved,
       (select b.site_id from fact_visit_begun b where b.firm_id = $1 and b.visit_id = $6 and not b.voided
          and exists (select 1 from site_move m where m.firm_id = $1 and m.from_site = $2) order by b.arrived_at desc limit 1) as begun`,
    [siteId, at, systemId, stageId, visitId],
  )
  return row?.begun ?? row?.moved ?? row?.merged ?? siteId
}
