import type { FactResult } from '@evenround/contract/visit'
import type { Fact, FactKind } from '@evenround/core/visit'
import { FACT_TABLES, FactReceipt } from '../../db/entities/facts'
import type { FirmRow } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { hashOf, type Intake, rowsOf, usualFlags } from './rows'

/** Kinds of which nothing but their row is made, wherever they happen. */
const PLAIN_KINDS: readonly FactKind[] = ['step-done', 'block-done', 'step-surprise', 'work-changed', 'timer-started']

/** A tick and its like, recorded for the first time: no correction, nothing taken back. */
export const isPlain = ({ kind, supersedes, voided }: Fact): boolean => PLAIN_KINDS.includes(kind) && supersedes === null && !voided

interface VisitGround {
  visitId: string
  /** Instant as the database writes it in JSON. */
  closedAt: string | null
  isJob: boolean
}

/** Those that stand where their phone knew them and were never sent before; the others are judged one by one. */
async function plainGround(scope: FirmScope, facts: readonly Fact[]): Promise<ReadonlyMap<string, VisitGround>> {
  // Two sends of the same facts at once: the second waits here for the first. In one order for all, so that none waits for the other.
  await scope.query(
    'select pg_advisory_xact_lock(o.lock) from (select hashtextextended($1::text || i, 0) as lock from unnest($2::text[]) i order by 1) o',
    [facts.map(({ id }) => id)],
  )
  const [ground] = await scope.query<{ had: string[]; sites: string[]; visits: VisitGround[] }>(
    `select
       array(select r.id::text from fact_receipt r where r.firm_id = $1 and r.id = any($2::uuid[])) as had,
       array(select s.id::text from site s where s.firm_id = $1 and s.id = any($3::uuid[]) and s.gone_at is null and s.merged_into is null
         and not exists (select 1 from site_move m where m.firm_id = $1 and m.from_site = s.id)) as sites,
       (select coalesce(json_agg(json_build_object('visitId', v.id,
          'closedAt', (select min(f.at) from fact_visit_finished f where f.firm_id = $1 and f.visit_id = v.id),
          'isJob', exists (select 1 from disinfection d where d.firm_id = $1 and d.id = v.id))), '[]') from unnest($4::uuid[]) v(id)) as visits`,
    [facts.map(({ id }) => id), [...new Set(facts.map(({ siteId }) => siteId))], [...new Set(facts.map(({ visitId }) => visitId))]],
  )
  const had = new Set(ground?.had)
  const sites = new Set(ground?.sites)
  const visits = new Map(ground?.visits.map((visit) => [visit.visitId, visit]))
  return new Map(
    facts.flatMap(({ id, siteId, visitId }): [string, VisitGround][] => {
      const visit = visits.get(visitId)
      return visit && !visit.isJob && sites.has(siteId) && !had.has(id) ? [[id, visit]] : []
    }),
  )
}

/** Stores as many of these as are plain in every regard; the results of those, by id. */
export async function storePlain(scope: FirmScope, facts: readonly Fact[], intake: Intake, now: Date): Promise<Map<string, FactResult>> {
  const ground = await plainGround(scope, facts)
  const results = new Map<string, FactResult>()
  const receipts: object[] = []
  const rows = new Map<FactKind, object[]>()
  for (const fact of facts) {
    const visit = ground.get(fact.id)
    // Twice in one batch: the second is judged by what the first left.
    if (visit === undefined || results.has(fact.id)) continue
    const noted = usualFlags(fact, visit.closedAt === null ? null : new Date(visit.closedAt), intake.skewMs)
    const { receipt, row, flags } = rowsOf(fact, hashOf(fact), noted, intake, now)
    receipts.push(receipt)
    rows.set(fact.kind, [...(rows.get(fact.kind) ?? []), row])
    results.set(fact.id, { id: fact.id, status: 'accepted', flags })
  }
  await scope.insertMany<FirmRow>(FactReceipt, receipts)
  for (const [kind, some] of rows) await scope.insertMany<FirmRow>(FACT_TABLES[kind], some)
  return results
}
