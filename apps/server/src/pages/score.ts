import type { ScoreDto } from '@evenround/contract/office'
import { addDays, isoWeekday } from '@evenround/core/units'
import type { FirmScope } from '../db/scope'

const YEAR = 365
const HALF_YEAR = 182
const WEEKS = 13
/** Longer than this nobody worked on: the visit was ended the next day. */
const LONGEST_MIN = 600

/** Parts that came out in the last year against what the forecast, as it was stored then, said of them. */
async function forecasts(scope: FirmScope, today: string): Promise<ScoreDto['forecasts']> {
  const [row] = await scope.query<ScoreDto['forecasts']>(
    `select count(*)::int as parts, (count(*) filter (where found = 'spent'))::int as spent, coalesce(sum(1 - good), 0) as foretold
     from forecast_judged where firm_id = $1 and on_day > $2::date - ${YEAR}`,
    [today],
  )
  return row ?? { parts: 0, spent: 0, foretold: 0 }
}

/** The same parts against the intervals of their labels, over the days that they served. */
async function fixed(scope: FirmScope, today: string): Promise<ScoreDto['fixed']> {
  const [row] = await scope.query<ScoreDto['fixed']>(
    `select count(*)::int as parts, coalesce(sum(served_days / label_days), 0) as "byLabel", coalesce(sum(past_days), 0) as "pastDays",
       coalesce(sum(label_past_days * served_days / label_days), 0) as "labelPastDays"
     from forecast_judged where firm_id = $1 and on_day > $2::date - ${YEAR} and label_days > 0 and served_days > 0`,
    [today],
  )
  return row ?? { parts: 0, byLabel: 0, pastDays: 0, labelPastDays: 0 }
}

/** Finished visits of planned stops: what the plan gave them and what they took, in whole minutes. */
async function minutes(scope: FirmScope, now: Date): Promise<ScoreDto['minutes']> {
  const [row] = await scope.query<ScoreDto['minutes']>(
    `with visit as (
       select s.work_min as planned, extract(epoch from (select min(d.at) from fact_visit_finished d where d.firm_id = f.firm_id and d.visit_id = f.visit_id
         and not d.voided) - f.at) / 60 as taken
       from fact_visit_begun f join stop s on s.firm_id = f.firm_id and s.id = f.stop_id
       where f.firm_id = $1 and not f.voided and f.at > $2::timestamptz - interval '${HALF_YEAR} days')
     select count(*)::int as visits, coalesce(sum(planned), 0)::int as planned, coalesce(round(sum(taken)), 0)::int as taken
     from visit where taken between 1 and ${LONGEST_MIN}`,
    [now],
  )
  return row ?? { visits: 0, planned: 0, taken: 0 }
}

/** The firm's whole weeks behind it, by the minutes of their stops: how far the worst lies from the mean of them all. */
async function weeks(scope: FirmScope, today: string): Promise<ScoreDto['weeks']> {
  const monday = addDays(today, 1 - isoWeekday(today))
  const rows = await scope.query<{ week: number; min: number }>(
    `select ($2::text::date - day::date - 1) / 7 as week, sum(work_min + travel_min)::int as min from stop
     where firm_id = $1 and day < $2::text and day >= $3::text group by 1 order by 1`,
    [monday, addDays(monday, -7 * WEEKS)],
  )
  const all = rows.map(({ min }) => min)
  const meanMin = all.length === 0 ? 0 : Math.round(all.reduce((sum, min) => sum + min, 0) / all.length)
  const worst = meanMin === 0 ? null : Math.max(...all.map((min) => Math.abs(min - meanMin))) / meanMin
  return { weeks: all.length, meanMin, worst }
}

/** What the firm's own past says of its forecasts, its planned minutes and its weeks. */
export const scoreOf = async (scope: FirmScope, today: string, now: Date): Promise<ScoreDto> => ({
  forecasts: await forecasts(scope, today),
  fixed: await fixed(scope, today),
  minutes: await minutes(scope, now),
  weeks: await weeks(scope, today),
})
