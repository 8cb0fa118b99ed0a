import { MOST_BY_ROAD } from '@evenround/core/round/roads'
import { kmBetween, type Position } from '@evenround/core/units'
import { Site } from '../../../db/entities/master'
import { WorkTimeRow } from '../../../db/entities/round'
import type { FirmScope } from '../../../db/scope'
import { crossingsOf } from '../crossings'
import { sitePlaces } from '../site-places'
import { placeKey } from './book'

/** A point whose ways are wanted. */
export interface Wanted extends Position {
  place: string
}

/**
 * Every point a van of the firm may start from, stop at or cross the water by, each once: bases first, then by how far they are from one.
 * Of more than a table holds only the nearest.
 */
export async function wantedPlaces(scope: FirmScope): Promise<Wanted[]> {
  const whereIs = await sitePlaces(scope)
  const [sites, crossings, times] = await Promise.all([scope.find(Site, {}, { id: 'ASC' }), crossingsOf(scope), scope.find(WorkTimeRow)])
  const bases = new Set(times.flatMap(({ base }) => base ?? []))
  const places = whereIs.among(sites.filter(({ goneAt }) => goneAt === null))
  const starts = places.filter(({ id }) => bases.has(id))
  const far = (here: Position): number => Math.min(...starts.map((base) => kmBetween(base, here)), Number.MAX_VALUE)
  const points = [
    ...starts,
    ...crossings.flatMap(({ from, to }) => [from, to]),
    ...places
      .map((one) => ({ one, km: far(one) }))
      .sort((a, b) => a.km - b.km)
      .map(({ one }) => one),
  ]
  const all = new Map(points.map(({ lat, lon }) => [placeKey({ lat, lon }), { lat, lon }]))
  return [...all].slice(0, MOST_BY_ROAD).map(([place, { lat, lon }]) => ({ place, lat, lon }))
}
