import type { FactResult } from '@evenround/contract/visit'
import type { Fact, FactKind } from '@evenround/core/visit'
import { FACT_TABLES, FactReceipt } from '../../db/entities/facts'
import type { AskFirm } from '../../db/scope'
import { type Filed, type Filing, hashOf, rowsOf, usualFlags } from './rows'

/** Kinds of which nothing but their row is made, wherever they happen. */
const PLAIN_KINDS: readonly FactKind[] = ['visit-begun', 'step-done', 'block-done', 'step-surprise', 'work-changed', 'timer-started']

/** A visit's beginning, a tick and their like, recorded for the first time: no correction, nothing taken back. */
export const isPlain = ({ kind, supersedes, voided }: Fact): boolean => PLAIN_KINDS.includes(kind) && supersedes === null && !voided

/** As `standing_facts` of the database reads it. */
const givenOf = (fact: Fact) => ({
  id: fact.id,
  kind: fact.kind,
  site: fact.siteId,
  visit: fact.visitId,
  ...(fact.kind === 'visit-begun' ? { stop: fact.stopId, system: fact.systemId, version: fact.trainVersion } : {}),
})

/** Plain facts with the rows they become if they stand. */
export interface PlainRows {
  given: readonly ReturnType<typeof givenOf>[]
  receipts: readonly Filed['receipt'][]
  rows: ReadonlyMap<FactKind, readonly Filed['row'][]>
  results: ReadonlyMap<string, FactResult>
}

export function plainRowsOf(facts: readonly Fact[], intake: Filing, now: Date): PlainRows {
  // Twice in one batch: the second is judged by what the first left.
  const once = [...new Map(facts.toReversed().map((fact) => [fact.id, fact])).values()].reverse()
  const rows = new Map<FactKind, Filed['row'][]>()
  const receipts: Filed['receipt'][] = []
  const results = new Map<string, FactResult>()
  for (const fact of once) {
    const { receipt, row, flags } = rowsOf(fact, hashOf(fact), usualFlags(fact, null, intake.skewMs), intake, now)
    receipts.push(receipt)
    const own = rows.get(fact.kind)
    if (own) own.push(row)
    else rows.set(fact.kind, [row])
    results.set(fact.id, { id: fact.id, status: 'accepted', flags })
  }
  return { given: once.map(givenOf), receipts, rows, results }
}

const byId = (a: Filed['row'], b: Filed['row']): number => (String(a.id) < String(b.id) ? -1 : 1)

/**
 * Stores what stands of these batches in one statement; the ids of it. What follows a beginning that does not stand waits with it. Of two
 * sends of the same at once the second fails at the receipts: it throws, and nothing of the statement is stored.
 */
export async function storeRows(ask: AskFirm, firmId: string, batches: readonly PlainRows[]): Promise<ReadonlySet<string>> {
  const kinds = new Set(batches.flatMap(({ rows }) => [...rows.keys()]))
  const stored = await ask<{ id: string }>(firmId, (insertion) => {
    const tables = [
      [FactReceipt, batches.flatMap(({ receipts }) => receipts)] as const,
      ...[...kinds].map((kind) => [FACT_TABLES[kind], batches.flatMap(({ rows }) => rows.get(kind) ?? [])] as const),
    ]
    // In one order, whoever sends: of two that send the same at once neither waits for the other in turn.
    const parts = tables.map(([entity, some], index) => insertion(entity, some.sort(byId), index + 3))
    const inserts = parts.map(({ sql }, index) => `, t${index} as (${sql} where id in (select id from standing))`)
    return {
      sql: `with standing as materialized (select id from standing_facts($1, $2::json))${inserts.join('')} select id from standing`,
      params: [JSON.stringify(batches.flatMap(({ given }) => given)), ...parts.map(({ json }) => json)],
    }
  })
  return new Set(stored.map(({ id }) => id))
}
