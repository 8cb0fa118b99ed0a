import { USUAL_LIMITS } from '../catalogue/limits'
import { at, type Exposure } from './exposure'
import { type Channel, type Observation, scatterOf, withoutWild } from './growth'
import { READING_SD, START } from './priors'
import type { Seen } from './seen'
import type { Cause, WearReading, WearStage } from './types'

/** Passage has no usual floor here: a membrane without one is judged by its own first passage. */
const { passage: _, ...LIMITS } = USUAL_LIMITS

export { LIMITS }

type Read = (reading: WearReading) => { y: number; sd: number } | null

/** Readings from the exposure's start on; those before (before a wash) say nothing of this loading. */
function observe(seen: readonly Seen[], exposure: Exposure, since: number, read: Read): Observation[] {
  const base = at(exposure, since)
  const observations: Observation[] = []
  for (const { reading, index, day } of seen) {
    const said = day < since ? null : read(reading)
    if (said !== null) observations.push({ tau: at(exposure, day) - base, day, index, y: said.y, sd: said.sd })
  }
  return observations
}

/** ln of a reading, and its scatter; a reading of nothing is a reading too, at the least that its instrument tells from nothing. */
const logged = (value: number | undefined, sd: number, least: number): { y: number; sd: number } | null => {
  if (value === undefined) return null
  return value < least ? { y: Math.log(least), sd: Math.max(sd, LEAST_SD) } : { y: Math.log(value), sd }
}
const LEAST_SD = 0.5
const LEAST = { dropKpa: 0.5, flowShare: 0.01, productMgL: 0.5, productLMin: 0.001, intensity: 0.001 } as const

const dropSd = (dropKpa: number): number => Math.hypot(READING_SD.dropShare, READING_SD.dropKpa / dropKpa)

const readDrop: Read = ({ inKpa, outKpa }) => {
  if (inKpa === undefined || outKpa === undefined) return null
  const drop = Math.max(inKpa - outKpa, LEAST.dropKpa)
  return { y: Math.log(drop), sd: dropSd(drop) }
}

const readFlow: Read = ({ flowLMin, cleanFlowLMin }) =>
  flowLMin === undefined || cleanFlowLMin === undefined || cleanFlowLMin <= 0
    ? null
    : logged(flowLMin / cleanFlowLMin, READING_SD.flow, LEAST.flowShare)

const readPassage: Read = ({ feedTdsMgL, productTdsMgL }) =>
  feedTdsMgL === undefined || productTdsMgL === undefined || feedTdsMgL <= 0
    ? null
    : logged(productTdsMgL / feedTdsMgL, READING_SD.passage, LEAST.productMgL / feedTdsMgL)

/** Permeate flow at 25 °C: membranes make about e^(3020·(1/298 − 1/T)) of it below and e^(2640·…) above. Source: makers' temperature tables. */
export function permeateAt25(litresPerMinute: number, waterC: number): number {
  const kelvin = waterC + 273.15
  const constant = waterC <= 25 ? 3020 : 2640
  return litresPerMinute * Math.exp(constant * (1 / kelvin - 1 / 298.15))
}

const readProduction: Read = ({ productLMin, waterC }) => {
  if (productLMin === undefined) return null
  return waterC === undefined
    ? logged(productLMin, READING_SD.productionNoTemperature, LEAST.productLMin)
    : logged(permeateAt25(productLMin, waterC), READING_SD.production, LEAST.productLMin)
}

const readChlorine: Read = ({ chlorineAfterMgL }) => {
  if (chlorineAfterMgL === undefined) return null
  const unseen = chlorineAfterMgL <= START.chlorineUnseenMgL
  return unseen
    ? { y: Math.log(START.chlorineUnseenMgL), sd: START.chlorineMgL.sd }
    : { y: Math.log(chlorineAfterMgL), sd: READING_SD.chlorine }
}

const readIntensity: Read = ({ intensityPercent }) =>
  intensityPercent === undefined ? null : logged(intensityPercent / 100, READING_SD.intensity, LEAST.intensity)

/** So many standard deviations past the limit a reading is past it whatever the scatter; nearer by, it is one more point of the line. */
const CLEARLY = 2.5
/** A lone reading this far past the one before (ln 3) is as likely a missed ten-times mark or a valve half open as the truth. */
const JUMP = Math.log(3)
/** So many readings within the limit before it have to contradict it. */
const CONTRADICTORS = 3

interface Sorted {
  /** Points of the line: within the limit, or too little past it to tell. */
  line: Observation[]
  /** Clearly past it. */
  over: Observation[]
  doubted: number[]
}

/**
 * Readings of one measure: those of the line, those clearly past the limit, and those that are doubted. A first one past the limit is
 * doubted where the next day's lies within it again, or where it jumps away from three or more that lie within; a second one past the
 * limit on another day never is, nor is the first then. What lies within the limit after one that is believed is not: wear does not go back.
 */
function sorted(observations: readonly Observation[], isOver: (one: Observation) => boolean): Sorted {
  const past = observations.filter(isOver)
  const first = past[0]
  if (first === undefined) return { line: [...observations], over: [], doubted: [] }
  const lone = past.every(({ day }) => day === first.day)
  const before = observations.filter((one) => one.day < first.day)
  const next = observations.find((one) => one.day > first.day)
  const last = before[before.length - 1]
  const jumped = last !== undefined && before.length >= CONTRADICTORS && past.every(({ y }) => Math.abs(y - last.y) > JUMP)
  const takenBack = next !== undefined && !isOver(next)
  if (!takenBack && !(lone && jumped)) return { ...believed(observations, first.day, isOver), doubted: [] }
  const rest = observations.filter((one) => one.day !== first.day || !isOver(one))
  const doubted = past.filter(({ day }) => day === first.day).map(({ index }) => index)
  const second = past.find(({ day }) => day > first.day)
  return second === undefined ? { line: rest, over: [], doubted } : { ...believed(rest, second.day, isOver), doubted }
}

const believed = (observations: readonly Observation[], since: number, isOver: (one: Observation) => boolean): Omit<Sorted, 'doubted'> => ({
  line: observations.filter((one) => !isOver(one) && one.day <= since),
  over: observations.filter(isOver),
})

type Shape = Pick<Channel, 'kappa' | 'rho' | 'start' | 'prior'> & {
  /** ln of the limit, and how well it is known. */
  limit: number
  limitSd: number
  /** Scatter of a reading at the limit, where a larger one scatters less: one further past it must say no less for that. */
  sdAtLimit: number
  rising: boolean
  gap: number
}

/** Drop in kPa: the limit stands a fixed number over clean, so how many doublings away it is depends on what clean is. */
function dropShape(first: Observation, overCleanKpa: number, medianTau: number): Shape {
  const { mean, sd } = START.dropKpa
  // Clean is believed from the earliest reading (the less, the later in the life it was taken, and not at all where that is past what is
  // usually the limit) and the prior; the limit is linear in its logarithm near there.
  const usualLimit = Math.log(Math.exp(mean) + overCleanKpa)
  const usualGrowth = usualLimit - mean
  const grown = (usualGrowth * first.tau) / medianTau
  const precision = 1 / sd ** 2
  const closeness = first.y > usualLimit ? 0 : 1 / (first.sd ** 2 + 0.1 ** 2 + grown ** 2)
  const cleanKpa = Math.exp((mean * precision + first.y * closeness) / (precision + closeness))
  const logClean = Math.log(cleanKpa)
  const limit = Math.log(cleanKpa + overCleanKpa)
  const kappa = -overCleanKpa / (cleanKpa + overCleanKpa)
  const rho = limit - logClean - kappa * logClean
  const sdAtLimit = dropSd(Math.exp(limit))
  return { kappa, rho, start: 0, prior: START.dropKpa, limit, limitSd: 0, sdAtLimit, rising: true, gap: limit - logClean }
}

const ratioShape = (first: Observation, ratio: number): Shape => {
  const rho = Math.log(ratio)
  return {
    kappa: 0,
    rho,
    start: first.tau,
    prior: null,
    limit: first.y + rho,
    limitSd: first.sd,
    sdAtLimit: 0,
    rising: ratio > 1,
    gap: Math.abs(rho),
  }
}

/** A limit hardly past the usual start leaves that little to grow through. */
const LEAST_GAP = 0.2
const valueShape = (limit: number, prior: { mean: number; sd: number }, rising: boolean): Shape => ({
  kappa: -1,
  rho: Math.log(limit),
  start: 0,
  prior,
  limit: Math.log(limit),
  limitSd: 0,
  sdAtLimit: 0,
  rising,
  gap: Math.max(LEAST_GAP, Math.abs(Math.log(limit) - prior.mean)),
})

interface Asked {
  seen: readonly Seen[]
  stage: WearStage
  exposure: Exposure
  /** Days after fitting from which readings speak. */
  since: number
  /** Median of the crossing before any reading, in the exposure's units. */
  median: number
}

/** Every series of readings that speaks of this growth cause. Empty when none does. */
export function channelsOf(cause: Cause, { seen, stage, exposure, since, median }: Asked): Channel[] {
  const limits = { ...LIMITS, ...stage.limits }
  const channels: Channel[] = []
  const add = (read: Read, shapeOf: (first: Observation) => Shape): void => {
    const observations = observe(seen, exposure, since, read)
    const [first] = observations
    if (first === undefined) return
    const { limit, rising, gap, limitSd, sdAtLimit, kappa, rho, start, prior } = shapeOf(first)
    const excess = ({ y }: Observation): number => (rising ? y - limit : limit - y)
    const good = observations.filter((one) => excess(one) <= 0)
    const scatter = good.length === observations.length ? 1 : scatterOf(good, start)
    const scattered = (sd: number): number => Math.hypot(sd * scatter, limitSd)
    const sdOf = ({ sd }: Observation): number => scattered(sd)
    // The last reading is judged by itself, be it ever so little past its limit: nothing after it can tell that it was chance.
    const lastDay = observations[observations.length - 1]?.day
    const isOver = (one: Observation): boolean => excess(one) > (one.day === lastDay ? 0 : CLEARLY * sdOf(one))
    const { line, over, doubted } = sorted(observations, isOver)
    const kept = withoutWild(line, start)
    const wild = kept === line ? [] : line.filter((one) => !kept.includes(one))
    const last = kept.findLast((one) => excess(one) <= -sdOf(one))
    const from = last === undefined ? { tau: start, gap } : { tau: last.tau, gap: -excess(last) }
    const slips = [...doubted, ...wild.map(({ index }) => index)]
    const lastTrusted = observations.findLast(({ index }) => !slips.includes(index))
    channels.push({
      kappa,
      rho,
      start,
      prior,
      line: kept,
      over: over.map((one, nr) => ({
        tau: one.tau,
        sd: scattered(Math.max(one.sd, sdAtLimit)),
        excess: excess(one),
        from: nr === 0 ? from : null,
      })),
      gap,
      doubted: slips,
      lastOver: lastTrusted !== undefined && excess(lastTrusted) > 0 ? lastTrusted.day : null,
    })
  }
  if (cause === 'pressure') {
    add(readDrop, (first) => dropShape(first, limits.overCleanKpa, median))
    add(readFlow, () => valueShape(limits.flowShare, { mean: 0, sd: 0.05 }, false))
  }
  if (cause === 'passage') {
    const { passage } = limits
    add(readPassage, (first) => (passage === undefined ? ratioShape(first, limits.passageRatio) : valueShape(passage, START.passage, true)))
  }
  if (cause === 'production') add(readProduction, (first) => ratioShape(first, limits.permeateShare))
  if (cause === 'breakthrough') add(readChlorine, () => valueShape(limits.chlorineMgL, START.chlorineMgL, true))
  if (cause === 'intensity') add(readIntensity, () => valueShape(limits.intensityPercent / 100, START.intensity, false))
  return channels
}
