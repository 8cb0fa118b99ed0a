import { MEDIA_LIMIT_FIELDS } from '@evenround/core/catalogue'
import { MEDIUM_FIELDS, PART_FIELDS, PART_FIGURES } from '@evenround/core/firm'
import { z } from 'zod'
import { housingSchema, idSchema, mediumSchema, standardMediumSchema, versionSchema } from './common'
import { shapeOf } from './fields'
import { kindSchema } from './kinds'

export const partSchema = z.object({
  id: idSchema,
  ...shapeOf(PART_FIELDS),
  /** Parts that stand in for it, by the firm's word; each is rated by its own figures. */
  equivalents: z.array(idSchema),
  version: versionSchema,
})
export type PartDto = z.infer<typeof partSchema>

const partFields = shapeOf(PART_FIGURES)
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

/** Where measured causes end a part; a firm may move each within what makes sense. */
export const limitsSchema = z.strictObject(shapeOf(MEDIA_LIMIT_FIELDS)).partial()
const mediumFields = shapeOf(MEDIUM_FIELDS, { limits: limitsSchema })
/** What a medium is rated at and limited by in this firm; version 0 while our defaults stand. */
export const mediumProfileSchema = z.object({ media: standardMediumSchema, ...mediumFields, version: z.int().min(0) })
export type MediumProfileDto = z.infer<typeof mediumProfileSchema>
export const mediumEditSchema = z.strictObject({ version: z.int().min(0), ...mediumFields })

export const shelfSchema = z.object({
  parts: z.array(partSchema),
  media: z.array(mediumProfileSchema),
  kinds: z.array(kindSchema),
  /** What the signed-in person's stops of the next seven days want from the van. */
  needs: z.array(z.object({ partNumber: z.string(), count: z.int(), firstDay: z.string(), forSites: z.array(z.string()) })),
})
export type ShelfDto = z.infer<typeof shelfSchema>
