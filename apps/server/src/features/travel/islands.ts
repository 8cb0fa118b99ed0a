import { createHash } from 'node:crypto'
import { type MapFeature, mapFeatureSchema } from '@evenround/contract/geo'
import type { PlaceDto } from '@evenround/contract/rounds'
import { type Roads, type Travel, travelAmong, travelOver } from '@evenround/core/round/roads'
import { z } from 'zod'
import type { TravelService } from './service'
import islands from './skellan-sound.geo.json'

/** The demo's islands as they ship; what is not a whole feature is a fault of ours. */
export const MAP: readonly MapFeature[] = z.array(mapFeatureSchema).parse(islands.features)

export const ISLAND_PLACES: readonly PlaceDto[] = MAP.flatMap(({ properties, geometry }) =>
  properties.kind === 'place' && geometry.type === 'Point'
    ? [{ id: properties.id, name: properties.name, island: properties.island, lon: geometry.coordinates[0], lat: geometry.coordinates[1] }]
    : [],
)

const ROADS: Roads = {
  places: ISLAND_PLACES,
  roads: MAP.flatMap(({ properties }) => (properties.kind === 'road' ? [properties] : [])),
  ferries: MAP.flatMap(({ properties }) => (properties.kind === 'ferry' ? [properties] : [])),
}
const DAY = { fromMin: 6 * 60, toMin: 20 * 60 }
/** Worked out when it is first asked for: it takes about a second. */
let wholeDay: Travel | null = null
function overTheIslands(): Travel {
  wholeDay ??= travelOver(ROADS, DAY)
  return wholeDay
}
const KM_A_DEGREE = 111.2
const KMH = 45
const WINDING = 1.35

/** As the crow flies with a winding road's share, all day alike: for places no net knows. */
function overLand(places: readonly PlaceDto[]): Travel {
  const minutes = (a: PlaceDto, b: PlaceDto): number => {
    const east = (a.lon - b.lon) * KM_A_DEGREE * Math.cos((((a.lat + b.lat) / 2) * Math.PI) / 180)
    return Math.round((Math.hypot(east, (a.lat - b.lat) * KM_A_DEGREE) * WINDING * 60) / KMH)
  }
  return { places: places.map(({ id }) => id), travelMin: places.map((a) => places.map((b) => minutes(a, b))), travelByHour: [], sails: [] }
}

/** The stand-in: the islands' roads, causeway and ferry by their timetable; anywhere else the crow's way. */
export const islandTravel: TravelService = {
  version: createHash('sha256').update(JSON.stringify(islands)).digest('hex').slice(0, 12),
  between: async (places) => {
    const known = new Set(ISLAND_PLACES.map(({ id }) => id))
    if (!places.every(({ id }) => known.has(id))) return overLand(places)
    return travelAmong(
      overTheIslands(),
      places.map(({ id }) => id),
    )
  },
}
