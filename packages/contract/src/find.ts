import { z } from 'zod'
import { idSchema, instantSchema } from './common'

export const FOUND_KINDS = ['site', 'system', 'part', 'visit', 'fault'] as const
export const findSchema = z.object({ q: z.string().trim().max(80) })
export const foundSchema = z.object({
  found: z.array(
    z.object({
      kind: z.enum(FOUND_KINDS),
      /** Of the site, the system, the fact, the visit or the fault. */
      id: idSchema,
      siteId: idSchema,
      siteName: z.string(),
      /** What was found: a name, a part number, what was noted. */
      title: z.string(),
      at: instantSchema.nullable(),
    }),
  ),
})
export type Found = z.infer<typeof foundSchema>['found'][number]
