import type { StoredFact } from '@evenround/contract/visit'
import { FACT_KINDS, type Fact, type FactKind, type Rated } from '@evenround/core/visit'
import { fromRow, type RowOf, toRow } from '../../db/columns'
import { derivedOf, type FactRow } from '../../db/entities/facts'

/** The columns of a fact's own table, beside those that are the server's. */
export const ownColumns = (fact: Fact): Record<string, unknown> =>
  Object.assign(toRow(FACT_KINDS[fact.kind], fact), derivedOf(fact.kind, fact))

/** A row of a fact table as the fact it was. */
export function factOf<K extends FactKind>(kind: K, row: FactRow<K>): Fact {
  const { id, at, seq, siteId, visitId, supersedes, voided } = row
  return { id, at: at.toISOString(), seq, siteId, visitId, supersedes, voided, kind, ...fromRow(FACT_KINDS[kind], row) } as Fact
}

/** A row of a fact table as it goes over the wire. */
export function storedFact<K extends FactKind>(kind: K, row: FactRow<K>): StoredFact {
  return { fact: factOf(kind, row), arrivedAt: row.arrivedAt.toISOString(), personId: row.personId, flags: row.flags }
}

/** What a row's part was rated at. */
export const ratedOf = (row: RowOf<{ rated: (typeof FACT_KINDS)['part-fitted']['rated'] }>): Rated => {
  const { rated } = fromRow({ rated: FACT_KINDS['part-fitted'].rated }, row)
  return rated as Rated
}
