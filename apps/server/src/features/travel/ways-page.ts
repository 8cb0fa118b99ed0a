import type { WaysDto } from '@evenround/contract/road-server'
import { USUAL_WINDING } from '@evenround/core/round/roads'
import { Firm } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import type { Deps } from '../../http/env'
import { paceOf } from './drives'
import { islandTravel } from './islands'
import { roadServerOf } from './roads/settings'

/** How a firm's ways are known: its routing server, and what its own drives taught about them. */
export async function waysOf(scope: FirmScope, { roadHosts, now }: Pick<Deps, 'roadHosts' | 'now'>): Promise<WaysDto> {
  const firm = await scope.findOne(Firm, {})
  const pace = await paceOf(scope, islandTravel, { now: now(), winding: firm?.roundTerms.winding ?? USUAL_WINDING })
  return {
    roadServer: await roadServerOf(scope, roadHosts, now()),
    pace: {
      drives: pace?.drives ?? 0,
      fromMin: pace?.fromMin ?? [],
      areas: Object.entries(pace?.areas ?? {})
        .map(([area, factors]) => ({ area, factors }))
        .sort((a, b) => (a.area < b.area ? -1 : 1)),
    },
  }
}
