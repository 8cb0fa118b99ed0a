/** What is left of somebody's day on the road. */
export interface TodayStop {
  id: string
  place: string
  workMin: number
  /** Hours that were promised to the customer, minutes after midnight. */
  promise: readonly [fromMin: number, toMin: number] | null
}
export interface TodayLine {
  /** Where they are, and when they are free to leave. */
  from: string
  freeMin: number
  base: string
  /** The end of the working day. */
  toMin: number
  /** Not begun yet, in their order. */
  stops: readonly TodayStop[]
}

export interface Leg {
  id: string
  leaveMin: number
  travelMin: number
  arriveMin: number
}
export interface TodaySpot {
  /** Place among the stops that are left: 0 is next. */
  at: number
  legs: Leg[]
  arriveMin: number
  homeMin: number
  extraDriveMin: number
  overtimeMin: number
  /** Customers who were promised an hour that would be missed by it, and by how much. */
  late: { id: string; byMin: number }[]
  /** What it costs, minutes: driving, overtime twice, a missed promise five times. */
  costMin: number
}

export type Drive = (from: string, to: string, leaveMin: number) => number

const OVERTIME = 2
const PROMISE = 5

interface Run {
  legs: Leg[]
  homeMin: number
  driveMin: number
  late: { id: string; byMin: number }[]
}

function run({ from, freeMin, base }: TodayLine, stops: readonly TodayStop[], drive: Drive): Run {
  const legs: Leg[] = []
  const late: Run['late'] = []
  let [place, at, driveMin] = [from, freeMin, 0]
  for (const { id, place: to, workMin, promise } of stops) {
    const travelMin = drive(place, to, at)
    const arriveMin = Math.max(at + travelMin, promise?.[0] ?? 0)
    legs.push({ id, leaveMin: arriveMin - travelMin, travelMin, arriveMin })
    if (promise && arriveMin > promise[1]) late.push({ id, byMin: arriveMin - promise[1] })
    driveMin += travelMin
    place = to
    at = arriveMin + workMin
  }
  const home = drive(place, base, at)
  return { legs, homeMin: at + home, driveMin: driveMin + home, late }
}

/**
 * Every place a stop that comes up today could have among what is left of one person's day, the cheapest first, with the whole day as it
 * would then be. Minutes after midnight; `drive` gives minutes by the hour of leaving. Nobody is sent back in time: what is begun stays.
 */
export function spotsToday(line: TodayLine, fresh: TodayStop, drive: Drive): TodaySpot[] {
  const before = run(line, line.stops, drive)
  const over = (homeMin: number): number => Math.max(0, homeMin - line.toMin)
  return Array.from({ length: line.stops.length + 1 }, (_, at): TodaySpot => {
    const after = run(line, line.stops.toSpliced(at, 0, fresh), drive)
    const late = after.late.flatMap(({ id, byMin }) => {
      const already = before.late.find((one) => one.id === id)?.byMin ?? 0
      return byMin > already ? [{ id, byMin: byMin - already }] : []
    })
    const extraDriveMin = after.driveMin - before.driveMin
    const overtimeMin = over(after.homeMin) - over(before.homeMin)
    return {
      at,
      legs: after.legs,
      arriveMin: (after.legs[at] as Leg).arriveMin,
      homeMin: after.homeMin,
      extraDriveMin,
      overtimeMin,
      late,
      costMin: extraDriveMin + OVERTIME * overtimeMin + PROMISE * late.reduce((sum, { byMin }) => sum + byMin, 0),
    }
  }).sort((a, b) => a.costMin - b.costMin || a.at - b.at)
}
