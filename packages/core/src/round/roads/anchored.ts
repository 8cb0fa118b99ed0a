import { NOT_TODAY_MIN } from './quarters'
import type { Travel } from './travel'

/** A point that hangs on a net by one of its places: the place itself, or so many minutes from it by land. */
export interface Anchored {
  id: string
  /** A place of the net. */
  anchor: string
  minutes: number
}

const STEP_MIN = 15
const steps = (from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, Math.floor((to - from) / STEP_MIN) + 1) }, (_, index) => from + index * STEP_MIN)

/**
 * Travel between points that hang on a net (ferries, causeways, bridges with their timetables). Over land where `direct` gives minutes for
 * a pair; else to the one's anchor, over the net at the minute it is reached, and on from the other's. Minutes; within a quarter of an hour
 * of leaving as the net has it.
 *
 * @throws RangeError where a point hangs on a place that the net does not have
 */
export function travelAnchored(net: Travel, points: readonly Anchored[], direct: (from: number, to: number) => number | null): Travel {
  const rows = points.map(({ anchor }) => {
    const row = net.places.indexOf(anchor)
    if (row < 0) throw new RangeError(`expected a place of the net, got ${anchor}`)
    return row
  })
  const quarters = [{ fromMin: 0, travelMin: net.travelMin }, ...net.travelByHour]
  const turns = [...quarters, ...net.sails].map(({ fromMin }) => fromMin)
  const [firstTurn, lastTurn] = [Math.min(...turns.filter((at) => at > 0)), Math.max(...turns)]
  const longest = Math.max(0, ...points.map(({ minutes }) => minutes))
  // An anchor is reached later than its point is left: the net's quarters come that much sooner at the point.
  const begins = Number.isFinite(firstTurn)
    ? [0, ...steps(Math.max(STEP_MIN, Math.floor((firstTurn - longest) / STEP_MIN) * STEP_MIN - STEP_MIN), lastTurn)]
    : [0]
  const drive = (at: number, from: number, to: number): number =>
    quarters.findLast(({ fromMin }) => fromMin <= at)?.travelMin[from]?.[to] ?? NOT_TODAY_MIN
  const sailing = (at: number, from: number, to: number): number =>
    (net.sails.findLast(({ fromMin }) => fromMin <= at) ?? net.sails[0])?.sailsMin[from]?.[to] ?? -1
  const overLand = points.map((_, from) => points.map((_other, to) => (from === to ? 0 : direct(from, to))))
  const at = (minute: number) => {
    const travelMin: number[][] = []
    const sailsMin: number[][] = []
    points.forEach((from, i) => {
      const [minutes, sails]: [number[], number[]] = [[], []]
      points.forEach((to, j) => {
        const land = overLand[i]?.[j] ?? null
        const [a, b] = [rows[i] as number, rows[j] as number]
        // Whoever leaves at the end of the quarter is there at the end of it: the longer of the two stands.
        const reached = [minute, minute + STEP_MIN - 1].map((leaves) => leaves + from.minutes)
        const over = land === null ? Math.max(...reached.map((there) => drive(there, a, b))) : 0
        const caught = reached.find((there) => drive(there, a, b) === over) ?? minute
        minutes.push(Math.round(land ?? (over >= NOT_TODAY_MIN ? NOT_TODAY_MIN : from.minutes + over + to.minutes)))
        sails.push(land === null ? sailing(caught, a, b) : -1)
      })
      travelMin.push(minutes)
      sailsMin.push(sails)
    })
    return { fromMin: minute, travelMin, sailsMin }
  }
  // Before the first quarter of the net the ways are as they are at its beginning.
  const all = begins.map(at)
  const changed = all.filter(
    (one, index) =>
      index === 0 ||
      JSON.stringify([one.travelMin, one.sailsMin]) !== JSON.stringify([all[index - 1]?.travelMin, all[index - 1]?.sailsMin]),
  )
  const [first, ...later] = changed
  return {
    places: points.map(({ id }) => id),
    travelMin: first?.travelMin ?? [],
    travelByHour: later.map(({ fromMin, travelMin }) => ({ fromMin, travelMin })),
    sails: changed.some(({ sailsMin }) => sailsMin.some((row) => row.some((sails) => sails >= 0)))
      ? changed.map(({ fromMin, sailsMin }) => ({ fromMin, sailsMin }))
      : [],
  }
}
