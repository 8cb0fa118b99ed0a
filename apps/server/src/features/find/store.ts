import type { Found } from '@evenround/contract/find'
import type { FirmScope } from '../../db/scope'

interface FoundRow {
  kind: Found['kind']
  ref: string
  site_id: string
  site_name: string
  title: string
  at: Date | null
}

/** Anything of the firm by part of a word and with slips. The function asks the session for its firm: none is handed to it. */
export async function findIn({ manager }: FirmScope, q: string, most: number): Promise<Found[]> {
  const rows = await manager.query<FoundRow[]>('select * from search_firm($1, $2)', [q, most])
  return rows.map(({ kind, ref, site_id, site_name, title, at }) => ({
    kind,
    id: ref,
    siteId: site_id,
    siteName: site_name,
    title,
    at: at?.toISOString() ?? null,
  }))
}
