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

/** What stands between `start` and `limit` once this share of the life is used: by factors, or by sums in a world that is not the model's. */
function grown(stage: SimStage, start: number, limit: number, share: number): number {
  const { power = 1, additive = false } = stage.world ?? {}
  if (additive) return Math.max(start / 100, start + (limit - start) * share ** 1.2)
  return start * (limit / start) ** (share ** power)
}

/** Drop across a sediment element: clean, and growing about exponentially to clean + 70 kPa at its end; burst, it lets all pass. */
export function trueDropKpa(stage: SimStage, part: SimPart): number {
  if (part.broken) return 0.7 * part.cleanKpa
  return grown(stage, part.cleanKpa, part.cleanKpa + OVER_CLEAN_KPA, shareUsed(part, 'pressure'))
}
/** Torn, a membrane lets half of the feed pass. */
export const truePassage = (stage: SimStage, part: SimPart): number =>
  part.broken ? 0.5 : Math.min(0.95, grown(stage, part.startPassage, 2 * part.startPassage, shareUsed(part, 'passage')))
export const trueIntensityPercent = (stage: SimStage, part: SimPart): number =>
  part.broken ? 0 : grown(stage, 100, 70, shareUsed(part, 'intensity'))
export const trueChlorineAfter = (stage: SimStage, part: SimPart): number =>
  part.broken ? 0.4 : grown(stage, part.startChlorineMgL, 0.1, shareUsed(part, 'breakthrough'))
/** Litres a minute of permeate at that water temperature: 3 % less for each degree under 25. */
export const trueProductLMin = (stage: SimStage, part: SimPart, waterC: number): number =>
  grown(stage, part.startProductLMin, 0.7 * part.startProductLMin, shareUsed(part, 'production')) * Math.exp(-0.031 * (25 - waterC))

/** One visit's readings of a part, with the noise of real instruments and now and then a slip. */
export function readPart(rng: Rng, site: SimSite, stage: SimStage, part: SimPart, day: number, counter: boolean): SimReading {
  const reading: SimReading = { day }
  const { noise = 1 } = stage.world ?? {}
  const seen = (value: number, sd: number): number => noisy(rng, value, sd * noise)
  if (counter && part.litres > 0) reading.counterL = noisy(rng, part.litres, 0.005)
  if (part.lives.pressure !== undefined) {
    let drop = trueDropKpa(stage, part)
    if (rng.chance(WILD)) drop *= rng.between(4, 5)
    drop = Math.max(0.3, seen(drop, 0.06) + 0.7 * noise * rng.normal())
    reading.inKpa = 320 + 25 * rng.normal()
    reading.outKpa = reading.inKpa - drop
  }
  if (part.lives.passage !== undefined) {
    reading.feedTdsMgL = seen(site.feedTdsMgL, 0.04)
    const product = seen(reading.feedTdsMgL * truePassage(stage, part), 0.055)
    reading.productTdsMgL = rng.chance(WILD) ? tenfold(rng, product) : product
  }
  if (part.lives.production !== undefined) {
    reading.waterC = coldWaterC(day) + 0.5 * rng.normal()
    reading.productLMin = seen(trueProductLMin(stage, part, reading.waterC), 0.05)
  }
  if (part.lives.resin !== undefined) reading.feedTdsMgL = seen(site.feedTdsMgL, 0.04)
  if (part.lives.breakthrough !== undefined && rng.chance(0.7)) {
    const chlorine = seen(trueChlorineAfter(stage, part), 0.2)
    reading.chlorineAfterMgL = chlorine < 0.02 ? 0 : Math.round(chlorine * 100) / 100
  }
  if (stage.rated.hours !== undefined && rng.chance(0.5)) reading.lampHours = Math.round(part.hours)
  if (part.lives.intensity !== undefined && rng.chance(0.8)) reading.intensityPercent = seen(trueIntensityPercent(stage, part), 0.03)
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
