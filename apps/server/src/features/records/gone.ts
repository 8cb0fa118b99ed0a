import { IsNull } from 'typeorm'
import { Site, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'

/** Work done at a place that was taken back with its list brings it back: field work is never lost to the office. */
export async function bringBack(scope: FirmScope, siteId: string): Promise<void> {
  // Who left comes back by the office's own act, who was erased never: the work itself is kept either way.
  if ((await scope.update(Site, { id: siteId, goneWhy: IsNull() }, { goneAt: null })) > 0)
    await scope.update(System, { siteId }, { goneAt: null })
}
