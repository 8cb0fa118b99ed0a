import type { FactResult } from '@evenround/contract/visit'
import type { Fact, FactKind } from '@evenround/core/visit'
import { FACT_TABLES, FactReceipt } from '../../db/entities/facts'
import type { FirmScope } from '../../db/scope'
import { type Filed, hashOf, type Intake, rowsOf, usualFlags } from './rows'

/** Kinds of which nothing but their row is made, wherever they happen. */
const PLAIN_KINDS: readonly FactKind[] = ['visit-begun', 'step-done', 'block-done', 'step-surprise', 'work-changed', 'timer-started']

/** A visit's beginning, a tick and their like, recorded for the first time: no correction, nothing taken back. */
export const isPlain = ({ kind, supersedes, voided }: Fact): boolean => PLAIN_KINDS.includes(kind) && supersedes === null && !voided

interface VisitGround {
  visitId: string
  /** Instant as the database writes it in JSON. */
  closedAt: string | null
  isJob: boolean
}

interface PlainGround {
  /** Facts that arrived before. */
  had: ReadonlySet<string>
  /** Sites that stand where phones know them. */
  sites: ReadonlySet<string>
  stops: ReadonlySet<string>
  /** Each system that is where it was begun at, as `SYSTEM SITE VERSION`. */
  systems: ReadonlySet<string>
  visits: ReadonlyMap<string, VisitGround>
}

const unique = (ids: readonly string[]): string[] => [...new Set(ids)]

/** All that plain facts are judged by, in one statement. Of two sends at once the second fails at its receipts, and is judged one by one. */
async function groundOfPlain(scope: FirmScope, facts: readonly Fact[]): Promise<PlainGround> {
  const begun = facts.filter((fact) => fact.kind === 'visit-begun')
  const [ground] = await scope.query<{ had: string[]; sites: string[]; stops: string[]; systems: string[]; visits: VisitGround[] }>(
    `select
       array(select r.id::text from fact_receipt r where r.firm_id = $1 and r.id = any($2::uuid[])) as had,
       array(select s.id::text from site s where s.firm_id = $1 and s.id = any($3::uuid[]) and s.gone_at is null and s.merged_into is null
         and not exists (select 1 from site_move m where m.firm_id = $1 and m.from_site = s.id)) as sites,
       array(select p.id::text from stop p where p.firm_id = $1 and p.id = any($5::uuid[])) as stops,
       array(select y.id || ' ' || y.site_id || ' ' || y.train_version from system y where y.firm_id = $1 and y.id = any($6::uuid[])) as systems,
       (select coalesce(json_agg(json_build_object('visitId', v.id,
          'closedAt', (select min(f.at) from fact_visit_finished f where f.firm_id = $1 and f.visit_id = v.id),
          'isJob', exists (select 1 from disinfection d where d.firm_id = $1 and d.id = v.id))), '[]') from unnest($4::uuid[]) v(id)) as visits`,
    [
      facts.map(({ id }) => id),
      unique(facts.map(({ siteId }) => siteId)),
      unique(facts.map(({ visitId }) => visitId)),
      begun.flatMap(({ stopId }) => stopId ?? []),
      unique(begun.map(({ systemId }) => systemId)),
    ],
  )
  return {
    had: new Set(ground?.had),
    sites: new Set(ground?.sites),
    stops: new Set(ground?.stops),
    systems: new Set(ground?.systems),
    visits: new Map(ground?.visits.map((visit) => [visit.visitId, visit])),
  }
}

/** Whether it stands as its phone says, was never sent before, and nothing about it has to be noted but what is noted on any fact. */
function standsPlain(fact: Fact, { had, sites, stops, systems, visits }: PlainGround): boolean {
  if (had.has(fact.id) || !sites.has(fact.siteId) || visits.get(fact.visitId)?.isJob !== false) return false
  if (fact.kind !== 'visit-begun') return true
  return (fact.stopId === null || stops.has(fact.stopId)) && systems.has(`${fact.systemId} ${fact.siteId} ${fact.trainVersion}`)
}

/** Stores as many of these as are plain in every regard; the results of those, by id. What follows a beginning that is not waits with it. */
export async function storePlain(scope: FirmScope, facts: readonly Fact[], intake: Intake, now: Date): Promise<Map<string, FactResult>> {
  const ground = await groundOfPlain(scope, facts)
  const results = new Map<string, FactResult>()
  const waiting = new Set<string>()
  const receipts: Filed['receipt'][] = []
  const rows = new Map<FactKind, Filed['row'][]>()
  for (const fact of facts) {
    // Twice in one batch: the second is judged by what the first left.
    if (results.has(fact.id) || waiting.has(fact.visitId)) continue
    if (!standsPlain(fact, ground)) {
      if (fact.kind === 'visit-begun') waiting.add(fact.visitId)
      continue
    }
    const closedAt = ground.visits.get(fact.visitId)?.closedAt ?? null
    const noted = usualFlags(fact, closedAt === null ? null : new Date(closedAt), intake.skewMs)
    const { receipt, row, flags } = rowsOf(fact, hashOf(fact), noted, intake, now)
    receipts.push(receipt)
    rows.set(fact.kind, [...(rows.get(fact.kind) ?? []), row])
    results.set(fact.id, { id: fact.id, status: 'accepted', flags })
  }
  // In one order, whoever sends: of two that send the same at once neither waits for the other in turn.
  const sorted = (some: Filed['row'][]) => some.sort((a, b) => (String(a.id) < String(b.id) ? -1 : 1))
  await scope.insertTogether([
    [FactReceipt, sorted(receipts)],
    ...[...rows].map(([kind, some]) => [FACT_TABLES[kind], sorted(some)] as const),
  ])
  return results
}
