import { addDays } from '@evenround/core/units'
import type { RoundExtra } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'

/** A visit that no due day makes: one somebody asked for, or a first look at a system nobody knows the parts of. */
export interface AskedVisit extends Pick<RoundExtra, 'id' | 'siteId' | 'systemId' | 'workMin' | 'fromDay' | 'toDay' | 'tasks'> {
  isFirst: boolean
}

/** To look at every stage and measure what can be measured. */
const FIRST_LOOK_MIN = 45
/** A new customer is seen within six weeks; where a whole list of them came, ten more with each week after that. */
const WITHIN_DAYS = 42
const MORE_A_WEEK = 10

/**
 * Systems that nobody has visited and of whose parts none is known: nothing there falls due, so that a first visit has to be planned for
 * itself. It goes by the system's own id, so that it is the same visit in every plan. `spoken`: systems somebody is to come to anyway.
 */
export async function firstVisits(scope: FirmScope, today: string, spoken: ReadonlySet<string>): Promise<AskedVisit[]> {
  // Whom the forecasts know a part of is left out first: they stand in one table, the facts in one for each month.
  const rows = await scope.query<{ id: string; site_id: string }>(
    `with unknown as materialized (
       select y.firm_id, y.id, y.site_id from system y join site s on s.firm_id = y.firm_id and s.id = y.site_id and s.gone_at is null
       where y.firm_id = $1 and y.gone_at is null
         and exists (select 1 from stage t where t.firm_id = y.firm_id and t.system_id = y.id)
         and not exists (select 1 from stage t join stage_forecast f on f.firm_id = t.firm_id and f.stage_id = t.id and f.fitted_on is not null
           where t.firm_id = y.firm_id and t.system_id = y.id))
     select u.id, u.site_id from unknown u
     where not exists (select 1 from stage t join fact_part_fitted p on p.firm_id = t.firm_id and p.stage_id = t.id
         where t.firm_id = u.firm_id and t.system_id = u.id)
       and not exists (select 1 from fact_visit_begun b where b.firm_id = u.firm_id and b.site_id = u.site_id and b.system_id = u.id)
     order by u.id`,
  )
  return rows
    .filter(({ id }) => !spoken.has(id))
    .map(({ id, site_id: siteId }, before) => ({
      id,
      siteId,
      systemId: id,
      workMin: FIRST_LOOK_MIN,
      fromDay: addDays(today, 1),
      toDay: addDays(today, WITHIN_DAYS + 7 * Math.floor(before / MORE_A_WEEK)),
      tasks: [],
      isFirst: true,
    }))
}
