import type { Position } from '@evenround/core/units'
import { type GeoProjection, geoMercator } from 'd3-geo'

/** What a map shows: its middle, and how many degrees of longitude fit across it. */
export interface MapView {
  lat: number
  lon: number
  span: number
}

export const WORLD: MapView = { lat: 20, lon: 0, span: 360 }
/** About a street across; the typed position goes further. */
export const NEAREST_SPAN = 0.005
const DEGREES_ROUND = 180 / Math.PI
/** Mercator has no poles. */
const MOST_LAT = 80
/** No map here is flatter, height to width. */
const FLATTEST = 0.5

/** The map's projection in a box of this size. */
export const projectionOf = ({ lat, lon, span }: MapView, width: number, height: number): GeoProjection =>
  geoMercator()
    .scale((width / span) * DEGREES_ROUND)
    .rotate([-lon, 0])
    .center([0, lat])
    .translate([width / 2, height / 2])
    .clipExtent([
      [0, 0],
      [width, height],
    ])

const clamped = ({ lat, lon, span }: MapView): MapView => ({
  lat: Math.max(-MOST_LAT, Math.min(MOST_LAT, lat)),
  lon: ((lon + 540) % 360) - 180,
  span: Math.max(NEAREST_SPAN, Math.min(360, span)),
})

/** The place under a point of the box. */
export function placeAt(view: MapView, width: number, height: number, x: number, y: number): Position | null {
  const at = projectionOf(view, width, height).invert?.([x, y])
  if (!at) return null
  const [lon, lat] = at
  return Number.isFinite(lon) && Number.isFinite(lat) ? { lat, lon } : null
}

/** The view with what lies under `from` brought under `to`. */
export function dragged(view: MapView, width: number, height: number, from: [number, number], to: [number, number]): MapView {
  const middle = placeAt(view, width, height, width / 2 + from[0] - to[0], height / 2 + from[1] - to[1])
  return middle === null ? view : clamped({ ...view, ...middle })
}

/** Nearer or further, about the place under a point, which stays where it is. */
export function zoomed(view: MapView, width: number, height: number, factor: number, about: [number, number]): MapView {
  const next = clamped({ ...view, span: view.span * factor })
  const place = placeAt(view, width, height, ...about)
  if (place === null) return next
  const now = projectionOf(next, width, height)([place.lon, place.lat])
  return now ? dragged(next, width, height, [now[0], now[1]], about) : next
}

/** A view that holds these places with some room round them; the world where there are none. */
export function viewOf(places: readonly Position[]): MapView {
  if (places.length === 0) return WORLD
  const [lats, lons] = [places.map(({ lat }) => lat), places.map(({ lon }) => lon)]
  const [south, north, west, east] = [Math.min(...lats), Math.max(...lats), Math.min(...lons), Math.max(...lons)]
  const across = Math.max(east - west, (north - south) / Math.cos(((south + north) / 2) * (Math.PI / 180)) / FLATTEST, 0.05)
  return clamped({ lat: (south + north) / 2, lon: (west + east) / 2, span: 1.6 * across })
}

/** Degrees between the lines of the grid, the finest that leaves some of them in sight. */
const STEPS = [30, 10, 5, 1, 0.5, 0.1, 0.05, 0.01, 0.005]
const NEAREST_STEP = 0.001

/** Lines of equal latitude and longitude across the view, a handful of each however near it is. */
export function gridOf({ lat, lon, span }: MapView): { type: 'MultiLineString'; coordinates: number[][][] } {
  const step = STEPS.find((one) => one <= span / 3) ?? NEAREST_STEP
  const half = Math.min(180, span)
  const [west, east, south, north] = [lon - half, lon + half, Math.max(-85, lat - half), Math.min(85, lat + half)]
  const marks = (from: number, to: number): number[] => {
    const first = Math.ceil(from / step)
    return Array.from({ length: Math.floor(to / step) - first + 1 }, (_, index) => (first + index) * step)
  }
  // Parallels are drawn through many points: a straight line between two would leave them.
  const across = Array.from({ length: 25 }, (_, index) => west + ((east - west) * index) / 24)
  return {
    type: 'MultiLineString',
    coordinates: [
      ...marks(west, east).map((at) => [
        [at, south],
        [at, (south + north) / 2],
        [at, north],
      ]),
      ...marks(south, north).map((at) => across.map((x) => [x, at])),
    ],
  }
}
