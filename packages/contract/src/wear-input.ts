import { OWN_CAUSES, USUAL_LIMITS } from '@evenround/core/catalogue'
import { forecast, narrowing, type WearInput } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { daySchema, foundSchema, mediumSchema, waterSourceSchema } from './common'
import { givenKindSchema } from './kinds'

const positive = z.number().positive()
const share = z.number().min(0).max(10)
const cv = z.number().min(0.02).max(3)

const ratedSchema = z
  .strictObject({
    days: positive.optional(),
    litres: positive.optional(),
    milliequivalents: positive.optional(),
    hours: positive.optional(),
  })
  .refine((rated) => Object.values(rated).some((value) => value !== undefined), {
    error: () => say`expected at least one of days, litres, milliequivalents, hours`,
  })

const stageSchema = z.strictObject({
  media: mediumSchema,
  causes: z.array(z.enum(OWN_CAUSES)).min(1).optional(),
  fittedOn: daySchema,
  ageUnknown: z.boolean().optional(),
  rated: ratedSchema,
  site: z.strictObject({
    people: positive,
    source: waterSourceSchema,
    litresPerDay: positive.optional(),
    chlorineMgL: z.number().min(0).optional(),
    turbidityNtu: z.number().min(0).optional(),
  }),
  limits: z
    .strictObject({
      overCleanKpa: positive.default(USUAL_LIMITS.overCleanKpa),
      flowShare: z.number().positive().lt(1).default(USUAL_LIMITS.flowShare),
      passage: z.number().positive().lt(1).optional(),
      passageRatio: z.number().gt(1).default(USUAL_LIMITS.passageRatio),
      permeateShare: z.number().positive().lt(1).default(USUAL_LIMITS.permeateShare),
      chlorineMgL: positive.default(USUAL_LIMITS.chlorineMgL),
      intensityPercent: z.number().positive().lt(100).default(USUAL_LIMITS.intensityPercent),
    })
    .optional(),
  carryOver: z.array(z.strictObject({ on: daySchema, share: z.number().positive().max(1) })).optional(),
  washedOn: z.array(daySchema).optional(),
})

const readingSchema = z.strictObject({
  on: daySchema,
  counterL: z.number().min(0).optional(),
  feedTdsMgL: z.number().min(0).optional(),
  productTdsMgL: z.number().min(0).optional(),
  inKpa: z.number().min(0).optional(),
  outKpa: z.number().min(0).optional(),
  flowLMin: z.number().min(0).optional(),
  cleanFlowLMin: positive.optional(),
  chlorineAfterMgL: z.number().min(0).optional(),
  lampHours: z.number().min(0).optional(),
  intensityPercent: z.number().min(0).max(200).optional(),
  productLMin: z.number().min(0).optional(),
  waterC: z.number().min(-2).max(100).optional(),
})

const pastSchema = z
  .strictObject({ fittedOn: daySchema, removedOn: daySchema, litres: z.number().min(0).optional(), found: foundSchema })
  .refine(({ fittedOn, removedOn }) => removedOn >= fittedOn, {
    path: ['removedOn'],
    error: () => say`expected a day on or after fittedOn`,
  })

/** Every field of a forecast's input; what must hold between them is asked by `wearInputSchema`. */
export const wearInputFields = z.strictObject({
  today: daySchema,
  stage: stageSchema,
  readings: z.array(readingSchema).max(5000),
  past: z.array(pastSchema).max(500),
  occupancy: z
    .array(
      z
        .strictObject({ from: daySchema, to: daySchema, share })
        .refine(({ from, to }) => to >= from, { path: ['to'], error: () => say`expected a day on or after from` }),
    )
    .max(2000)
    .optional(),
  school: z.enum(['calendar', 'usage', 'condition', 'earliest']),
  spread: z.strictObject({ siteCv: cv, unitCv: cv, usageCv: cv }).optional(),
})
/** What a part of one of the firm's own kinds ends by, where the input says it beside the stage. */
const withCauses = ({ kinds = [], ...input }: z.output<typeof askedFields>): z.output<typeof wearInputFields> => {
  const causes = input.stage.causes ?? kinds.find(({ id }) => id === input.stage.media)?.causes
  return causes ? { ...input, stage: { ...input.stage, causes } } : input
}

const askedFields = wearInputFields.extend({ kinds: z.array(givenKindSchema).max(100).optional() })
/** The same, when nobody asks about a day before the fitting; the firm's own kinds may stand beside it. */
export const wearInputSchema = askedFields
  .refine(({ today, stage }) => today >= stage.fittedOn, {
    path: ['today'],
    error: () => say`expected a day on or after stage.fittedOn`,
    // Said together with whatever else is wrong, as long as both are there to be compared.
    when: ({ value }) => {
      const input = value as { today?: unknown; stage?: { fittedOn?: unknown } } | null
      return typeof input?.today === 'string' && typeof input.stage?.fittedOn === 'string'
    },
  })
  .transform(withCauses)

/** `wear.forecast` as the scriptable core answers it: with what would narrow the window most. */
export function forecastWithNarrowing(input: z.output<typeof wearInputSchema>): unknown {
  const result = forecast(input as WearInput)
  // The schema wants a rated value, so every medium has a cause.
  if (!result.ok) throw new Error(result.reason)
  const { ok: _, ...answer } = result
  return { ...answer, narrowing: narrowing(input as WearInput, answer) }
}
