import { tds } from '@evenround/core/readings'
import { FACT_KINDS, type FactKind, type OwnFields } from '@evenround/core/visit'
import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm'
import { columnsOf, type RowOf } from '../columns'
import type { FirmRow } from './master'

/** What all append-only fact tables share beside the fact itself; they are partitioned by month of `at`. */
interface Kept extends FirmRow {
  id: string
  /** When it happened, by the device. */
  at: Date
  arrivedAt: Date
  personId: string
  deviceId: string
  seq: number
  siteId: string
  visitId: string
  supersedes: string | null
  voided: boolean
  flags: string[]
}

/** What the server works out of a kind when it arrives, kept beside it. */
interface Derived {
  /** TDS at 25 °C, mg/L. */
  'tds-reading': { tdsMgL: number }
}
type DerivedOf<K extends FactKind> = K extends keyof Derived ? Derived[K] : object
const DERIVED: {
  [K in keyof Derived]: { columns: Record<keyof Derived[K], EntitySchemaColumnOptions>; of: (own: OwnFields<K>) => Derived[K] }
} = {
  'tds-reading': { columns: { tdsMgL: { type: 'double precision' } }, of: (own) => ({ tdsMgL: tds(own).tdsMgL }) },
}

/** What is worked out of a fact of this kind. */
export const derivedOf = <K extends FactKind>(kind: K, fact: OwnFields<K>): object =>
  kind === 'tds-reading' ? DERIVED['tds-reading'].of(fact as OwnFields<'tds-reading'>) : {}

/** A row of a kind's table. */
export type FactRow<K extends FactKind> = Kept & RowOf<(typeof FACT_KINDS)[K]> & DerivedOf<K>

const KEPT: Record<Exclude<keyof Kept, 'firmId'>, EntitySchemaColumnOptions> = {
  id: { type: 'uuid', primary: true },
  at: { type: 'timestamptz', primary: true },
  arrivedAt: { type: 'timestamptz' },
  personId: { type: 'uuid' },
  deviceId: { type: 'uuid' },
  seq: { type: 'bigint', transformer: { to: (value: number) => value, from: Number } },
  siteId: { type: 'uuid' },
  visitId: { type: 'uuid' },
  supersedes: { type: 'uuid', nullable: true },
  voided: { type: 'boolean' },
  flags: { type: 'text', array: true },
}
const FIRM: EntitySchemaColumnOptions = { type: 'uuid', primary: true }

/** The table of a kind: `hold-begun` stands in `fact_hold_begun`. */
export const tableOf = (kind: FactKind): string => `fact_${kind.replaceAll('-', '_')}`

function entityOf<K extends FactKind>(kind: K): EntitySchema<FactRow<K>> {
  const derived = kind === 'tds-reading' ? DERIVED['tds-reading'].columns : {}
  return new EntitySchema<FactRow<K>>({
    name: tableOf(kind),
    tableName: tableOf(kind),
    columns: { firmId: FIRM, ...KEPT, ...columnsOf(FACT_KINDS[kind]), ...derived } as EntitySchema<FactRow<K>>['options']['columns'],
  })
}

const kinds = Object.keys(FACT_KINDS) as FactKind[]
/** Every kind's table. */
export const FACT_TABLES = Object.fromEntries(kinds.map((kind) => [kind, entityOf(kind)])) as { [K in FactKind]: EntitySchema<FactRow<K>> }

export interface FactReceipt extends FirmRow {
  id: string
  kind: FactKind
  deviceId: string
  personId: string
  visitId: string
  arrivedAt: Date
  bodyHash: string
  flags: string[]
}
/** Keeps a fact's id unique over all its partitions, and what was sent under it. */
export const FactReceipt = new EntitySchema<FactReceipt>({
  name: 'fact_receipt',
  tableName: 'fact_receipt',
  columns: {
    firmId: FIRM,
    id: KEPT.id,
    kind: { type: 'text' },
    deviceId: KEPT.deviceId,
    personId: KEPT.personId,
    visitId: KEPT.visitId,
    arrivedAt: KEPT.arrivedAt,
    bodyHash: { type: 'text' },
    flags: KEPT.flags,
  },
})
