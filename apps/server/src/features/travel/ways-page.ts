import type { WaysDto } from '@evenround/contract/road-server'
import { USUAL_WINDING } from '@evenround/core/round/roads'
import { Firm, Site } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import type { Deps } from '../../http/env'
import { paceOf } from './drives'
import { islandTravel } from './islands'
import { plainTravel } from './matrix'
import { roadServerOf } from './roads/settings'
import { sitePlaces } from './site-places'

/** How a firm's ways are known: its routing server, and what its own drives taught about them. */
export async function waysOf(scope: FirmScope, { roadHosts, now }: Pick<Deps, 'roadHosts' | 'now'>): Promise<WaysDto> {
  const firm = await scope.findOne(Firm, {})
  const sites = (await scope.find(Site, {}, { id: 'ASC' })).filter(({ goneAt }) => goneAt === null)
  const places = (await sitePlaces(scope)).among(sites)
  const { key, travel } = await plainTravel(scope, islandTravel, places, { now: now(), winding: firm?.roundTerms.winding ?? USUAL_WINDING })
  const pace = await paceOf(scope, places, key, travel)
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
