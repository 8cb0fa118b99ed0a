import type { PlaceDto } from '@evenround/contract/rounds'
import { pacedTravel, type Travel } from '@evenround/core/round/roads'
import type { FirmScope } from '../../db/scope'
import { paceOf } from './drives'
import { type Asked, plainTravel } from './plain'
import type { TravelService } from './service'

/** Travel between a firm's places, as drives that were made say it takes. */
export async function travelBetween(scope: FirmScope, service: TravelService, places: readonly PlaceDto[], asked: Asked): Promise<Travel> {
  const travel = await plainTravel(scope, service, places, asked)
  const pace = await paceOf(scope, service, asked)
  return pace === null
    ? travel
    : pacedTravel(
        travel,
        places.map(({ island }) => island),
        pace,
      )
}
