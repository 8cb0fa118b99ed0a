/** Places this near one another, there and back, are one area: a day there sees them all. */
const TOGETHER_MIN = 36
/** Doors of one place lie this far apart. */
const NEXT_DOOR_MIN = 4
/** So many of an area's places say how far its visits lie apart. */
const LOOKED_AT = 60

/** Minutes from one place to another, by their numbers. */
type WayMin = (from: number, to: number) => number

/** An area's places by number, of which the first leads: all others are near it. */
export type AreaPlaces = readonly [lead: number, ...others: number[]]

/** Parts places into areas, in their order: each belongs to the first area it is near to. */
export function areaPlaces(places: readonly number[], wayMin: WayMin): AreaPlaces[] {
  const areas: [number, ...number[]][] = []
  for (const place of places) {
    const near = areas.find(([lead]) => wayMin(lead, place) + wayMin(place, lead) <= TOGETHER_MIN)
    if (near) near.push(place)
    else areas.push([place])
  }
  return areas
}

/** The mean way from a place of an area to the nearest other one, `least` for each at the least and for one that is alone. */
export function meanNearest(area: AreaPlaces, way: (from: number, to: number) => number, least: number): number {
  const some = area.slice(0, LOOKED_AT)
  const apart = some.map((place) => {
    const nearest = some.reduce((near, other) => (other === place ? near : Math.min(near, way(place, other))), Number.POSITIVE_INFINITY)
    return Number.isFinite(nearest) ? Math.max(least, nearest) : least
  })
  return apart.reduce((sum, one) => sum + one, 0) / apart.length
}

/** Minutes from one visit of an area to the next: between two doors at least. */
export const betweenVisits = (area: AreaPlaces, wayMin: WayMin): number => meanNearest(area, wayMin, NEXT_DOOR_MIN)

/** Of what the way there and back leaves of a day, the ways from door to door take the rest. */
const AT_DOORS = 0.9
/** However far it is, so much of a day is left. */
const LEAST_OF_DAY = 0.25

/** Minutes at sites that fit into a working day in an area: what the way there and back, and the ways between its doors, leave of it. */
export const workingMin = (dayMin: number, roundTripMin: number): number =>
  Math.max(LEAST_OF_DAY * dayMin, AT_DOORS * (dayMin - roundTripMin))
