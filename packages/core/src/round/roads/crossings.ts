import type { Position } from '../../units'
import { UNKNOWN_MIN } from './over-land'
import { type Crossing, roadsOf } from './over-water'
import type { Travel } from './travel'

interface Placed extends Position {
  id: string
  island: string
}

/** Minutes by road between two points as somebody who knows the roads has them; null where they are not known. */
export type RoadMinutes = (from: Position, to: Position) => number | null

/** What the way takes of a crossing, and nothing else that a firm keeps of it. */
const asWay = ({ id, kind, from, to, minutes, boardMin, departures, returns, open, seasons, tides }: Crossing): Crossing => ({
  id,
  kind,
  from,
  to,
  minutes,
  boardMin,
  departures,
  returns,
  open,
  ...(seasons && seasons.length > 0 ? { seasons } : {}),
  ...(tides ? { tides } : {}),
})

/** Rows from each of some points to each of others; to itself there is nothing to drive. */
const tableOf = (road: RoadMinutes, from: readonly Position[], to: readonly Position[]): number[][] =>
  from.map((one) => to.map((other) => (one === other ? 0 : tenth(road(one, other) ?? UNKNOWN_MIN))))
const tenth = (minutes: number): number => Math.round(minutes * 10) / 10

/** So many places fit a table of their ways that still goes to a browser; of more all are estimated. */
export const MOST_BY_ROAD = 800

/**
 * Travel between places: over land within an area, by road where `road` knows the minutes and else estimated; by the firm's own crossings
 * between areas. What no crossing joins is not reached that day.
 */
export function travelAcross(
  places: readonly Placed[],
  crossings: readonly Crossing[],
  winding: number,
  road: RoadMinutes | null = null,
): Travel {
  const byRoad = places.length <= MOST_BY_ROAD ? road : null
  const known = byRoad ? tableOf(byRoad, places, places) : null
  const ends = roadsOf(crossings, winding).places
  const water = {
    island: places.map(({ island }) => island),
    crossings: crossings.map(asWay),
    ...(byRoad ? { ends: { out: tableOf(byRoad, places, ends), back: transposed(tableOf(byRoad, ends, places), places.length) } } : {}),
  }
  return {
    places: places.map(({ id }) => id),
    travelMin: [],
    travelByHour: [],
    sails: [],
    ...(known?.every((row) => row.every((minutes) => minutes >= 0)) ? {} : { estimated: true }),
    land: {
      lat: places.map(({ lat }) => lat),
      lon: places.map(({ lon }) => lon),
      winding,
      ...(crossings.length > 0 ? { water } : {}),
      ...(known ? { road: known } : {}),
    },
  }
}

/** Rows become columns; `columns` says how long they are where there is no row. */
const transposed = (rows: readonly (readonly number[])[], columns: number): number[][] =>
  Array.from({ length: columns }, (_, column) => rows.map((row) => row[column] as number))
