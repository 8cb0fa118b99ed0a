import type { FactResult } from '@evenround/contract/visit'
import type { Fact, FactKind } from '@evenround/core/visit'
import { FACT_TABLES, FactReceipt } from '../../db/entities/facts'
import type { AskFirm } from '../../db/scope'
import { type Filed, hashOf, type Intake, rowsOf, usualFlags } from './rows'

/** Kinds of which nothing but their row is made, wherever they happen. */
const PLAIN_KINDS: readonly FactKind[] = ['visit-begun', 'step-done', 'block-done', 'step-surprise', 'work-changed', 'timer-started']

/** A visit's beginning, a tick and their like, recorded for the first time: no correction, nothing taken back. */
export const isPlain = ({ kind, supersedes, voided }: Fact): boolean => PLAIN_KINDS.includes(kind) && supersedes === null && !voided

/**
 * Those that stand where their phone knew them and were never sent before, at an open visit that is no disinfection; a beginning also by
 * the train and the stop it was begun with. A subquery for each, so that a firm's whole past is never read for ten ticks.
 */
const STANDING = `
  given as (select * from json_to_recordset($2::json) as g (id uuid, kind text, site uuid, visit uuid, stop uuid, system uuid, version int)),
  judged as (
    select g.*,
      (select s.gone_at is null and s.merged_into is null from site s where s.firm_id = $1 and s.id = g.site) as at_site,
      exists (select 1 from site_move m where m.firm_id = $1 and m.from_site = g.site) as moved,
      exists (select 1 from fact_receipt r where r.firm_id = $1 and r.id = g.id) as had,
      exists (select 1 from disinfection d where d.firm_id = $1 and d.id = g.visit) as job,
      exists (select 1 from fact_visit_finished f where f.firm_id = $1 and f.visit_id = g.visit) as over,
      (g.system is null or exists (select 1 from system y
        where y.firm_id = $1 and y.id = g.system and y.site_id = g.site and y.train_version = g.version)) as as_begun,
      (g.stop is null or exists (select 1 from stop p where p.firm_id = $1 and p.id = g.stop)) as at_stop
    from given g),
  plain as (select id, visit from judged where at_site and as_begun and at_stop and not (moved or had or job or over)),
  standing as (select p.id from plain p where not exists (
    select 1 from given b where b.kind = 'visit-begun' and b.visit = p.visit and b.id not in (select id from plain)))`

const givenOf = (fact: Fact) => ({
  id: fact.id,
  kind: fact.kind,
  site: fact.siteId,
  visit: fact.visitId,
  ...(fact.kind === 'visit-begun' ? { stop: fact.stopId, system: fact.systemId, version: fact.trainVersion } : {}),
})

const byId = (a: Filed['row'], b: Filed['row']): number => (String(a.id) < String(b.id) ? -1 : 1)

/**
 * Stores as many of these as are plain in every regard, in one statement; the results of those, by id. What follows a beginning that is
 * not waits with it. Of two sends of the same at once the second fails at the receipts: it throws.
 */
export async function storePlain(ask: AskFirm, facts: readonly Fact[], intake: Intake, now: Date): Promise<Map<string, FactResult>> {
  // Twice in one batch: the second is judged by what the first left.
  const once = [...new Map(facts.toReversed().map((fact) => [fact.id, fact])).values()].reverse()
  const rows = new Map<FactKind, Filed['row'][]>()
  const receipts: Filed['receipt'][] = []
  const results = new Map<string, FactResult>()
  for (const fact of once) {
    const { receipt, row, flags } = rowsOf(fact, hashOf(fact), usualFlags(fact, null, intake.skewMs), intake, now)
    receipts.push(receipt)
    rows.set(fact.kind, [...(rows.get(fact.kind) ?? []), row])
    results.set(fact.id, { id: fact.id, status: 'accepted', flags })
  }
  const stored = await ask<{ id: string }>(intake.who.firmId, (insertion) => {
    const tables = [[FactReceipt, receipts] as const, ...[...rows].map(([kind, some]) => [FACT_TABLES[kind], some] as const)]
    // In one order, whoever sends: of two that send the same at once neither waits for the other in turn.
    const parts = tables.map(([entity, some], index) => insertion(entity, some.sort(byId), index + 3))
    const inserts = parts.map(({ sql }, index) => `, t${index} as (${sql} where id in (select id from standing))`)
    return {
      sql: `with ${STANDING}${inserts.join('')} select id from standing`,
      params: [JSON.stringify(once.map(givenOf)), ...parts.map(({ json }) => json)],
    }
  })
  const standing = new Set(stored.map(({ id }) => id))
  return new Map([...results].filter(([id]) => standing.has(id)))
}
