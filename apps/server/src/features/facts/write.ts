import type { Fact, FactKind } from '@evenround/core/visit'
import { FACT_TABLES, FactReceipt } from '../../db/entities/facts'
import type { FirmScope } from '../../db/scope'
import { ownColumns } from '../records/map'

export interface Written {
  personId: string
  facts: readonly Fact[]
}

interface Origin {
  /** What stands where a device's id does. */
  deviceId: string
  /** Where no request was hashed: a word for where they came from. */
  from: string
  /** When they came in; null takes each fact's own instant. */
  arrivedAt: Date | null
}

/** Writes many facts with their receipts, kind by kind, in the transaction of the scope. What they touch is marked by the caller. */
export async function writeFacts(scope: FirmScope, written: readonly Written[], { deviceId, from, arrivedAt }: Origin): Promise<void> {
  const byKind = new Map<FactKind, Record<string, unknown>[]>()
  const receipts: Record<string, unknown>[] = []
  for (const { personId, facts } of written) {
    for (const fact of facts) {
      const { id, at, seq, siteId, visitId, supersedes, voided, kind } = fact
      const instant = new Date(at)
      const shared = { id, arrivedAt: arrivedAt ?? instant, personId, deviceId, visitId, flags: [] as string[] }
      receipts.push({ ...shared, kind, bodyHash: from })
      let rows = byKind.get(kind)
      if (rows === undefined) {
        rows = []
        byKind.set(kind, rows)
      }
      rows.push(Object.assign(ownColumns(fact), shared, { at: instant, seq, siteId, supersedes, voided }))
    }
  }
  await scope.insertMany(FactReceipt, receipts)
  for (const [kind, rows] of byKind) await scope.insertMany(FACT_TABLES[kind], rows)
}
