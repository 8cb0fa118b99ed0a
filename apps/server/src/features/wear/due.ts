import type { DuePage, DueQuery, DueRow } from '@evenround/contract/due'
import type { Medium } from '@evenround/core/catalogue'
import { addDays, daysBetween } from '@evenround/core/units'
import { type Belief, type Cause, endedBy, readBelief, type WearSchool } from '@evenround/core/wear'
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
  window_from: string
  window_to: string
  days: number[]
  alive: number[]
  governing: Cause
  school: WearSchool
  risk: number
}

/**
 * Chance of having ended by today, from the stored belief: between two of its days the hazard is constant, as in the core.
 * `$2` is today. A part fitted today or later has not ended.
 */
const RISK = `case when $2::date <= f.fitted_on then 0 else 1 - exp(
  (select ln(greatest(f.alive[i], 1e-12)) + (ln(greatest(f.alive[i + 1], 1e-12)) - ln(greatest(f.alive[i], 1e-12)))
     * (($2::date - f.fitted_on) - f.days[i]) / (f.days[i + 1] - f.days[i])
   from (select least(greatest(width_bucket(($2::date - f.fitted_on)::real, f.days), 1), cardinality(f.days) - 1) as i) at)) end`

/** What each order sorts by; the stage comes last, so that no two rows stand alike. */
const ORDERS: Record<DueQuery['sort'], { keys: string[]; types: string[]; text: string; descending: boolean }> = {
  date: { keys: ['due_on', 'stage_id'], types: ['date', 'uuid'], text: 'due_on, stage_id', descending: false },
  risk: { keys: ['risk', 'stage_id'], types: ['double precision', 'uuid'], text: 'risk desc, stage_id desc', descending: true },
  place: {
    keys: ['island', 'village', 'site_name', 'due_on', 'stage_id'],
    types: ['text', 'text', 'text', 'date', 'uuid'],
    text: 'island, village, site_name, due_on, stage_id',
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
  throw badInput([{ path: 'after', message: 'expected the "next" of an earlier page' }])
}

interface Sql {
  where: string
  params: unknown[]
}

function filtersOf(query: DueQuery, today: string): Sql {
  const params: unknown[] = [today]
  // Today stands in every query, whether or not this one asks for the risk.
  const parts = ['f.firm_id = $1', '$2::date is not null']
  const add = (sql: (place: string) => string, value: unknown): void => {
    params.push(value)
    parts.push(sql(`$${params.length + 1}`))
  }
  if (query.until) add((place) => `f.due_on <= ${place}::date`, query.until)
  if (query.media) add((place) => `f.media = ${place}`, query.media)
  if (query.school) add((place) => `f.school = ${place}`, query.school)
  if (query.island) add((place) => `site.island = ${place}`, query.island)
  if (query.text) {
    const like = `%${query.text.replaceAll(/[\\%_]/g, (sign) => `\\${sign}`)}%`
    add(
      (place) => `(site.name ilike ${place} or site.village ilike ${place} or f.part_number ilike ${place} or system.name ilike ${place})`,
      like,
    )
  }
  if (query.risk !== undefined) add((place) => `${RISK} >= ${place}::double precision / 100`, query.risk)
  return { where: parts.join(' and '), params }
}

const FROM = `from stage_forecast f
  join site on site.firm_id = f.firm_id and site.id = f.site_id
  join system on system.firm_id = f.firm_id and system.id = f.system_id`

/** The order by date needs no risk of rows it does not show: it is worked out for the page alone. */
const columns = (
  risk: string,
): string => `f.stage_id, f.system_id, f.site_id, site.name as site_name, system.name as system_name, site.village,
  site.island, f.media, f.part_number, f.fitted_on::text, f.fitted_known, f.due_on, f.window_from::text, f.window_to::text, f.days, f.alive,
  f.governing, f.school, ${risk} as risk`

function rowOf(sql: DueSql, today: string): DueRow {
  const belief: Belief = { fittedOn: sql.fitted_on, days: sql.days, alive: sql.alive }
  const { p10, p50, p90 } = readBelief(belief, today)
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
    dueOn: sql.due_day,
    windowFrom: sql.window_from,
    windowTo: sql.window_to,
    p10: day(p10),
    p50: day(p50),
    p90: day(p90),
    governing: sql.governing,
    school: sql.school,
    ended: daysBetween(sql.fitted_on, today) <= 0 ? 0 : endedBy(belief, today),
  }
}

/** A page of all that is due, by date, risk or place; the windows are given that each part is still good today. */
export async function duePage(scope: FirmScope, query: DueQuery, today: string): Promise<DuePage> {
  const order = ORDERS[query.sort]
  const { where, params } = filtersOf(query, today)
  const inner = `select ${columns(query.sort === 'risk' ? RISK : '0::double precision')} ${FROM} where ${where}`
  let beyond = ''
  const all = [...params]
  if (query.after !== undefined) {
    const places = decode(query.after, order.keys.length).map((value, index) => {
      all.push(value)
      return `$${all.length + 1}::${order.types[index]}`
    })
    beyond = `where (${order.keys.join(', ')}) ${order.descending ? '<' : '>'} (${places.join(', ')})`
  }
  const rows = await scope.query<DueSql>(
    `select *, f.due_on::text as due_day from (${inner}) f ${beyond} order by ${order.text.replaceAll('due_on', 'f.due_on')} limit ${query.limit + 1}`,
    all,
  )
  const shown = rows.slice(0, query.limit)
  const last = shown.at(-1)
  const [total] =
    query.after === undefined
      ? await scope.query<{ count: string }>(`select count(*) ${FROM} where ${where}`, params)
      : []
  const [pending] = await scope.query<{ count: string }>('select count(*) from stale_stage where firm_id = $1')
  return {
    today,
    rows: shown.map((row) => rowOf(row, today)),
    next: rows.length > query.limit && last ? encode(order.keys.map((key) => last[(key === 'due_on' ? 'due_day' : key) as keyof DueSql])) : null,
    total: total ? Number(total.count) : null,
    pending: Number(pending?.count ?? 0),
  }
}
