import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { MapFeature } from '@evenround/contract/geo'
import { mesh } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'

interface Box {
  west: number
  south: number
  east: number
  north: number
}
type Line = [number, number][]

/** Coasts and borders of the earth at 1 : 10 million, public domain; read when they are first asked for. */
let lines: { coast: Line[]; border: Line[] } | null = null
function outlines(): { coast: Line[]; border: Line[] } {
  if (lines) return lines
  const file = createRequire(__filename).resolve('world-atlas/countries-10m.json')
  const topology = JSON.parse(readFileSync(file, 'utf8')) as Topology<{ countries: GeometryCollection }>
  const { countries } = topology.objects
  const of = (between: (a: object, b: object) => boolean): Line[] => mesh(topology, countries, between).coordinates as Line[]
  lines = { coast: of((a, b) => a === b), border: of((a, b) => a !== b) }
  return lines
}

const within = ([lon, lat]: [number, number], { west, south, east, north }: Box): boolean =>
  lon >= west && lon <= east && lat >= south && lat <= north

/** Stretches of a line that lie in a box, each with the point before and after it. */
function inBox(line: Line, box: Box): Line[] {
  const stretches: Line[] = []
  let open: Line | null = null
  line.forEach((point, index) => {
    if (within(point, box)) {
      if (open === null) {
        open = index > 0 ? [line[index - 1] as [number, number]] : []
        stretches.push(open)
      }
      open.push(point)
    } else if (open !== null) {
      open.push(point)
      open = null
    }
  })
  return stretches.filter(({ length }) => length > 1)
}

/** Round the places, with a margin of half the span and at least a third of a degree. */
export function boxRound(places: readonly { lat: number; lon: number }[]): Box | null {
  const [first] = places
  if (!first) return null
  let box: Box = { west: first.lon, east: first.lon, south: first.lat, north: first.lat }
  for (const { lat, lon } of places)
    box = {
      west: Math.min(box.west, lon),
      east: Math.max(box.east, lon),
      south: Math.min(box.south, lat),
      north: Math.max(box.north, lat),
    }
  // One house that was put on the wrong side of the earth would make everybody fetch all its coasts.
  if (box.east - box.west > MOST_SPAN || box.north - box.south > MOST_SPAN) {
    const [lon, lat] = [middleOf(places.map((place) => place.lon)), middleOf(places.map((place) => place.lat))]
    box = { west: lon - MOST_SPAN / 2, east: lon + MOST_SPAN / 2, south: lat - MOST_SPAN / 2, north: lat + MOST_SPAN / 2 }
  }
  const margin = Math.max(LEAST_MARGIN, (box.east - box.west) / 2, (box.north - box.south) / 2)
  return { west: box.west - margin, east: box.east + margin, south: box.south - margin, north: box.north + margin }
}
/** All in degrees. A firm's round is driven in a day: ten are a thousand kilometres. */
const MOST_SPAN = 10
const LEAST_MARGIN = 0.35
const middleOf = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0

/** Coasts and borders round some places, as features of a map; none where there are no places. */
export function outlinesRound(places: readonly { lat: number; lon: number }[]): MapFeature[] {
  const box = boxRound(places)
  if (box === null) return []
  return (['coast', 'border'] as const).flatMap((what) =>
    outlines()[what].flatMap((line) =>
      inBox(line, box).map(
        (coordinates): MapFeature => ({
          type: 'Feature',
          properties: { kind: 'outline', what },
          geometry: { type: 'LineString', coordinates },
        }),
      ),
    ),
  )
}
