import { toEpochDay } from '../units'
import { landOn } from './roads/by-day'
import { type LandWays, minutesOverLand } from './roads/over-land'
import { turnsOf, waterOf } from './roads/ways'
import type { RoundInput, RoundWeights } from './types'

/** Travel minutes between two places by their index. */
export type Leg = (from: number, to: number) => number
/** The roads from a minute of the day on. */
export interface Step {
  fromMin: number
  leg: Leg
  /** The same minutes row by row, where they were given as a table. */
  table?: Float64Array
}

interface Technician {
  id: string
  base: number
  fromMin: number
  toMin: number
  overtimeMin: number
  skills: ReadonlySet<string>
  off: Uint8Array
  vanKg: number
  /** Days that count for the level. */
  days: number
  /** Null where the level is the mean of the plan itself. */
  level: number | null
}

/** The input read once into flat arrays; visits, places, technicians and days are numbers from here on. A route is technician × days + day. */
export interface Problem {
  input: RoundInput
  nVisits: number
  nDays: number
  nPlaces: number
  technicians: Technician[]
  /** The roads over a day, one list for all days whose roads are alike. */
  roads: Step[][]
  /** Which of them each day has. */
  roadsOn: Int32Array
  weights: RoundWeights
  place: Int32Array
  serviceMin: Float64Array
  dueDay: Int32Array
  firstDay: Int32Array
  lastDay: Int32Array
  latePerDay: Float64Array
  earlyPerDay: Float64Array
  loadKg: Float64Array
  pinned: Int32Array
  promised: Int32Array
  open: (Float64Array | null)[]
  closed: (ReadonlySet<number> | null)[]
  pred: Int32Array
  minGapMin: Float64Array
  maxGapMin: Float64Array
  succ: number[][]
  /** Visits that hang together by links; −1 where a visit has none. */
  chain: Int32Array
  chains: number[][]
  /** Midnight of each day, minutes since 1970. */
  midnight: Float64Array
  /** Technicians with the skills of each visit. */
  able: number[][]
}

/** Rows one after another; from a place to itself there is nothing to drive, whatever the matrix says. */
function flat(rows: readonly (readonly number[])[]): Float64Array {
  const n = rows.length
  const all = new Float64Array(n * n)
  for (const [at, row] of rows.entries()) {
    all.set(row, at * n)
    all[at * n + at] = 0
  }
  return all
}

/** Chains of linked visits, by following links both ways. */
function chainsOf(pred: Int32Array): { chain: Int32Array; chains: number[][] } {
  const n = pred.length
  const root = Int32Array.from({ length: n }, (_, v) => v)
  const find = (v: number): number => {
    let at = v
    while (root[at] !== at) at = root[at] as number
    return at
  }
  for (let v = 0; v < n; v++) if ((pred[v] as number) >= 0) root[find(v)] = find(pred[v] as number)
  const members = new Map<number, number[]>()
  for (let v = 0; v < n; v++) members.set(find(v), [...(members.get(find(v)) ?? []), v])
  const chain = new Int32Array(n).fill(-1)
  const chains = [...members.values()].filter(({ length }) => length > 1)
  chains.forEach((all, index) => {
    for (const v of all) chain[v] = index
  })
  return { chain, chains }
}

/** Reads an input into numbers. Ids that nothing has are taken as not there (checked before, at the door); ids are unique. */
export function problemOf(input: RoundInput): Problem {
  const { visits, days, places, technicians } = input
  const placeOf = new Map(places.map(({ id }, index) => [id, index]))
  const visitOf = new Map(visits.map(({ id }, index) => [id, index]))
  const nDays = days.length
  const numbers = (of: (visit: RoundInput['visits'][number]) => number): Float64Array => Float64Array.from(visits, of)
  const wholes = (of: (visit: RoundInput['visits'][number]) => number): Int32Array => Int32Array.from(visits, of)
  const pred = wholes(({ after }) => (after ? (visitOf.get(after.visit) ?? -1) : -1))
  const succ = visits.map((): number[] => [])
  pred.forEach((before, v) => {
    if (before >= 0) succ[before]?.push(v)
  })
  const team = technicians.map(({ id, base, fromMin, toMin, overtimeMin, skills, daysOff, vanKg, levelMin }): Technician => {
    const off = new Uint8Array(nDays)
    for (const day of daysOff) if (day >= 0 && day < nDays) off[day] = 1
    return {
      id,
      base: placeOf.get(base) ?? 0,
      fromMin,
      toMin,
      overtimeMin,
      skills: new Set(skills),
      off,
      vanKg: vanKg ?? Number.POSITIVE_INFINITY,
      days: nDays - off.reduce((sum, one) => sum + one, 0),
      level: levelMin !== undefined && levelMin > 0 ? levelMin : null,
    }
  })
  return {
    input,
    nVisits: visits.length,
    nDays,
    nPlaces: places.length,
    technicians: team,
    ...roadsOf(input),
    weights: input.weights,
    place: wholes(({ place }) => placeOf.get(place) ?? 0),
    serviceMin: numbers(({ serviceMin }) => serviceMin),
    dueDay: wholes(({ dueDay }) => dueDay),
    firstDay: wholes(({ windowDays }) => windowDays[0]),
    lastDay: wholes(({ windowDays }) => windowDays[1]),
    latePerDay: numbers(({ latePerDay }) => latePerDay),
    earlyPerDay: numbers(({ earlyPerDay }) => earlyPerDay),
    loadKg: numbers(({ loadKg }) => loadKg ?? 0),
    pinned: wholes(({ pinnedDay }) => pinnedDay ?? -1),
    promised: wholes(({ promisedDay }) => promisedDay ?? -1),
    open: visits.map(({ open }) => (open ? Float64Array.from([...open].sort((a, b) => a[0] - b[0]).flat()) : null)),
    closed: visits.map(({ closedDays }) => (closedDays && closedDays.length > 0 ? new Set(closedDays) : null)),
    pred,
    minGapMin: numbers(({ after }) => (after?.minGapH ?? 0) * 60),
    maxGapMin: numbers(({ after }) => (after?.maxGapH ?? 0) * 60),
    succ,
    ...chainsOf(pred),
    midnight: Float64Array.from(days, (day) => toEpochDay(day) * 1440),
    able: visits.map(({ skills }) => team.flatMap(({ skills: own }, t) => ((skills ?? []).every((skill) => own.has(skill)) ? [t] : []))),
  }
}

/** So many places fit a table of their ways in a few megabytes; of more each way is worked out when it is asked for. */
const MOST_IN_A_TABLE = 600

/** Minutes over land from a time of the day on. */
function landLeg(land: LandWays, n: number, leaves: number): Leg {
  if (n > MOST_IN_A_TABLE) return (from, to) => minutesOverLand(land, from, to, leaves)
  const table = Float64Array.from({ length: n * n }, (_, at) => minutesOverLand(land, Math.floor(at / n), at % n, leaves))
  return (from, to) => table[from * n + to] as number
}

/** Ways over land change where drives that were made say so, those over water by the quarter of an hour. */
function estimatedSteps(land: LandWays, overLand: (leaves: number) => Leg): Step[] {
  const water = waterOf(land)
  const from = (fromMin: number, leaves: number): Step => {
    const leg = overLand(leaves)
    if (water === null) return { fromMin, leg }
    return { fromMin, leg: (one, other) => (water.onOneArea(one, other) ? leg(one, other) : water.way(one, other, leaves).minutes) }
  }
  return [from(Number.NEGATIVE_INFINITY, 0), ...turnsOf(land).map((at) => from(at, at))]
}

/** The roads of each day: estimated ones may be others by season and tide, those of tables are the same every day. */
function roadsOf(input: RoundInput): Pick<Problem, 'roads' | 'roadsOn'> {
  const { days, land, places } = input
  if (!land) return { roads: [tableSteps(input)], roadsOn: new Int32Array(days.length) }
  const legs = new Map<number, Leg>()
  // Ways over land are the same on every day: one table for each time of leaving.
  const overLand = (leaves: number): Leg => {
    const at = land.pace ? (land.pace.fromMin.findLast((from) => from <= leaves) ?? 0) : 0
    const leg = legs.get(at) ?? landLeg(land, places.length, at)
    legs.set(at, leg)
    return leg
  }
  const kinds = new Map<LandWays, number>()
  const roads: Step[][] = []
  const kindOf = (of: LandWays): number => {
    const known = kinds.get(of)
    if (known !== undefined) return known
    kinds.set(of, roads.length)
    return roads.push(estimatedSteps(of, overLand)) - 1
  }
  const roadsOn = Int32Array.from(days, (day) => kindOf(landOn(land, day)))
  if (roads.length === 0) kindOf(land)
  return { roads, roadsOn }
}

function tableSteps({ places, travelMin, travelByHour = [] }: RoundInput): Step[] {
  return [
    stepOf(Number.NEGATIVE_INFINITY, flat(travelMin), places.length),
    ...[...travelByHour]
      .sort((a, b) => a.fromMin - b.fromMin)
      .map(({ fromMin, travelMin: then }) => stepOf(fromMin, flat(then), places.length)),
  ]
}

const stepOf = (fromMin: number, minutes: Float64Array, n: number): Step => ({
  fromMin,
  leg: (from, to) => minutes[from * n + to] as number,
  table: minutes,
})

/** The roads of a day over its hours. */
export const stepsOn = (p: Problem, day: number): Step[] => p.roads[p.roadsOn[day] ?? 0] as Step[]
/** Whether the roads of a day are the same at every hour. */
export const isPlain = (p: Problem, day: number): boolean => stepsOn(p, day).length === 1

/** Travel minutes of a leg on the plain road of a day: that before the first change of it. */
export const plainLeg = (p: Problem, day = 0): Leg => (stepsOn(p, day)[0] as Step).leg

/** Whether a visit may stand on a day at all. */
export function canStand(p: Problem, v: number, day: number): boolean {
  if (day < (p.firstDay[v] as number) || day > (p.lastDay[v] as number)) return false
  const pinned = p.pinned[v] as number
  if (pinned >= 0 && pinned !== day) return false
  return p.closed[v]?.has(day) !== true
}

/** What a visit costs for the day it stands on: late, early, away from its promise. */
export function dayCost(p: Problem, v: number, day: number): number {
  const behind = day - (p.dueDay[v] as number)
  const promised = p.promised[v] as number
  const change = promised >= 0 && promised !== day ? p.weights.change : 0
  return (behind > 0 ? behind * (p.latePerDay[v] as number) : -behind * (p.earlyPerDay[v] as number)) + change
}
