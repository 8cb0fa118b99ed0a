import type { PlaceDto } from '@evenround/contract/rounds'
import { leastMinutes, NOT_TODAY_MIN, type Travel } from '@evenround/core/round/roads'
import { kmBetween } from '@evenround/core/units'
import { areaPlaces, betweenVisits, meanNearest, type YearArea } from '@evenround/core/year'

export interface Areas {
  areas: YearArea[]
  /** By place; nothing for one that nobody can drive to and back from on one day. */
  areaOf: ReadonlyMap<string, string>
  names: ReadonlyMap<string, string>
  /** Where an area is driven to first, by its row of the travel. */
  leads: ReadonlyMap<string, number>
  km: Record<string, { roundTripKm: number; betweenKm: number }>
}

/** Parts the places with customers into areas, each with its way from the nearest base and between two of its visits. */
export function areasOf(places: readonly PlaceDto[], travel: Travel, bases: readonly PlaceDto[], winding: number): Areas {
  const rowOf = new Map(travel.places.map((id, row) => [id, row]))
  const way = (a: number, b: number): number => leastMinutes(travel, a, b)
  const starts = bases.flatMap((base) => rowOf.get(base.id) ?? [])
  const placeAt = new Map<number, PlaceDto>()
  const byIsland = new Map<string, number[]>()
  for (const place of places) {
    const row = rowOf.get(place.id)
    if (row === undefined) continue
    placeAt.set(row, place)
    const own = byIsland.get(place.island)
    if (own) own.push(row)
    else byIsland.set(place.island, [row])
  }
  const areas: YearArea[] = []
  const leads = new Map<string, number>()
  const km: Areas['km'] = {}
  const areaOf = new Map<string, string>()
  const names = new Map<string, string>()
  for (const rows of [...byIsland.values()].flatMap((all) => areaPlaces(all, way))) {
    const [lead] = rows
    const roundTripMin = Math.min(...starts.map((base) => way(base, lead) + way(lead, base)))
    if (!(roundTripMin < NOT_TODAY_MIN)) continue
    const own = rows.flatMap((row) => placeAt.get(row) ?? [])
    const id = own[0]?.id ?? ''
    areas.push({ id, roundTripMin, betweenMin: betweenVisits(rows, way) })
    leads.set(id, lead)
    const kmOf = (a: number, b: number): number => kmBetween(placeAt.get(a) as PlaceDto, placeAt.get(b) as PlaceDto)
    km[id] = {
      roundTripKm: 2 * winding * Math.min(...bases.map((base) => kmBetween(base, placeAt.get(lead) as PlaceDto))),
      betweenKm: winding * meanNearest(rows, kmOf, 0),
    }
    names.set(id, nameOf(own))
    for (const place of own) areaOf.set(place.id, id)
  }
  return { areas, areaOf, names, leads, km }
}

/** What most of its places are called. */
function nameOf(places: readonly PlaceDto[]): string {
  const counts = new Map<string, number>()
  for (const { name } of places) counts.set(name, (counts.get(name) ?? 0) + 1)
  return [...counts].sort(([a, n], [b, m]) => m - n || (a < b ? -1 : 1))[0]?.[0] ?? ''
}
