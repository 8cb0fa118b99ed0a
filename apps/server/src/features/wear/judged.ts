import { daysBetween } from '@evenround/core/units'
import type { PartRemoved } from '@evenround/core/visit'
import { daysPastEnd, failureProbabilityAtAge } from '@evenround/core/wear'
import type { FirmScope } from '../../db/scope'
import { dayIn } from '../../time/zone'

interface Told {
  zone: string
  fitted_on: string
  days: number[]
  survival: number[]
  /** The interval of the part's label in days; null where it is rated by something else. */
  label: number | null
}

/** Keeps what the stored forecast said of a part, with how the part was found: forecasts recomputed later must not judge themselves. */
export async function keepJudged(scope: FirmScope, fact: PartRemoved, at: Date): Promise<void> {
  const [told] = await scope.query<Told>(
    `select firm.time_zone as zone, f.fitted_on::text, f.days, f.survival,
       case when f.due->>'labelBy' = 'days' then (f.due->>'labelAmount')::double precision end as label from stage_forecast f join firm on firm.firm_id = f.firm_id
     where f.firm_id = $1 and f.stage_id = $2 and f.fitted_known`,
    [fact.stageId],
  )
  if (!told) return
  const onDay = dayIn(told.zone, at)
  const curve = { fittedOn: told.fitted_on, days: told.days, survival: told.survival }
  const served = daysBetween(told.fitted_on, onDay)
  const good = 1 - failureProbabilityAtAge(curve, served)
  await scope.query(
    `insert into forecast_judged (firm_id, id, stage_id, on_day, good, found, p10, p50, p90, computed_at, served_days, past_days, label_days, label_past_days)
     select $1, $2, f.stage_id, $4::date, $5, $6, f.p10::date, f.p50::date, f.p90::date, f.computed_at, $7, $8, $9, $10 from stage_forecast f
     where f.firm_id = $1 and f.stage_id = $3`,
    [
      fact.id,
      fact.stageId,
      onDay,
      Math.min(1, Math.max(0, good)),
      fact.found,
      served,
      daysPastEnd(curve, served),
      told.label,
      told.label === null ? null : daysPastEnd(curve, told.label),
    ],
  )
}
