import type { PlaceDto } from '@evenround/contract/rounds'
import { leastMinutes, NOT_TODAY_MIN, type Travel } from '@evenround/core/round/roads'
import { kmBetween } from '@evenround/core/units'
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
  /** Where an area is driven to first, by its row of the travel. */
  leads: ReadonlyMap<string, number>
  km: Record<string, { roundTripKm: number; betweenKm: number }>
}

interface Cluster {
  lead: number
  places: { place: PlaceDto; row: number }[]
}

/** Parts the places with customers into areas, each with its way from the nearest base and between two of its visits. */
export function areasOf(places: readonly PlaceDto[], travel: Travel, bases: readonly PlaceDto[], winding: number): Areas {
  const rowOf = new Map(travel.places.map((id, row) => [id, row]))
  const way = (a: number, b: number): number => leastMinutes(travel, a, b)
  const starts = bases.flatMap((base) => rowOf.get(base.id) ?? [])
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
  const leads = new Map<string, number>()
  const km: Areas['km'] = {}
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
    leads.set(id, lead)
    const positions = own.slice(0, LOOKED_AT).map(({ place }) => place)
    const near = positions.map((here) =>
      Math.min(...positions.map((other) => (other === here ? Number.POSITIVE_INFINITY : kmBetween(here, other)))),
    )
    const far = Math.min(...bases.map((base) => kmBetween(base, positions[0] as PlaceDto)))
    km[id] = {
      roundTripKm: 2 * winding * far,
      betweenKm: (winding * near.reduce((sum, one) => sum + (Number.isFinite(one) ? one : 0), 0)) / near.length,
    }
    names.set(id, nameOf(own.map(({ place }) => place)))
    for (const { place } of own) areaOf.set(place.id, id)
  }
  return { areas, areaOf, names, leads, km }
}

/** What most of its places are called. */
function nameOf(places: readonly PlaceDto[]): string {
  const counts = new Map<string, number>()
  for (const { name } of places) counts.set(name, (counts.get(name) ?? 0) + 1)
  return [...counts].sort(([a, n], [b, m]) => m - n || (a < b ? -1 : 1))[0]?.[0] ?? ''
}
