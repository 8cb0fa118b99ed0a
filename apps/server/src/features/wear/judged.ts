import { daysBetween } from '@evenround/core/units'
import type { PartRemoved } from '@evenround/core/visit'
import type { FirmScope } from '../../db/scope'
import { dayIn } from '../../time/zone'

interface Told {
  zone: string
  fitted_on: string
  days: number[]
  alive: number[]
}

/** The chance, as it was stored, that the part was still good at this age in days; between two nodes as the line between them runs. */
export function goodAt(days: readonly number[], alive: readonly number[], age: number): number {
  const next = days.findIndex((day) => day >= age)
  if (next === 0) return alive[0] ?? 1
  if (next < 0) return alive.at(-1) ?? 0
  const [from, to] = [days[next - 1] as number, days[next] as number]
  const [a, b] = [alive[next - 1] as number, alive[next] as number]
  return to === from ? b : a + ((b - a) * (age - from)) / (to - from)
}

/** Keeps what the stored forecast said of a part, with how the part was found: forecasts made anew later must not judge themselves. */
export async function keepJudged(scope: FirmScope, fact: PartRemoved, at: Date): Promise<void> {
  const [told] = await scope.query<Told>(
    `select firm.time_zone as zone, f.fitted_on::text, f.days, f.alive from stage_forecast f join firm on firm.firm_id = f.firm_id
     where f.firm_id = $1 and f.stage_id = $2 and f.fitted_known`,
    [fact.stageId],
  )
  if (!told) return
  const onDay = dayIn(told.zone, at)
  const good = goodAt(told.days, told.alive, daysBetween(told.fitted_on, onDay))
  await scope.query(
    `insert into forecast_judged (firm_id, id, stage_id, on_day, good, found, p10, p50, p90, computed_at)
     select $1, $2, f.stage_id, $4::date, $5, $6, f.p10::date, f.p50::date, f.p90::date, f.computed_at from stage_forecast f
     where f.firm_id = $1 and f.stage_id = $3`,
    [fact.id, fact.stageId, onDay, Math.min(1, Math.max(0, good)), fact.found],
  )
}
