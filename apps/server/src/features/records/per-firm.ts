import type { FirmScope } from '../../db/scope'

/** What facts of these tables there are: as many of them, and none since, are the same ones, since facts are added and never changed. */
export const factsStand = (scope: FirmScope, tables: readonly string[]): Promise<{ n: string; last: Date | null }[]> =>
  scope.query(tables.map((table) => `select count(*) as n, max(arrived_at) as last from ${table} where firm_id = $1`).join(' union all '))

/** Remembers one thing for each of so many firms, with what it was made of: made anew once that is other. */
export function perFirm<T>(most: number): (firmId: string, of: string, make: () => Promise<T>) => Promise<T> {
  const kept = new Map<string, { of: string; made: T }>()
  return async (firmId, of, make) => {
    const known = kept.get(firmId)
    if (known?.of === of) return known.made
    const made = await make()
    if (kept.size >= most) kept.clear()
    kept.set(firmId, { of, made })
    return made
  }
}
