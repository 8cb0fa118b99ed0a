import { landOn, usualTidesOf } from './by-day'
import { type LandWays, landAmong } from './over-land'
import { NOT_TODAY_MIN, QUARTER_MIN, quarterFrom } from './quarters'
import { netOf, type Roads } from './roads'
import { leastBetween, waterOf, wayBetween } from './ways'

/** Travel between places over a day, as a round takes it, with the sailing each drive is for. */
export interface Travel {
  places: string[]
  travelMin: number[][]
  travelByHour: { fromMin: number; travelMin: number[][] }[]
  /** First sailing of a drive that leaves from this minute on, minutes after midnight; −1 on dry land. Beside `travelByHour`, entry by entry. */
  sails: { fromMin: number; sailsMin: number[][] }[]
  /** Where it is given the ways are estimated when asked for, over land and by the firm's own crossings: the tables are empty. */
  land?: LandWays
  /** Ways are estimated over land, all or some, and not known from a map of roads. */
  estimated?: boolean
}

/**
 * Travel minutes by the hour of departure. Within a quarter of an hour the longest drive of it stands, so that nobody is told to catch a
 * ferry that has gone; waiting for a better quarter is the round's own choice. Quarters alike are written once. The sailing stands
 * beside the drive it belongs to.
 */
export function travelOver(roads: Roads, { fromMin, toMin }: { fromMin: number; toMin: number }): Travel {
  const net = netOf(roads)
  const quarters: { fromMin: number; travelMin: number[][]; sailsMin: number[][] }[] = []
  for (let at = fromMin; at < toMin; at += QUARTER_MIN) {
    const rows = net.ids.map((_, from) => quarterFrom(net, from, at))
    const [travelMin, sailsMin] = [rows.map(({ minutes }) => minutes), rows.map((row) => row.sailsMin)]
    const last = quarters.at(-1)
    if (last && JSON.stringify([last.travelMin, last.sailsMin]) === JSON.stringify([travelMin, sailsMin])) continue
    quarters.push({ fromMin: at, travelMin, sailsMin })
  }
  const [first] = quarters
  return {
    places: net.ids,
    travelMin: first?.travelMin ?? [],
    travelByHour: quarters.slice(1).map(({ fromMin: from, travelMin }) => ({ fromMin: from, travelMin })),
    sails: quarters.map(({ fromMin: from, sailsMin }) => ({ fromMin: from, sailsMin })),
  }
}

/** Travel as it is on an ISO day, by the season's sailings and the tide. */
export const travelOn = (travel: Travel, day: string): Travel => (travel.land ? { ...travel, land: landOn(travel.land, day) } : travel)

/** Travel as it is where no day's own tide is known. */
export const usualTides = (travel: Travel): Travel => (travel.land ? { ...travel, land: usualTidesOf(travel.land) } : travel)

/** A drive that leaves at `departMin`: its minutes, waiting for a ferry included; `NOT_TODAY_MIN` where it does not get there that day. */
export function driveMinutes(travel: Travel, from: string, to: string, departMin: number): number {
  const [a, b] = [travel.places.indexOf(from), travel.places.indexOf(to)]
  if (travel.land && a >= 0 && b >= 0) return wayBetween(travel.land, a, b, departMin).minutes
  const matrix = travel.travelByHour.findLast(({ fromMin }) => fromMin <= departMin)?.travelMin ?? travel.travelMin
  return a === b ? 0 : (matrix[a]?.[b] ?? NOT_TODAY_MIN)
}

/** The shortest drive between two places by their rows, at whatever hour. */
export function leastMinutes(travel: Travel, from: number, to: number): number {
  if (travel.land) return leastBetween(travel.land, from, to)
  return Math.min(...[travel.travelMin, ...travel.travelByHour.map(({ travelMin }) => travelMin)].map((matrix) => matrix[from]?.[to] ?? 0))
}

/** The sailing a drive is for that leaves at `departMin`; null on dry land. */
export function sailingOf(travel: Travel, from: string, to: string, departMin: number): number | null {
  const [a, b] = [travel.places.indexOf(from), travel.places.indexOf(to)]
  if (travel.land) {
    const sails = a < 0 || b < 0 ? -1 : wayBetween(travel.land, a, b, departMin).sailsMin
    return sails < 0 ? null : sails
  }
  const entry = travel.sails.findLast(({ fromMin }) => fromMin <= departMin) ?? travel.sails[0]
  const sails = entry?.sailsMin[a]?.[b] ?? -1
  return sails < 0 ? null : sails
}

/** Whether any drive of this travel may be for a ferry. */
export const anySails = ({ sails, land }: Travel): boolean => (land ? waterOf(land)?.sails === true : sails.length > 0)

/** The same travel between these places alone, in their order. A place it does not know is taken to be where every other is. */
export function travelAmong(travel: Travel, places: readonly string[]): Travel {
  const rowOf = new Map(travel.places.map((id, row) => [id, row]))
  const rows = places.map((id) => rowOf.get(id) ?? -1)
  const cut = (matrix: number[][]): number[][] => rows.map((from) => rows.map((to) => matrix[from]?.[to] ?? 0))
  // A place over land that is not known lies where the first one does.
  if (travel.land)
    return {
      places: [...places],
      travelMin: [],
      travelByHour: [],
      sails: [],
      ...(travel.estimated ? { estimated: true } : {}),
      land: landAmong(
        travel.land,
        rows.map((row) => Math.max(0, row)),
      ),
    }
  return {
    places: [...places],
    ...(travel.estimated ? { estimated: true } : {}),
    travelMin: cut(travel.travelMin),
    travelByHour: travel.travelByHour.map(({ fromMin, travelMin }) => ({ fromMin, travelMin: cut(travelMin) })),
    sails: travel.sails.map(({ fromMin, sailsMin }) => ({ fromMin, sailsMin: cut(sailsMin) })),
  }
}
