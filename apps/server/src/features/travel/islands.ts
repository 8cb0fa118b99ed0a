import { createHash } from 'node:crypto'
import { type MapFeature, mapFeatureSchema } from '@evenround/contract/geo'
import type { PlaceDto } from '@evenround/contract/rounds'
import {
  type Crossing,
  landMinutes,
  type Roads,
  roadsOf,
  type Travel,
  travelAcross,
  travelAmong,
  travelAnchored,
  travelOver,
} from '@evenround/core/round/roads'
import { kmBetween, type Position } from '@evenround/core/units'
import { say } from '@evenround/core/words'
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
/** Crossings of the map by their ids: the ferry with all its legs, and the road that is under water at times. */
const [FERRY, CAUSEWAY] = ['islands:ferry', 'islands:causeway']

/** The islands' roads without some of their crossings. */
const mapWithout = (without: readonly string[]): Roads => ({
  places: ROADS.places,
  roads: without.includes(CAUSEWAY) ? ROADS.roads.filter(({ open }) => open === undefined) : ROADS.roads,
  ferries: without.includes(FERRY) ? [] : ROADS.ferries,
})

/** The islands' roads with a firm's crossings beside them, each end joined over land to the nearest village of its island. */
function roadsWith(map: Roads, crossings: readonly Crossing[], winding: number): Roads {
  const own = roadsOf(crossings, winding)
  const joined = own.places.flatMap((end) => {
    const village = nearestOf(
      ISLAND_PLACES.filter(({ island }) => island === end.island),
      end,
    )
    return village ? [{ from: end.id, to: village.id, minutes: Math.max(1, Math.round(landMinutes(end, village, winding))) }] : []
  })
  return {
    places: [...map.places, ...own.places],
    roads: [...map.roads, ...own.roads, ...joined],
    ferries: [...map.ferries, ...own.ferries],
  }
}

/** Worked out when it is first asked for: it takes about a second. */
let wholeDay: { key: string; travel: Travel } | null = null
function overTheIslands(crossings: readonly Crossing[], winding: number, without: readonly string[]): Travel {
  const map = mapWithout(without)
  const made = (): Travel => travelOver(crossings.length === 0 ? map : roadsWith(map, crossings, winding), DAY)
  // What is only tried is not kept in the place of what everybody asks for.
  if (without.length > 0) return made()
  const key = crossings.length === 0 ? '' : JSON.stringify([crossings, winding])
  if (wholeDay?.key !== key) wholeDay = { key, travel: made() }
  return wholeDay.travel
}

/** A house further from any village of the islands than this does not stand on them. */
const ON_THE_ISLANDS_KM = 25

/** The village a house hangs on: the nearest of its own island where one is named, else the nearest of all; null where none is near. */
function anchorOf(place: PlaceDto): PlaceDto | null {
  const own = ISLAND_PLACES.filter(({ island }) => island === place.island)
  return nearestOf(own.length > 0 ? own : ISLAND_PLACES, place, ON_THE_ISLANDS_KM)
}

/** The nearest of some places, where one is nearer than this. */
function nearestOf(places: readonly PlaceDto[], here: Position, within = Number.POSITIVE_INFINITY): PlaceDto | null {
  let [nearest, least]: [PlaceDto | null, number] = [null, within]
  for (const one of places) {
    const km = kmBetween(one, here)
    if (km < least) [nearest, least] = [one, km]
  }
  return nearest
}

/** On the islands of the demo, or a short way from a village of theirs. */
export const isOnIslands = (place: PlaceDto): boolean => ISLAND_PLACES.some((one) => kmBetween(one, place) < ON_THE_ISLANDS_KM)

/**
 * The default: the islands' roads, causeway and ferry by their timetable and the firm's own crossings beside them, with houses between the villages hanging on the nearest; anywhere
 * else estimated over land.
 */
export const islandTravel: TravelService = {
  version: createHash('sha256')
    .update(JSON.stringify([islands, 2]))
    .digest('hex')
    .slice(0, 12),
  crossings: (places) =>
    places.some(isOnIslands)
      ? [
          { id: FERRY, name: say`The ferry` },
          { id: CAUSEWAY, name: say`The causeway` },
        ]
      : [],
  between: async (places, { winding, crossings, road, without = [] }) => {
    const known = new Map(ISLAND_PLACES.map((place) => [place.id, place]))
    const anchors = places.map((place) => known.get(place.id) ?? anchorOf(place))
    if (anchors.every((anchor) => anchor === null)) return travelAcross(places, crossings, winding, road)
    if (road === null && places.every(({ id }) => known.has(id)))
      return travelAmong(
        overTheIslands(crossings, winding, without),
        places.map(({ id }) => id),
      )
    const minutes = (a: PlaceDto, b: PlaceDto): number => Math.max(1, Math.round(landMinutes(a, b, winding)))
    const [anywhere] = ISLAND_PLACES
    const points = places.map((place, index) => {
      const anchor = anchors[index] ?? (anywhere as PlaceDto)
      return { id: place.id, anchor: anchor.id, minutes: anchor.id === place.id ? 0 : minutes(anchor, place) }
    })
    const anchored = travelAnchored(overTheIslands(crossings, winding, without), points, (from, to) => {
      const [a, b] = [places[from] as PlaceDto, places[to] as PlaceDto]
      const [there, here] = [anchors[from], anchors[to]]
      if (!there || !here) return minutes(a, b)
      const byRoad = there.island === here.island ? (road?.(a, b) ?? null) : null
      if (byRoad !== null) return Math.max(1, Math.round(byRoad))
      // Between villages the net knows the way; a house is reached over land on its own island.
      const villages = there.id === a.id && here.id === b.id
      return !villages && there.island === here.island ? minutes(a, b) : null
    })
    // Between villages the roads are known; the last stretch to a house is not.
    return { ...anchored, estimated: true }
  },
}
