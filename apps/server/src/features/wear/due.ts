import type { DuePage, DueQuery, DueRow } from '@evenround/contract/due'
import type { RuleInForce } from '@evenround/contract/wear'
import type { Medium } from '@evenround/core/catalogue'
import { addDays } from '@evenround/core/units'
import {
  type Cause,
  type Due,
  failureProbability,
  readSurvivalCurve,
  type SurvivalCurve,
  stateOn,
  type WearSchool,
} from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import type { FirmScope } from '../../db/scope'
import { badInput } from '../../http/errors'

interface DueSql {
  stage_id: string
  system_id: string
  site_id: string
  site_name: string
  system_name: string
  village: string
  island: string
  media: Medium
  part_number: string
  fitted_on: string
  fitted_known: boolean
  due_day: string
  due: Due
  rule: RuleInForce
  days: number[]
  survival: number[]
  governing: Cause
  school: WearSchool
  risk: number
  /** How many the filters let through, where the page's own query looks at every row anyway. */
  total: string | null
}

/**
 * Chance of having ended by today, `$2`, from the stored days by which one part in ten, in two and nine in ten are done: straight between
 * them. It only puts rows in order and into a filter (at 10, 50 and 90 % it is exact): sixty thousand whole beliefs would take too long.
 * What is shown comes from the survival curve itself.
 */
const RISK = `case
  when $2::date <= f.fitted_on then 0::double precision
  when $2::date < f.p10 then 0.1 * ($2::date - f.fitted_on) / greatest(f.p10 - f.fitted_on, 1)
  when $2::date < f.p50 then 0.1 + 0.4 * ($2::date - f.p10) / greatest(f.p50 - f.p10, 1)
  when $2::date < f.p90 then 0.5 + 0.4 * ($2::date - f.p50) / greatest(f.p90 - f.p50, 1)
  else 1 - 0.1 * exp(-($2::date - f.p90)::double precision / greatest(f.p90 - f.p50, 1)) end`

const STORED_RISKS = [
  { percent: 10, column: 'p10' },
  { percent: 50, column: 'p50' },
  { percent: 90, column: 'p90' },
] as const

/** What each order sorts by; the stage comes last, so that no two rows stand alike. */
const ORDERS: Record<DueQuery['sort'], { keys: [name: string, type: string][]; descending: boolean }> = {
  date: {
    keys: [
      ['f.due_on', 'date'],
      ['f.stage_id', 'uuid'],
    ],
    descending: false,
  },
  risk: {
    keys: [
      ['risk', 'double precision'],
      ['f.stage_id', 'uuid'],
    ],
    descending: true,
  },
  place: {
    keys: [
      ['site.island', 'text'],
      ['site.village', 'text'],
      ['site.name', 'text'],
      ['f.due_on', 'date'],
      ['f.stage_id', 'uuid'],
    ],
    descending: false,
  },
}

const encode = (values: readonly unknown[]): string => Buffer.from(JSON.stringify(values)).toString('base64url')

function decode(after: string, length: number): string[] {
  try {
    const values: unknown = JSON.parse(Buffer.from(after, 'base64url').toString())
    if (Array.isArray(values) && values.length === length && values.every((one) => typeof one === 'string' || typeof one === 'number'))
      return values.map(String)
  } catch {
    // Told below: whatever it was, it is no place in this list.
  }
  throw badInput([{ path: 'after', message: say`expected the "next" of an earlier page` }])
}

interface Filters {
  where: string
  params: unknown[]
  /** A filter asks something of the site. */
  bySite: boolean
}

function filtersOf(query: DueQuery, today: string): Filters {
  const params: unknown[] = [today]
  // Today stands in every query, whether or not this one asks for the risk.
  const parts = ['f.firm_id = $1', '$2::date is not null']
  const add = (sql: (place: string) => string, value: unknown): void => {
    params.push(value)
    parts.push(sql(`$${params.length + 1}`))
  }
  if (query.until) add((place) => `f.due_on <= ${place}::date`, query.until)
  if (query.media) add((place) => `f.media = ${place}`, query.media)
  if (query.advice) add((place) => `f.advice = ${place}`, query.advice)
  if (query.school) add((place) => `f.school = ${place}`, query.school)
  if (query.island) add((place) => `site.island = ${place}`, query.island)
  if (query.text) {
    const like = `%${query.text.toLowerCase().replaceAll(/[\\%_]/g, (sign) => `\\${sign}`)}%`
    // Three narrow looks instead of one over every curve: a row is wide, its names are not.
    add(
      (place) => `f.stage_id in (
        select h.stage_id from stage_forecast h where h.firm_id = $1 and h.part_search like ${place}
        union select h.stage_id from site s join stage_forecast h on h.firm_id = s.firm_id and h.site_id = s.id
          where s.firm_id = $1 and s.search like ${place}
        union select h.stage_id from system y join stage_forecast h on h.firm_id = y.firm_id and h.site_id = y.site_id and h.system_id = y.id
          where y.firm_id = $1 and y.search like ${place})`,
      like,
    )
  }
  const { risk } = query
  if (risk !== undefined) {
    // The stored days answer most of it by themselves; the sum is done only for chances between them.
    const stored = STORED_RISKS.findLast(({ percent }) => percent <= risk)
    if (stored) parts.push(`f.${stored.column} <= $2::date`)
    if (stored?.percent !== risk) add((place) => `${RISK} >= ${place}::double precision / 100`, risk)
  }
  return { where: parts.join(' and '), params, bySite: query.island !== undefined }
}

const SITE = 'join site on site.firm_id = f.firm_id and site.id = f.site_id'
const SYSTEM = 'join system on system.firm_id = f.firm_id and system.id = f.system_id'

/** A search looks at every row it finds, so its first page counts them on the way; the orders find their first rows without looking at all. */
const looksAtAll = ({ text, after }: DueQuery): boolean => after === undefined && Boolean(text)

/** The page's own rows: found and ordered by narrow keys first, since sorting sixty thousand whole beliefs takes long. */
function pageSql(query: DueQuery, { where, params, bySite }: Filters): { sql: string; params: unknown[] } {
  const { keys, descending } = ORDERS[query.sort]
  const byRisk = query.sort === 'risk'
  const all = [...params]
  let beyond = ''
  if (query.after !== undefined) {
    const places = decode(query.after, keys.length).map((value, index) => {
      all.push(value)
      return `$${all.length + 1}::${keys[index]?.[1]}`
    })
    const names = keys.map(([name]) => (name === 'risk' ? RISK : name))
    beyond = ` and (${names.join(', ')}) ${descending ? '<' : '>'} (${places.join(', ')})`
  }
  const order = keys.map(([name]) => `${name}${descending ? ' desc' : ''}`).join(', ')
  const counted = looksAtAll(query)
  const site = bySite || query.sort === 'place' ? SITE : ''
  const found = `select f.stage_id${byRisk ? `, ${RISK} as risk` : ''}${counted ? ', count(*) over () as total' : ''} from stage_forecast f ${site} where ${where}${beyond} order by ${order} limit ${query.limit + 1}`
  return {
    params: all,
    sql: `with found as materialized (${found})
      select f.stage_id, f.system_id, f.site_id, site.name as site_name, system.name as system_name, site.village, site.island, f.media, f.part_number,
        f.fitted_on::text, f.fitted_known, f.due_on::text as due_day, f.due, f.rule, to_json(f.days) as days, to_json(f.survival) as survival, f.governing, f.school,
        ${byRisk ? 'found.risk' : '0::double precision'} as risk, ${counted ? 'found.total' : 'null'} as total
      from found join stage_forecast f on f.firm_id = $1 and f.stage_id = found.stage_id ${SITE} ${SYSTEM}
      order by ${order.replace('risk', 'found.risk')}`,
  }
}

function rowOf(sql: DueSql, today: string): DueRow {
  // The database writes single precision out in decimals that are not quite it.
  const curve: SurvivalCurve = { fittedOn: sql.fitted_on, days: sql.days.map(Math.fround), survival: sql.survival.map(Math.fround) }
  const { p10, p50, p90 } = readSurvivalCurve(curve, today)
  const day = (days: number): string => addDays(sql.fitted_on, days)
  return {
    stageId: sql.stage_id,
    systemId: sql.system_id,
    siteId: sql.site_id,
    siteName: sql.site_name,
    systemName: sql.system_name,
    village: sql.village,
    island: sql.island,
    media: sql.media,
    partNumber: sql.part_number,
    fittedOn: sql.fitted_on,
    dateKnown: sql.fitted_known,
    due: { ...sql.due, ended: failureProbability(curve, today), state: stateOn(sql.due, today), rule: sql.rule },
    p10: day(p10),
    p50: day(p50),
    p90: day(p90),
    governing: sql.governing,
    school: sql.school,
  }
}

const KEY_VALUES: Record<string, (row: DueSql) => unknown> = {
  'f.due_on': ({ due_day }) => due_day,
  'f.stage_id': ({ stage_id }) => stage_id,
  risk: ({ risk }) => risk,
  'site.island': ({ island }) => island,
  'site.village': ({ village }) => village,
  'site.name': ({ site_name }) => site_name,
}

/** A page of all that is due, by date, risk or place. */
export async function duePage(scope: FirmScope, query: DueQuery, today: string): Promise<DuePage> {
  const filters = filtersOf(query, today)
  const { sql, params } = pageSql(query, filters)
  const counts = query.after === undefined && !looksAtAll(query)
  const [rows, counted, waiting] = await Promise.all([
    scope.query<DueSql>(sql, params),
    counts ? count(scope, filters) : null,
    pending(scope),
  ])
  const shown = rows.slice(0, query.limit)
  const last = shown.at(-1)
  return {
    today,
    rows: inOrder(
      query,
      shown.map((row) => rowOf(row, today)),
    ),
    next: rows.length > query.limit && last ? encode(ORDERS[query.sort].keys.map(([name]) => KEY_VALUES[name]?.(last))) : null,
    total: looksAtAll(query) ? Number(rows[0]?.total ?? 0) : counted,
    pending: waiting,
  }
}

/** Within a page rows stand by the risk that is shown. */
const inOrder = (query: DueQuery, rows: DueRow[]): DueRow[] =>
  query.sort === 'risk' ? rows.sort((a, b) => b.due.ended - a.due.ended) : rows

async function count(scope: FirmScope, { where, params, bySite }: Filters): Promise<number> {
  const [row] = await scope.query<{ count: string }>(`select count(*) from stage_forecast f ${bySite ? SITE : ''} where ${where}`, params)
  return Number(row?.count ?? 0)
}

async function pending(scope: FirmScope): Promise<number> {
  const [row] = await scope.query<{ count: string }>('select count(*) from stale_stage where firm_id = $1')
  return Number(row?.count ?? 0)
}

/** How many parts of the firm are spent, and how many are past their day to change. */
export async function lateCounts(scope: FirmScope, today: string): Promise<{ spent: number; overdue: number }> {
  const [row] = await scope.query<{ spent: number; overdue: number }>(
    `select (select count(*)::int from stage_forecast where firm_id = $1 and spent_on <= $2) as spent,
       (select count(*)::int from stage_forecast where firm_id = $1 and due_on < $2 and spent_on > $2) as overdue`,
    [today],
  )
  return row ?? { spent: 0, overdue: 0 }
}

/** Of the parts that are spent or overdue: how many are lamps, and how many hang at systems nobody will be at. */
export async function lateParts(scope: FirmScope, today: string): Promise<{ lamps: number; unscheduled: number }> {
  const [row] = await scope.query<{ lamps: number; unscheduled: number }>(
    `select (count(*) filter (where f.media = 'uv-lamp'))::int as lamps,
       (count(*) filter (where not exists (select 1 from stop s where s.firm_id = f.firm_id and s.system_id = f.system_id and s.day >= $2)))::int as unscheduled
     from stage_forecast f where f.firm_id = $1 and (f.spent_on <= $2::date or f.due_on < $2::date)`,
    [today],
  )
  return row ?? { lamps: 0, unscheduled: 0 }
}

/** Parts under a contract whose readings say that its interval is too long, or longer than it need be. */
export async function adviceCounts(scope: FirmScope): Promise<{ shorten: number; lengthen: number }> {
  const [row] = await scope.query<{ shorten: number; lengthen: number }>(
    `select (count(*) filter (where advice = 'shorten'))::int as shorten, (count(*) filter (where advice = 'lengthen'))::int as lengthen
     from stage_forecast where firm_id = $1`,
  )
  return row ?? { shorten: 0, lengthen: 0 }
}
