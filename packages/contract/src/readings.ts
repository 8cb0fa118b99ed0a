import { USUAL_MEMBRANE, USUAL_RESIN_EQ_PER_L } from '@evenround/core/readings'
import { say } from '@evenround/core/words'
import { z } from 'zod'

const concentration = z.number().min(0)
const share = z.number().min(0).max(1)

export const tdsInputSchema = z
  .strictObject({
    display: concentration,
    multiplier: z.union([z.literal(1), z.literal(10)]),
    quantity: z.enum(['tds', 'ec']),
    scale: z.union([z.literal(0.5), z.literal(0.64), z.literal(0.7)]),
    compensated: z.boolean(),
    temperatureC: z.number().min(-2).max(100).nullable(),
    coefficientPerC: z.number().min(0).default(0.02),
    siteHistoryMgL: z.array(concentration).optional(),
  })
  .superRefine(({ compensated, temperatureC, coefficientPerC }, context) => {
    if (compensated || temperatureC === null || 1 + coefficientPerC * (temperatureC - 25) > 0) return
    context.addIssue({
      code: 'custom',
      path: ['coefficientPerC'],
      message: say`expected a coefficient that keeps 1 + a·(T − 25) over 0 at ${temperatureC} °C, got ${coefficientPerC}`,
    })
  })

const fixedFloorSchema = z.strictObject({
  kind: z.literal('fixed-floor'),
  watchPassage: share.default(USUAL_MEMBRANE.watchPassage),
  replacePassage: share.default(USUAL_MEMBRANE.replacePassage),
})
const ownBaselineSchema = z.strictObject({
  kind: z.literal('own-baseline'),
  baselinePassage: z.number().gt(0).max(1),
  watchRatio: z.number().gt(0).default(USUAL_MEMBRANE.watchRatio),
  replaceRatio: z.number().gt(0).default(USUAL_MEMBRANE.replaceRatio),
})

export const membraneInputSchema = z.strictObject({
  feedTdsMgL: concentration,
  productTdsMgL: concentration,
  school: z.discriminatedUnion('kind', [fixedFloorSchema, ownBaselineSchema]),
})

export const resinInputSchema = z.strictObject({
  inTdsMgL: z.number().gt(0),
  outTdsMgL: concentration,
  targetTdsMgL: concentration,
  resinL: z.number().gt(0),
  capacityEqPerL: z.number().gt(0).default(USUAL_RESIN_EQ_PER_L),
  litresSinceFill: z.number().min(0),
  litresPerDay: z.number().min(0),
})
