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
  const quarterAt = (minute: number): number[][] => quarters.findLast(({ fromMin }) => fromMin <= minute)?.travelMin ?? []
  const sailsAt = (minute: number): number[][] => (net.sails.findLast(({ fromMin }) => fromMin <= minute) ?? net.sails[0])?.sailsMin ?? []
  const overLand = points.map((_, from) => points.map((_other, to) => (from === to ? 0 : direct(from, to))))
  const at = (minute: number) => {
    const travelMin: number[][] = []
    const sailsMin: number[][] = []
    points.forEach((from, i) => {
      const a = rows[i] as number
      // Whoever leaves at the end of the quarter is there at the end of it: the longer of the two stands.
      const [soon, late] = [minute + from.minutes, minute + from.minutes + STEP_MIN - 1]
      const [soonDrive = [], lateDrive = [], soonSail, lateSail] = [
        quarterAt(soon)[a],
        quarterAt(late)[a],
        sailsAt(soon)[a],
        sailsAt(late)[a],
      ]
      const [minutes, sails]: [number[], number[]] = [[], []]
      points.forEach((to, j) => {
        const land = overLand[i]?.[j] ?? null
        if (land !== null) {
          minutes.push(Math.round(land))
          sails.push(-1)
          return
        }
        const b = rows[j] as number
        const [one, other] = [soonDrive[b] ?? NOT_TODAY_MIN, lateDrive[b] ?? NOT_TODAY_MIN]
        const over = Math.max(one, other)
        minutes.push(Math.round(over >= NOT_TODAY_MIN ? NOT_TODAY_MIN : from.minutes + over + to.minutes))
        sails.push((one === over ? soonSail : lateSail)?.[b] ?? -1)
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
