import { createHash } from 'node:crypto'
import type { PlaceDto } from '@evenround/contract/rounds'
import type { Travel } from '@evenround/core/round/roads'
import type { FirmScope } from '../../db/scope'
import { crossingsOf } from './crossings'
import { roadBook } from './roads/book'
import type { TravelService } from './service'

const MOST_KEPT = 4

export interface Asked {
  now: Date
  winding: number
  /** Crossings that are taken not to be there. */
  without?: readonly string[]
}

/**
 * Travel as the map, the routing server and the timetables have it. Kept in the database where it takes a moment to make, and made anew when
 * a place, a crossing, a minute by road or the service's knowledge changed. Asks nobody outside.
 */
export async function plainTravel(
  scope: FirmScope,
  service: TravelService,
  places: readonly PlaceDto[],
  { now, winding, without = [] }: Asked,
): Promise<Travel> {
  const [own, book] = await Promise.all([crossingsOf(scope), roadBook(scope)])
  const crossings = own.filter(({ id }) => !without.includes(id))
  const key = createHash('sha256')
    .update(
      JSON.stringify([
        service.version,
        winding,
        crossings,
        book?.version ?? null,
        without,
        places.map(({ id, lon, lat }) => [id, lon, lat]),
      ]),
    )
    .digest('hex')
  const [kept] = await scope.query<{ travel: Travel }>('select travel from travel_matrix where firm_id = $1 and key = $2', [key])
  if (kept) return kept.travel
  const travel = await service.between(places, { winding, crossings, road: book?.minutes ?? null, without })
  // Estimated when asked for, or asked for once: there is nothing to keep.
  if (travel.land || without.length > 0) return travel
  // One request of a firm at a time writes here, and no other waits for it: of two that write the same tables of ways neither would go on.
  const [keeping] = await scope.query<{ mine: boolean }>('select pg_try_advisory_xact_lock(hashtextextended($1::text, 11)) as mine')
  if (!keeping?.mine) return travel
  // The round's and the last days': more would only be kept for days that have gone.
  await scope.query(
    `delete from travel_matrix where firm_id = $1 and key not in
       (select key from travel_matrix where firm_id = $1 order by made_at desc limit ${MOST_KEPT - 1})`,
  )
  // Whoever wrote before this one had the lock may have made the same.
  await scope.query('insert into travel_matrix (firm_id, key, made_at, travel) values ($1, $2, $3, $4) on conflict do nothing', [
    key,
    now,
    JSON.stringify(travel),
  ])
  return travel
}
