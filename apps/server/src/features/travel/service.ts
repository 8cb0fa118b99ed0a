import type { PlaceDto } from '@evenround/contract/rounds'
import type { Crossing, RoadMinutes, Travel } from '@evenround/core/round/roads'

/** What a firm knows of its ways, beside the map: how winding its roads are, what crosses the water, minutes by road where somebody gave them. */
export interface Ways {
  winding: number
  crossings: readonly Crossing[]
  road: RoadMinutes | null
  /** Crossings that are not there, by their ids. */
  without?: readonly string[]
}

/** What is asked for travel: how long it takes between places, by the hour of leaving. */
export interface TravelService {
  /** Changes with what it knows of roads and timetables; what was kept from another version is asked for anew. */
  version: string
  /** Crossings of the map among these places, beside the firm's own. */
  crossings: (places: readonly PlaceDto[]) => { id: string; name: string }[]
  between: (places: readonly PlaceDto[], ways: Ways) => Promise<Travel>
}
