import { RESIN_TARGET_MGL, type ResinResult, resin, USUAL_RESIN_EQ_PER_L } from '../readings'
import { daysBetween } from '../units'
import { usualLitresPerDay } from './factors'
import type { WearStage } from './types'

interface UsualResin {
  /** Water into and out of the bed, mg/L; in over 0. */
  inTdsMgL: number
  outTdsMgL: number
  /** What the fill takes up, by its label. */
  milliequivalents: number
  /** ISO days. */
  fittedOn: string
  today: string
  site: Pick<WearStage['site'], 'people' | 'source'>
}

/** The state of a mixed bed where nobody reads its counter: the usual use of its people since the fill, against the capacity of its label. */
export function usualResin({ inTdsMgL, outTdsMgL, milliequivalents, fittedOn, today, site: { people, source } }: UsualResin): ResinResult {
  const litresPerDay = usualLitresPerDay({ media: 'deionising-resin', fittedOn, rated: {}, site: { people, source } })
  return resin({
    inTdsMgL,
    outTdsMgL,
    targetTdsMgL: RESIN_TARGET_MGL,
    resinL: milliequivalents / 1000 / USUAL_RESIN_EQ_PER_L,
    litresSinceFill: litresPerDay * Math.max(0, daysBetween(fittedOn, today)),
    litresPerDay,
  })
}
