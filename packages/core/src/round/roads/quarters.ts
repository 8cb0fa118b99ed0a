import { type Arrivals, arrivalsFrom, type Net } from './roads'

/** A drive that does not get there that day. */
export const NOT_TODAY_MIN = 5000
/** Ways are told apart by the quarter of an hour in which somebody leaves. */
export const QUARTER_MIN = 15

/** Ways from one place to each, for whoever leaves in one quarter of an hour. */
export interface Quarter {
  minutes: number[]
  /** First sailing of the way, minutes after midnight; −1 on dry land. */
  sailsMin: number[]
}

/** Puts a later departure's drives in where they last longer than those so far, with their sailings. */
function lengthen({ minutes, sailsMin: sailing }: Quarter, { arriveMin, sailsMin }: Arrivals, leaveMin: number): void {
  for (let to = 0; to < minutes.length; to++) {
    const arrives = arriveMin[to] as number
    const lasts = arrives === Number.POSITIVE_INFINITY ? NOT_TODAY_MIN : arrives - leaveMin
    if (lasts <= (minutes[to] as number)) continue
    minutes[to] = lasts
    sailing[to] = sailsMin[to] as number
  }
}

/**
 * Ways from a place of a net for whoever leaves within the quarter of an hour that begins at `fromMin`: the longest drive of it stands, with
 * the sailing it is for.
 */
export function quarterFrom(net: Net, from: number, fromMin: number): Quarter {
  const n = net.ids.length
  const quarter: Quarter = { minutes: new Array<number>(n).fill(-1), sailsMin: new Array<number>(n).fill(-1) }
  for (let minute = fromMin; minute < fromMin + QUARTER_MIN; minute++) lengthen(quarter, arrivalsFrom(net, from, minute), minute)
  return quarter
}
