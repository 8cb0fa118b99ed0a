import { USUAL_LIMITS } from '../catalogue/limits'
import { toEpochDay } from '../units'
import { at, type Exposure } from './exposure'
import type { Channel, Observation } from './growth'
import { READING_SD, START } from './priors'
import type { Cause, WearInput, WearReading } from './types'

/** Passage has no usual floor here: a membrane without one is judged by its own first passage. */
const { passage: _, ...LIMITS } = USUAL_LIMITS

export { LIMITS }

type Read = (reading: WearReading) => { y: number; sd: number } | null

/** Readings from the exposure's start on; those before (an earlier part's, or before a wash) say nothing of this one. */
function observe(input: WearInput, exposure: Exposure, since: number, read: Read): Observation[] {
  const fitted = toEpochDay(input.stage.fittedOn)
  const base = at(exposure, since)
  const observations: Observation[] = []
  for (const reading of input.readings) {
    const seen = read(reading)
    if (seen === null) continue
    const day = toEpochDay(reading.on) - fitted
    if (day >= since) observations.push({ tau: at(exposure, day) - base, y: seen.y, sd: seen.sd })
  }
  return observations
}

const firstTau = (observations: readonly Observation[]): number =>
  observations.reduce((first, { tau }) => Math.min(first, tau), Number.POSITIVE_INFINITY)

const logged = (value: number | undefined, sd: number): { y: number; sd: number } | null =>
  value === undefined || value <= 0 ? null : { y: Math.log(value), sd }

const readDrop: Read = ({ inKpa, outKpa }) => {
  if (inKpa === undefined || outKpa === undefined || inKpa <= outKpa) return null
  const drop = inKpa - outKpa
  return { y: Math.log(drop), sd: Math.hypot(READING_SD.dropShare, READING_SD.dropKpa / drop) }
}

const readFlow: Read = ({ flowLMin, cleanFlowLMin }) =>
  flowLMin === undefined || cleanFlowLMin === undefined || cleanFlowLMin <= 0 ? null : logged(flowLMin / cleanFlowLMin, READING_SD.flow)

const readPassage: Read = ({ feedTdsMgL, productTdsMgL }) =>
  feedTdsMgL === undefined || productTdsMgL === undefined || feedTdsMgL <= 0 ? null : logged(productTdsMgL / feedTdsMgL, READING_SD.passage)

/** Permeate flow at 25 °C: membranes make about e^(3020·(1/298 − 1/T)) of it below and e^(2640·…) above. Source: makers' temperature tables. */
export function permeateAt25(litresPerMinute: number, waterC: number): number {
  const kelvin = waterC + 273.15
  const constant = waterC <= 25 ? 3020 : 2640
  return litresPerMinute * Math.exp(constant * (1 / kelvin - 1 / 298.15))
}

const readProduction: Read = ({ productLMin, waterC }) => {
  if (productLMin === undefined || productLMin <= 0) return null
  return waterC === undefined
    ? logged(productLMin, READING_SD.productionNoTemperature)
    : logged(permeateAt25(productLMin, waterC), READING_SD.production)
}

const readChlorine: Read = ({ chlorineAfterMgL }) => {
  if (chlorineAfterMgL === undefined) return null
  const unseen = chlorineAfterMgL <= START.chlorineUnseenMgL
  return unseen ? logged(START.chlorineUnseenMgL, START.chlorineMgL.sd) : logged(chlorineAfterMgL, READING_SD.chlorine)
}

const readIntensity: Read = ({ intensityPercent }) =>
  intensityPercent === undefined ? null : logged(intensityPercent / 100, READING_SD.intensity)

/** Drop in kPa: the limit stands a fixed number over clean, so how many doublings away it is depends on what clean is. */
function dropChannel(observations: readonly Observation[], overCleanKpa: number): Channel {
  const { mean, sd } = START.dropKpa
  // Clean is believed from the earliest reading and the prior; the limit is linear in its logarithm near there.
  let precision = 1 / sd ** 2
  let weighted = mean * precision
  const first = observations.reduce((early, one) => (one.tau < early.tau ? one : early))
  const closeness = 1 / (first.sd ** 2 + 0.1 ** 2)
  precision += closeness
  weighted += closeness * first.y
  const cleanKpa = Math.exp(weighted / precision)
  const logClean = Math.log(cleanKpa)
  const kappa = -overCleanKpa / (cleanKpa + overCleanKpa)
  const rho = Math.log((cleanKpa + overCleanKpa) / cleanKpa) - kappa * logClean
  return { observations, kappa, rho, start: 0, prior: START.dropKpa }
}

const ratioChannel = (observations: readonly Observation[], ratio: number): Channel => ({
  observations,
  kappa: 0,
  rho: Math.log(ratio),
  start: firstTau(observations),
  prior: null,
})

const valueChannel = (observations: readonly Observation[], limit: number, prior: { mean: number; sd: number }): Channel => ({
  observations,
  kappa: -1,
  rho: Math.log(limit),
  start: 0,
  prior,
})

/** Every series of readings that speaks of this growth cause, on its exposure from `since` days after fitting on. Empty when none does. */
export function channelsOf(cause: Cause, input: WearInput, exposure: Exposure, since: number): Channel[] {
  const limits = { ...LIMITS, ...input.stage.limits }
  const channels: Channel[] = []
  const add = (read: Read, build: (observations: Observation[]) => Channel): void => {
    const observations = observe(input, exposure, since, read)
    if (observations.length > 0) channels.push(build(observations))
  }
  if (cause === 'pressure') {
    add(readDrop, (seen) => dropChannel(seen, limits.overCleanKpa))
    add(readFlow, (seen) => valueChannel(seen, limits.flowShare, { mean: 0, sd: 0.05 }))
  }
  if (cause === 'passage') {
    const { passage } = limits
    add(readPassage, (seen) =>
      passage === undefined ? ratioChannel(seen, limits.passageRatio) : valueChannel(seen, passage, START.passage),
    )
  }
  if (cause === 'production') add(readProduction, (seen) => ratioChannel(seen, limits.permeateShare))
  if (cause === 'breakthrough') add(readChlorine, (seen) => valueChannel(seen, limits.chlorineMgL, START.chlorineMgL))
  if (cause === 'intensity') add(readIntensity, (seen) => valueChannel(seen, limits.intensityPercent / 100, START.intensity))
  return channels
}
