import type { Position } from '../../units'
import { type Anchored, travelAnchored } from './anchored'
import { landMinutes } from './land'
import type { Roads } from './roads'
import { NOT_TODAY_MIN, type Travel, travelOver } from './travel'

/** A ferry, causeway or bridge between two areas that no road joins. Minutes after midnight. */
export interface Crossing {
  id: string
  kind: 'ferry' | 'causeway' | 'bridge'
  from: Position & { area: string }
  to: Position & { area: string }
  minutes: number
  boardMin: number
  departures: readonly number[]
  returns: readonly number[]
  open: readonly (readonly [number, number])[]
}
interface Placed extends Position {
  id: string
  island: string
}

const DAY = { fromMin: 5 * 60, toMin: 21 * 60 }

/**
 * Travel where water lies between: over land within an area, by the crossings between areas. An area that no crossing names belongs to the
 * mainland, which is called by the empty name. Each place reaches the nearest end of a crossing in its area. What no crossing joins is not
 * reached that day.
 */
export function travelAcross(places: readonly Placed[], crossings: readonly Crossing[], winding: number): Travel {
  const named = new Set(crossings.flatMap(({ from, to }) => [from.area, to.area]))
  const areaOf = ({ island }: Placed): string => (named.has(island) ? island : '')
  const minutes = (a: Position, b: Position): number => Math.max(1, Math.round(landMinutes(a, b, winding)))
  const ends = crossings.flatMap(({ id, from, to }) => [
    { ...from, id: `${id}:from` },
    { ...to, id: `${id}:to` },
  ])
  const onLand = ends.flatMap((one, index) =>
    ends
      .slice(index + 1)
      .flatMap((other) => (one.area === other.area ? [{ from: one.id, to: other.id, minutes: minutes(one, other) }] : [])),
  )
  const roads: Roads = {
    places: ends.map(({ id, area, lat, lon }) => ({ id, name: id, island: area, lat, lon })),
    roads: [
      ...onLand,
      ...crossings.flatMap(({ id, kind, minutes: over, open }) =>
        kind === 'ferry' ? [] : [{ from: `${id}:from`, to: `${id}:to`, minutes: over, ...(open.length > 0 ? { open } : {}) }],
      ),
    ],
    ferries: crossings.flatMap(({ id, kind, minutes: over, boardMin, departures, returns }) =>
      kind === 'ferry'
        ? [
            { from: `${id}:from`, to: `${id}:to`, minutes: over, boardMin, departures },
            { from: `${id}:to`, to: `${id}:from`, minutes: over, boardMin, departures: returns },
          ]
        : [],
    ),
  }
  const nearest = places.map((place): Anchored | null => {
    const own = ends.filter(({ area }) => area === areaOf(place)).map(({ id, lat, lon }) => ({ id, far: minutes(place, { lat, lon }) }))
    const [first] = own.sort((a, b) => a.far - b.far)
    return first ? { id: place.id, anchor: first.id, minutes: first.far } : null
  })
  const [anywhere] = ends
  const points = places.map(({ id }, index): Anchored => nearest[index] ?? { id, anchor: anywhere?.id ?? '', minutes: 0 })
  return travelAnchored(travelOver(roads, DAY), points, (from, to) => {
    const [a, b] = [places[from] as Placed, places[to] as Placed]
    if (areaOf(a) === areaOf(b)) return minutes(a, b)
    return nearest[from] && nearest[to] ? null : NOT_TODAY_MIN
  })
}
