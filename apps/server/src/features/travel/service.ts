import type { PlaceDto } from '@evenround/contract/rounds'
import type { Crossing, Travel } from '@evenround/core/round/roads'

/** What a routing service is asked: how long it takes between places, by the hour of leaving. A real one stands behind the same question. */
export interface TravelService {
  /** Changes with what it knows of roads and timetables; what was kept from another version is asked for anew. */
  version: string
  between: (places: readonly PlaceDto[], roads: { winding: number; crossings: readonly Crossing[] }) => Promise<Travel>
}
