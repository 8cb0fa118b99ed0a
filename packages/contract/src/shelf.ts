import { z } from 'zod'
import { housingSchema, idSchema, mediumSchema, versionSchema } from './common'
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

export const shelfSchema = z.object({
  parts: z.array(partSchema),
  /** What the signed-in person's stops of the next seven days want from the van. */
  needs: z.array(z.object({ partNumber: z.string(), count: z.int(), firstDay: z.string(), forSites: z.array(z.string()) })),
})
export type ShelfDto = z.infer<typeof shelfSchema>
