import type { PlaceDto } from '@evenround/contract/rounds'
import { leastMinutes, NOT_TODAY_MIN, type Travel } from '@evenround/core/round/roads'
import type { YearArea } from '@evenround/core/year'

/** Places this near one another, there and back, are one area: a day there sees them all. */
const TOGETHER_MIN = 36
/** Doors of one place lie this far apart. */
const NEXT_DOOR_MIN = 4
/** So many of an area's places say how far its visits lie apart. */
const LOOKED_AT = 60

export interface Areas {
  areas: YearArea[]
  /** By place; nothing for one that nobody can drive to and back from on one day. */
  areaOf: ReadonlyMap<string, string>
  names: ReadonlyMap<string, string>
}

interface Cluster {
  lead: number
  places: { place: PlaceDto; row: number }[]
}

/** Parts the places with customers into areas, each with its way from the nearest base and between two of its visits. */
export function areasOf(places: readonly PlaceDto[], travel: Travel, bases: readonly string[]): Areas {
  const rowOf = new Map(travel.places.map((id, row) => [id, row]))
  const way = (a: number, b: number): number => leastMinutes(travel, a, b)
  const starts = bases.flatMap((id) => rowOf.get(id) ?? [])
  const clusters = new Map<string, Cluster[]>()
  for (const place of places) {
    const row = rowOf.get(place.id)
    if (row === undefined) continue
    const own = clusters.get(place.island) ?? []
    const near = own.find(({ lead }) => way(lead, row) + way(row, lead) <= TOGETHER_MIN)
    if (near) near.places.push({ place, row })
    else own.push({ lead: row, places: [{ place, row }] })
    clusters.set(place.island, own)
  }
  const areas: YearArea[] = []
  const areaOf = new Map<string, string>()
  const names = new Map<string, string>()
  for (const { lead, places: own } of [...clusters.values()].flat()) {
    const roundTripMin = Math.min(...starts.map((base) => way(base, lead) + way(lead, base)))
    if (!(roundTripMin < NOT_TODAY_MIN)) continue
    const [first] = own
    const id = first?.place.id ?? ''
    const apart = own.slice(0, LOOKED_AT).map(({ row }) => {
      const nearest = Math.min(
        ...own.slice(0, LOOKED_AT).map((other) => (other.row === row ? Number.POSITIVE_INFINITY : way(row, other.row))),
      )
      return Number.isFinite(nearest) ? Math.max(NEXT_DOOR_MIN, nearest) : NEXT_DOOR_MIN
    })
    areas.push({ id, roundTripMin, betweenMin: apart.reduce((sum, one) => sum + one, 0) / apart.length })
    names.set(id, nameOf(own.map(({ place }) => place)))
    for (const { place } of own) areaOf.set(place.id, id)
  }
  return { areas, areaOf, names }
}

/** What most of its places are called. */
function nameOf(places: readonly PlaceDto[]): string {
  const counts = new Map<string, number>()
  for (const { name } of places) counts.set(name, (counts.get(name) ?? 0) + 1)
  return [...counts].sort(([a, n], [b, m]) => m - n || (a < b ? -1 : 1))[0]?.[0] ?? ''
}
