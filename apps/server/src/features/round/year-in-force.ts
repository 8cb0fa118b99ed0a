import { filledShare, type YearFigures } from '@evenround/contract/year-page'
import { addDays } from '@evenround/core/units'
import { weeksByChain, type YearVisit } from '@evenround/core/year'
import type { FirmScope } from '../../db/scope'

interface InForce {
  id: string
  fromDay: string
  visits: YearVisit[]
  weeks: YearFigures['weeks']
}

/** The plan in force: of those applied the one applied last. What it was made of stays where it is: of a large firm that is megabytes. */
export async function currentYear(scope: FirmScope): Promise<InForce | null> {
  const [current] = await scope.query<InForce>(
    `select id, from_day::text as "fromDay", visits, shown->'after'->'weeks' as weeks from year_plan
     where firm_id = $1 and state = 'applied' order by settled_at desc, id desc limit 1`,
  )
  return current ?? null
}

/** Which plan is in force, without the plan. */
export async function currentYearId(scope: FirmScope): Promise<string | null> {
  const [current] = await scope.query<{ id: string }>(
    `select id from year_plan where firm_id = $1 and state = 'applied' order by settled_at desc, id desc limit 1`,
  )
  return current?.id ?? null
}

/** What a year in force hands a quarter: the weeks (their Mondays) each stage is done in, each week's load, and how full a day is on the level. */
export interface HandedYear {
  id: string
  weeksOf: ReadonlyMap<string, string[]>
  loads: ReadonlyMap<string, number>
  /** Load by the hours that are there, over the year. */
  filled: number
}

export async function handedYear(scope: FirmScope): Promise<HandedYear | null> {
  const current = await currentYear(scope)
  if (!current) return null
  const { id, fromDay, visits, weeks } = current
  return {
    id,
    weeksOf: new Map([...weeksByChain(visits)].map(([chain, own]) => [chain, own.map((week) => addDays(fromDay, 7 * week))])),
    loads: new Map(weeks.map(({ week, loadMin }) => [week, loadMin])),
    filled: filledShare(weeks),
  }
}
