import { z } from 'zod'
import { housingSchema, idSchema, lineSchema, mediumSchema, versionSchema } from './common'
import { ratedSchema } from './visit'

export const partSchema = z.object({
  id: idSchema,
  partNumber: z.string(),
  maker: z.string(),
  name: z.string(),
  media: mediumSchema,
  housing: housingSchema,
  rated: ratedSchema,
  /** Integer minor units of the firm's currency. */
  priceMinor: z.int().min(0),
  /** Parts that stand in for it, by the firm's word; each is rated by its own figures. */
  equivalents: z.array(idSchema),
  version: versionSchema,
})
export type PartDto = z.infer<typeof partSchema>

const partFields = {
  partNumber: lineSchema(60),
  maker: lineSchema(80),
  name: lineSchema(120),
  rated: ratedSchema,
  priceMinor: z.int().min(0).max(100_000_000),
}
/** A new part stands alone; what stands in for it is said when both are there. */
export const partNewSchema = z.strictObject({ id: idSchema, ...partFields, media: mediumSchema, housing: housingSchema })
/** `fittedToo` corrects the parts already in service that were rated by the wrong figure; without it they keep what they were rated at. */
export const partEditSchema = z.strictObject({
  version: versionSchema,
  ...partFields,
  fittedToo: z.boolean(),
  equivalents: z.array(idSchema).max(40),
})
export const partEditedSchema = z.object({ part: partSchema, corrected: z.int() })

const share = z.number().min(0.02).max(0.95)
/** Where measured causes end a part; a firm may move each within what makes sense. */
export const limitsSchema = z.strictObject({
  overCleanKpa: z.number().min(5).max(500).optional(),
  flowShare: share.optional(),
  passage: share.optional(),
  passageRatio: z.number().min(1.1).max(10).optional(),
  permeateShare: share.optional(),
  chlorineMgL: z.number().min(0.02).max(4).optional(),
  intensityPercent: z.number().min(20).max(95).optional(),
})
const mediumFields = {
  lifeMonths: z.number().gt(0).max(240).nullable(),
  ratedLitres: z.number().gt(0).max(1e8).nullable(),
  ratedHours: z.number().gt(0).max(200_000).nullable(),
  limits: limitsSchema,
}
/** What a medium is rated at and limited by in this firm; version 0 while our defaults stand. */
export const mediumProfileSchema = z.object({ media: mediumSchema, ...mediumFields, version: z.int().min(0) })
export type MediumProfileDto = z.infer<typeof mediumProfileSchema>
export const mediumEditSchema = z.strictObject({ version: z.int().min(0), ...mediumFields })

export const shelfSchema = z.object({
  parts: z.array(partSchema),
  media: z.array(mediumProfileSchema),
  /** What the signed-in person's stops of the next seven days want from the van. */
  needs: z.array(z.object({ partNumber: z.string(), count: z.int(), firstDay: z.string(), forSites: z.array(z.string()) })),
})
export type ShelfDto = z.infer<typeof shelfSchema>
