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
export const partNewSchema = z.strictObject({ id: idSchema, ...partFields, media: mediumSchema, housing: housingSchema })
/** `fittedToo` corrects the parts already in service that were rated by the wrong figure; without it they keep what they were rated at. */
export const partEditSchema = z.strictObject({ version: versionSchema, ...partFields, fittedToo: z.boolean() })
export const partEditedSchema = z.object({ part: partSchema, corrected: z.int() })

export const shelfSchema = z.object({
  parts: z.array(partSchema),
  /** What the signed-in person's stops of the next seven days want from the van. */
  needs: z.array(z.object({ partNumber: z.string(), count: z.int(), firstDay: z.string(), forSites: z.array(z.string()) })),
})
export type ShelfDto = z.infer<typeof shelfSchema>
