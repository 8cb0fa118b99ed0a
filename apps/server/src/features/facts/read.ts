import type { HistoryDto, HoldDto, VisitRowDto } from '@evenround/contract/site'
import { FACT_KINDS, type StoredFact } from '@evenround/contract/visit'
import type { HoldKind } from '@evenround/core/train'
import { type FactKind, SAFETY_HOLDS } from '@evenround/core/visit'
import type { FirmScope } from '../../db/scope'
import { counting } from '../records/counting'
import { storedFact } from '../records/map'
import { storedRows } from '../records/rows'

/** Every fact of a visit, superseded ones too: the book shows both. Only these kinds, or this one fact, where they are named. */
export async function visitFacts(
  scope: FirmScope,
  visitId: string,
  kinds: readonly FactKind[] = FACT_KINDS,
  id?: string,
): Promise<StoredFact[]> {
  const all: StoredFact[] = []
  for (const kind of kinds) {
    const rows = await storedRows(scope, kind, id === undefined ? { visitId } : { visitId, id })
    all.push(...rows.map((row) => storedFact(kind, row)))
  }
  return all.sort((a, b) => (a.fact.at < b.fact.at ? -1 : a.fact.at > b.fact.at ? 1 : a.fact.seq - b.fact.seq))
}

/** How long a hold that has ended by time goes on asking to be lifted. */
const ASKS_DAYS = 7

const INSTANT = (of: string): string => `to_char(${of} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`
/** Whoever was told of a hold last; one that a disinfection's own step began was said to the household by whoever ticked it. */
const TOLD = `coalesce((select json_build_object('whom', t.whom, 'how', t.how, 'at', ${INSTANT('t.at')}, 'byName', p.name)
  from fact_hold_told t join person p on p.firm_id = t.firm_id and p.id = t.person_id
  where t.firm_id = f.firm_id and t.hold_id = f.id and not t.voided
    and not exists (select 1 from fact_hold_told v where v.firm_id = t.firm_id and v.supersedes = t.id) order by t.at desc limit 1),
  (select json_build_object('whom', 'The household', 'how', 'in-person', 'at', ${INSTANT('f.at')}, 'byName', p.name)
  from disinfection d join person p on p.firm_id = f.firm_id and p.id = f.person_id where d.firm_id = f.firm_id and d.id = f.visit_id))`

/** Holds by site that nobody lifted: those that are on at `now`, and those that ended by time in the last days. */
export async function holdsOn(scope: FirmScope, siteIds: readonly string[], now: Date): Promise<Map<string, HoldDto[]>> {
  const rows = await scope.query<{
    id: string
    site_id: string
    at: Date
    until: Date | null
    hold_kind: HoldKind
    text: string
    told: HoldDto['told']
  }>(
    `select f.id, f.site_id, f.at, f.until, f.hold_kind, f.text, ${TOLD} as told from fact_hold_begun f
     where f.firm_id = $1 and f.site_id = any($2) and ${counting('fact_hold_begun')}
       and (f.until > $3::timestamptz - interval '${ASKS_DAYS} days' or f.hold_kind = any($4))
       and not exists (select 1 from fact_hold_lifted l where l.firm_id = f.firm_id and l.hold_id = f.id and not l.voided
         and not exists (select 1 from fact_hold_lifted v where v.firm_id = l.firm_id and v.supersedes = l.id))
     order by f.at desc`,
    [siteIds, now, SAFETY_HOLDS],
  )
  const bySite = new Map<string, HoldDto[]>()
  for (const row of rows) {
    const hold = {
      id: row.id,
      holdKind: row.hold_kind,
      begunAt: row.at.toISOString(),
      until: row.until?.toISOString() ?? null,
      text: row.text,
      told: row.told ?? null,
    }
    bySite.set(row.site_id, [...(bySite.get(row.site_id) ?? []), hold])
  }
  return bySite
}

/** Holds that these jobs began, lifted or not. */
export async function holdsOfJobs(scope: FirmScope, jobIds: readonly string[]): Promise<string[]> {
  const rows = await scope.query<{ id: string }>(
    `select f.id from fact_hold_begun f where f.firm_id = $1 and f.visit_id = any($2) and ${counting('fact_hold_begun')}`,
    [jobIds],
  )
  return rows.map(({ id }) => id)
}

/** How many earlier values a doubtful reading is held against. */
const HISTORY_VALUES = 12

/** Whose earlier readings are asked for. */
export interface HistoryAsk {
  systemId: string
  /** When its membrane went in; null where none is known. */
  membraneFittedAt: Date | null
  /** A visit that is going on is not its own past. */
  exceptVisit: string | null
}

/** Earlier TDS of systems' waters, newest first, and each membrane's own first passage: one for each that is asked about, in that order. */
export async function tdsHistories(scope: FirmScope, asks: readonly HistoryAsk[]): Promise<HistoryDto[]> {
  const columns = [asks.map(({ systemId }) => systemId), asks.map(({ exceptVisit }) => exceptVisit)]
  const values = await scope.query<{ nr: string; water: string; tds_mg_l: number }>(
    `select asked.nr, water.name as water, seen.tds_mg_l
     from unnest($2::uuid[], $3::uuid[]) with ordinality as asked(system_id, except_visit, nr)
     cross join (values ('untreated'), ('treated')) as water(name)
     cross join lateral (
       select f.tds_mg_l, f.at from fact_tds_reading f
       where f.firm_id = $1 and f.system_id = asked.system_id and f.water = water.name and f.visit_id is distinct from asked.except_visit
         and ${counting('fact_tds_reading')}
       order by f.at desc limit ${HISTORY_VALUES}) as seen
     order by asked.nr, water.name, seen.at desc`,
    columns,
  )
  const firsts = await scope.query<{ nr: string; water: string; tds_mg_l: number }>(
    `select distinct on (asked.nr, f.water) asked.nr, f.water, f.tds_mg_l
     from unnest($2::uuid[], $3::timestamptz[]) with ordinality as asked(system_id, fitted_at, nr)
     join fact_tds_reading f on f.firm_id = $1 and f.system_id = asked.system_id and f.at >= asked.fitted_at and f.phase = 'after'
     where ${counting('fact_tds_reading')}
     order by asked.nr, f.water, f.at`,
    [columns[0], asks.map(({ membraneFittedAt }) => membraneFittedAt)],
  )
  return asks.map((_, index) => {
    const own = <R extends { nr: string; water: string; tds_mg_l: number }>(rows: readonly R[], water: string): number[] =>
      rows.flatMap((row) => (Number(row.nr) === index + 1 && row.water === water ? [row.tds_mg_l] : []))
    const [feed = 0] = own(firsts, 'untreated')
    const [product = 0] = own(firsts, 'treated')
    const baselinePassage = feed > 0 && product > 0 ? product / feed : null
    return { untreatedMgL: own(values, 'untreated'), treatedMgL: own(values, 'treated'), baselinePassage }
  })
}

/** The visit begun on each stop, the latest where there were several. */
export async function visitsOfStops(scope: FirmScope, stopIds: readonly string[]): Promise<Map<string, { id: string; finished: boolean }>> {
  const rows = await scope.query<{ stop_id: string; visit_id: string; finished: boolean }>(
    `select distinct on (f.stop_id) f.stop_id, f.visit_id,
       exists (select 1 from fact_visit_finished done where done.firm_id = f.firm_id and done.visit_id = f.visit_id
         and not done.voided) as finished
     from fact_visit_begun f where f.firm_id = $1 and f.stop_id = any($2) and ${counting('fact_visit_begun')}
     order by f.stop_id, f.at desc`,
    [stopIds],
  )
  return new Map(rows.map(({ stop_id, visit_id, finished }) => [stop_id, { id: visit_id, finished }]))
}

/** Visits a page of the book. */
export const BOOK_PAGE = 50

interface VisitSql {
  visit_id: string
  site_id: string
  site_name: string
  system_name: string
  person_name: string
  begun_at: Date
  finished_at: Date | null
  outcome: VisitRowDto['outcome']
  fitted: string[]
  photos: number
}

interface VisitFilter {
  siteId?: string
  visitId?: string
  before?: { at: Date; visitId: string }
  text?: string | undefined
  person?: string | undefined
  from?: Date | null
  /** Begun before this. */
  until?: Date | null
  outcome?: string | undefined
  photos?: boolean
}

/** Visits, newest first; `before` is the last visit of the page before. */
export async function visitRows(scope: FirmScope, filter: VisitFilter): Promise<VisitRowDto[]> {
  const rows = await scope.query<VisitSql>(
    `select f.visit_id, f.site_id, site.name as site_name, system.name as system_name, person.name as person_name, f.at as begun_at,
       done.at as finished_at, done.outcome,
       coalesce((select array_agg(p.part_number order by p.position) from fact_part_fitted p
         where p.firm_id = f.firm_id and p.visit_id = f.visit_id and not p.voided
           and not exists (select 1 from fact_part_fitted l where l.firm_id = p.firm_id and l.supersedes = p.id)), '{}') as fitted,
       (select count(*)::int from photo ph where ph.firm_id = f.firm_id and ph.visit_id = f.visit_id) as photos
     from fact_visit_begun f
     join site on site.firm_id = f.firm_id and site.id = f.site_id
     join system on system.firm_id = f.firm_id and system.id = f.system_id
     join person on person.firm_id = f.firm_id and person.id = f.person_id
     left join lateral (select d.at, d.outcome, d.note from fact_visit_finished d where d.firm_id = f.firm_id and d.visit_id = f.visit_id
       and not d.voided and not exists (select 1 from fact_visit_finished l where l.firm_id = d.firm_id and l.supersedes = d.id)
       order by d.at desc limit 1) done on true
     where f.firm_id = $1 and ${counting('fact_visit_begun')}
       and ($2::uuid is null or f.site_id = $2) and ($3::uuid is null or f.visit_id = $3) and ($4::timestamptz is null or (f.at, f.visit_id) < ($4, $5::uuid))
       and ($6::uuid is null or f.person_id = $6) and ($7::timestamptz is null or f.at >= $7) and ($8::timestamptz is null or f.at < $8)
       and ($9::text is null or done.outcome = $9)
       and (not $10::boolean or exists (select 1 from photo ph where ph.firm_id = f.firm_id and ph.visit_id = f.visit_id))
       and ($11::text is null or position(lower($11) in lower(concat_ws(' ', site.name, system.name, person.name, done.note))) > 0
         or exists (select 1 from fact_part_fitted p where p.firm_id = f.firm_id and p.visit_id = f.visit_id and not p.voided
           and position(lower($11) in lower(p.part_number)) > 0))
     order by f.at desc, f.visit_id desc limit ${BOOK_PAGE}`,
    [
      filter.siteId ?? null,
      filter.visitId ?? null,
      filter.before?.at ?? null,
      filter.before?.visitId ?? null,
      filter.person ?? null,
      filter.from ?? null,
      filter.until ?? null,
      filter.outcome ?? null,
      filter.photos ?? false,
      filter.text || null,
    ],
  )
  return rows.map((row) => ({
    visitId: row.visit_id,
    siteId: row.site_id,
    siteName: row.site_name,
    systemName: row.system_name,
    personName: row.person_name,
    begunAt: row.begun_at.toISOString(),
    finishedAt: row.finished_at?.toISOString() ?? null,
    outcome: row.outcome,
    fitted: row.fitted,
    photos: row.photos,
  }))
}
