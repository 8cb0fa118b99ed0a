import { createHash } from 'node:crypto'
import type { PlaceDto } from '@evenround/contract/rounds'
import type { Travel } from '@evenround/core/round/roads'
import type { FirmScope } from '../../db/scope'
import type { TravelService } from './service'

/** Travel between a firm's places: kept in the database, asked for again when a place or the service's knowledge changed. */
export async function travelBetween(scope: FirmScope, service: TravelService, places: readonly PlaceDto[], now: Date): Promise<Travel> {
  const key = createHash('sha256')
    .update(JSON.stringify([service.version, places.map(({ id, lon, lat }) => [id, lon, lat])]))
    .digest('hex')
  const [kept] = await scope.query<{ travel: Travel }>('select travel from travel_matrix where firm_id = $1 and key = $2', [key])
  if (kept) return kept.travel
  const travel = await service.between(places)
  await scope.query('delete from travel_matrix where firm_id = $1', [])
  await scope.query('insert into travel_matrix (firm_id, key, made_at, travel) values ($1, $2, $3, $4)', [key, now, JSON.stringify(travel)])
  return travel
}
