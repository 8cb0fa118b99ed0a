import { type LandWays, landAmong, minutesOverLand } from './over-land'
import { type Arrivals, arrivalsFrom, netOf, type Roads } from './roads'

/** Travel between places over a day, as a round takes it, with the sailing each drive is for. */
export interface Travel {
  places: string[]
  travelMin: number[][]
  travelByHour: { fromMin: number; travelMin: number[][] }[]
  /** First sailing of a drive that leaves from this minute on, minutes after midnight; −1 on dry land. Beside `travelByHour`, entry by entry. */
  sails: { fromMin: number; sailsMin: number[][] }[]
  /** Where it is given the ways are over land, alike at any hour, estimated when asked for: the tables are empty. */
  land?: LandWays
  /** Ways are estimated over land, all or some, and not known from a map of roads. */
  estimated?: boolean
}

/** A drive that does not get there that day. */
export const NOT_TODAY_MIN = 5000
const STEP_MIN = 15

/** Puts a later departure's drives in where they last longer than those so far, with their sailings. */
function lengthen(lasting: number[], sailing: number[], { arriveMin, sailsMin }: Arrivals, minute: number): void {
  for (let to = 0; to < lasting.length; to++) {
    const arrives = arriveMin[to] as number
    const lasts = arrives === Number.POSITIVE_INFINITY ? NOT_TODAY_MIN : arrives - minute
    if (lasts <= (lasting[to] as number)) continue
    lasting[to] = lasts
    sailing[to] = sailsMin[to] as number
  }
}

/**
 * Travel minutes by the hour of departure. Within a quarter of an hour the longest drive of it stands, so that nobody is told to catch a
 * ferry that has gone; waiting for a better quarter is the round's own choice. Quarters alike are written once. The sailing stands
 * beside the drive it belongs to.
 */
export function travelOver(roads: Roads, { fromMin, toMin }: { fromMin: number; toMin: number }): Travel {
  const net = netOf(roads)
  const n = net.ids.length
  const quarters: { fromMin: number; travelMin: number[][]; sailsMin: number[][] }[] = []
  for (let at = fromMin; at < toMin; at += STEP_MIN) {
    const travelMin = Array.from({ length: n }, () => new Array<number>(n).fill(0))
    const sailsMin = Array.from({ length: n }, () => new Array<number>(n).fill(-1))
    for (let from = 0; from < n; from++) {
      const [lasting, sailing] = [travelMin[from] as number[], sailsMin[from] as number[]]
      lasting.fill(-1)
      for (let minute = at; minute < at + STEP_MIN; minute++) lengthen(lasting, sailing, arrivalsFrom(net, from, minute), minute)
    }
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

/** A drive that leaves at `departMin`: its minutes, waiting for a ferry included; `NOT_TODAY_MIN` where it does not get there that day. */
export function driveMinutes(travel: Travel, from: string, to: string, departMin: number): number {
  const [a, b] = [travel.places.indexOf(from), travel.places.indexOf(to)]
  if (travel.land && a >= 0 && b >= 0) return minutesOverLand(travel.land, a, b)
  const matrix = travel.travelByHour.findLast(({ fromMin }) => fromMin <= departMin)?.travelMin ?? travel.travelMin
  return a === b ? 0 : (matrix[a]?.[b] ?? NOT_TODAY_MIN)
}

/** The shortest drive between two places by their rows, at whatever hour. */
export function leastMinutes(travel: Travel, from: number, to: number): number {
  if (travel.land) return minutesOverLand(travel.land, from, to)
  return Math.min(...[travel.travelMin, ...travel.travelByHour.map(({ travelMin }) => travelMin)].map((matrix) => matrix[from]?.[to] ?? 0))
}

/** The sailing a drive is for that leaves at `departMin`; null on dry land. */
export function sailingOf(travel: Travel, from: string, to: string, departMin: number): number | null {
  const [a, b] = [travel.places.indexOf(from), travel.places.indexOf(to)]
  const entry = travel.sails.findLast(({ fromMin }) => fromMin <= departMin) ?? travel.sails[0]
  const sails = entry?.sailsMin[a]?.[b] ?? -1
  return sails < 0 ? null : sails
}

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
