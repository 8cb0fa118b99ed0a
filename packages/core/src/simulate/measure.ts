import type { SimPart, SimStage } from './part'
import { shareUsed } from './part'
import type { Rng } from './rng'
import { coldWaterC, type SimSite } from './water'

/** What a visit reads of one part; fields as the trade writes them down. */
export interface SimReading {
  day: number
  counterL?: number
  feedTdsMgL?: number
  productTdsMgL?: number
  inKpa?: number
  outKpa?: number
  flowLMin?: number
  cleanFlowLMin?: number
  chlorineAfterMgL?: number
  lampHours?: number
  intensityPercent?: number
  productLMin?: number
  waterC?: number
}

const WILD = 0.02
const OVER_CLEAN_KPA = 70

const noisy = (rng: Rng, value: number, sd: number): number => value * Math.exp(sd * rng.normal())
/** A missed ten-times mark, one way or the other. */
const tenfold = (rng: Rng, value: number): number => (rng.chance(0.5) ? value * 10 : value / 10)

/** Drop across a sediment element: clean, and growing about exponentially to clean + 70 kPa at its end. */
export function trueDropKpa(part: SimPart): number {
  return part.cleanKpa * ((part.cleanKpa + OVER_CLEAN_KPA) / part.cleanKpa) ** shareUsed(part, 'pressure')
}
export const truePassage = (part: SimPart): number => part.startPassage * 2 ** shareUsed(part, 'passage')
export const trueIntensityPercent = (part: SimPart): number => 100 * 0.7 ** shareUsed(part, 'intensity')
export const trueChlorineAfter = (part: SimPart): number =>
  part.startChlorineMgL * (0.1 / part.startChlorineMgL) ** shareUsed(part, 'breakthrough')
/** Litres a minute of permeate at that water temperature: 3 % less for each degree under 25. */
export const trueProductLMin = (part: SimPart, waterC: number): number =>
  part.startProductLMin * 0.7 ** shareUsed(part, 'production') * Math.exp(-0.031 * (25 - waterC))

/** One visit's readings of a part, with the noise of real instruments and now and then a slip. */
export function readPart(rng: Rng, site: SimSite, stage: SimStage, part: SimPart, day: number, counter: boolean): SimReading {
  const reading: SimReading = { day }
  if (counter && part.litres > 0) reading.counterL = noisy(rng, part.litres, 0.005)
  if (part.lives.pressure !== undefined) {
    let drop = trueDropKpa(part)
    if (rng.chance(WILD)) drop *= rng.between(4, 5)
    drop = Math.max(0.3, noisy(rng, drop, 0.06) + 0.7 * rng.normal())
    reading.inKpa = 320 + 25 * rng.normal()
    reading.outKpa = reading.inKpa - drop
  }
  if (part.lives.passage !== undefined) {
    reading.feedTdsMgL = noisy(rng, site.feedTdsMgL, 0.04)
    const product = noisy(rng, reading.feedTdsMgL * truePassage(part), 0.055)
    reading.productTdsMgL = rng.chance(WILD) ? tenfold(rng, product) : product
  }
  if (part.lives.production !== undefined) {
    reading.waterC = coldWaterC(day) + 0.5 * rng.normal()
    reading.productLMin = noisy(rng, trueProductLMin(part, reading.waterC), 0.05)
  }
  if (part.lives.resin !== undefined) reading.feedTdsMgL = noisy(rng, site.feedTdsMgL, 0.04)
  if (part.lives.breakthrough !== undefined && rng.chance(0.7)) {
    const chlorine = noisy(rng, trueChlorineAfter(part), 0.2)
    reading.chlorineAfterMgL = chlorine < 0.02 ? 0 : Math.round(chlorine * 100) / 100
  }
  if (stage.rated.hours !== undefined && rng.chance(0.5)) reading.lampHours = Math.round(part.hours)
  if (part.lives.intensity !== undefined && rng.chance(0.8)) reading.intensityPercent = noisy(rng, trueIntensityPercent(part), 0.03)
  return reading
}

export type SimGrade = 'as-new' | 'light' | 'as-expected' | 'heavy' | 'spent'

/** What a technician sees of the share of life used: with about 10 % error, in five grades. */
export function gradeOf(rng: Rng, share: number): SimGrade {
  const seen = share * Math.exp(0.1 * rng.normal())
  if (seen < 0.35) return 'as-new'
  if (seen < 0.75) return 'light'
  if (seen < 1.1) return 'as-expected'
  return seen < 1.5 ? 'heavy' : 'spent'
}
