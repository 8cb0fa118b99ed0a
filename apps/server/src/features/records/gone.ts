import { Site, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'

/** Work done at a place that was taken back with its list brings it back: field work is never lost to the office. */
export async function bringBack(scope: FirmScope, siteId: string): Promise<void> {
  await scope.update(Site, { id: siteId }, { goneAt: null })
  await scope.update(System, { siteId }, { goneAt: null })
}
