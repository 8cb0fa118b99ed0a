import type { BackupsDto } from '@evenround/contract/export'
import type { FirmScope } from '../../db/scope'

/** The last good backup of the server, and whether one failed since. */
export async function backupsOf(scope: FirmScope): Promise<BackupsDto> {
  const [row] = await scope.query<{ at: Date; checked: boolean | null }>(
    'select began_at as at, checked from backup_attempt where $1::uuid is not null and failed is null order by began_at desc limit 1',
  )
  const [failed] = await scope.query<{ at: Date }>(
    'select began_at as at from backup_attempt where $1::uuid is not null and failed is not null and began_at > $2 order by began_at desc limit 1',
    [row?.at ?? new Date(0)],
  )
  return { lastGood: row?.at.toISOString() ?? null, checked: row?.checked ?? false, failedSince: failed?.at.toISOString() ?? null }
}
