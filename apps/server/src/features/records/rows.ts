import { FACT_KINDS, type FactKind } from '@evenround/core/visit'
import type { FindOptionsWhere } from 'typeorm'
import { selected } from '../../db/columns'
import { FACT_TABLES, type FactRow, tableOf } from '../../db/entities/facts'
import type { FirmScope } from '../../db/scope'
import { counting } from './counting'

/** What a row of a list of facts needs beside its own fields. */
export type Read<K extends FactKind> = Omit<
  FactRow<K>,
  'firmId' | 'arrivedAt' | 'personId' | 'deviceId' | 'supersedes' | 'voided' | 'flags'
>

const SHARED = 'f.id, f.at, f.seq, f.site_id as "siteId", f.visit_id as "visitId"'

/** The facts of one kind that count and match, oldest first; `f` is the fact's alias in `where`, and `$2` the first of `params`. */
export const factRows = <K extends FactKind>(scope: FirmScope, kind: K, where: string, params: readonly unknown[]): Promise<Read<K>[]> =>
  scope.query(
    `select ${SHARED}, ${selected(FACT_KINDS[kind], 'f')} from ${tableOf(kind)} f
     where f.firm_id = $1 and ${where} and ${counting(tableOf(kind))} order by f.at, f.seq`,
    params,
  )

/** Rows of one kind as they stand, superseded ones too. */
export const storedRows = <K extends FactKind>(
  scope: FirmScope,
  kind: K,
  where: { visitId?: string; deviceId?: string; id?: string },
): Promise<FactRow<K>[]> => scope.find<FactRow<K>>(FACT_TABLES[kind], where as FindOptionsWhere<FactRow<K>>)
