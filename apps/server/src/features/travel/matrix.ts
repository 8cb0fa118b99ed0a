import { createHash } from 'node:crypto'
import type { PlaceDto } from '@evenround/contract/rounds'
import type { Travel } from '@evenround/core/round/roads'
import type { FirmScope } from '../../db/scope'
import { crossingsOf } from './crossings'
import type { TravelService } from './service'

const MOST_KEPT = 4

/** Travel between a firm's places: kept in the database, asked for again when a place or the service's knowledge changed. */
export async function travelBetween(
  scope: FirmScope,
  service: TravelService,
  places: readonly PlaceDto[],
  { now, winding }: { now: Date; winding: number },
): Promise<Travel> {
  const crossings = await crossingsOf(scope)
  const key = createHash('sha256')
    .update(JSON.stringify([service.version, winding, crossings, places.map(({ id, lon, lat }) => [id, lon, lat])]))
    .digest('hex')
  const [kept] = await scope.query<{ travel: Travel }>('select travel from travel_matrix where firm_id = $1 and key = $2', [key])
  if (kept) return kept.travel
  const travel = await service.between(places, { winding, crossings })
  // Estimated when asked for: there is nothing to keep.
  if (travel.land) return travel
  // The round's and the last days': more would only be kept for days that have gone.
  await scope.query(
    `delete from travel_matrix where firm_id = $1 and key not in
       (select key from travel_matrix where firm_id = $1 order by made_at desc limit ${MOST_KEPT - 1})`,
  )
  await scope.query('insert into travel_matrix (firm_id, key, made_at, travel) values ($1, $2, $3, $4)', [key, now, JSON.stringify(travel)])
  return travel
}
