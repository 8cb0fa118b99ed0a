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

/** Minutes from one visit of an area to the next: the mean way from a place to the nearest other one, and between two doors at least. */
export function betweenVisits(area: AreaPlaces, wayMin: WayMin): number {
  const some = area.slice(0, LOOKED_AT)
  const apart = some.map((place) => {
    const nearest = some.reduce(
      (least, other) => (other === place ? least : Math.min(least, wayMin(place, other))),
      Number.POSITIVE_INFINITY,
    )
    return Number.isFinite(nearest) ? Math.max(NEXT_DOOR_MIN, nearest) : NEXT_DOOR_MIN
  })
  return apart.reduce((sum, one) => sum + one, 0) / apart.length
}
