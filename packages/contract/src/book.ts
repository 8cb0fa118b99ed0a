import { z } from 'zod'
import { daySchema, idSchema, instantSchema } from './common'
import { photoSchema } from './photo'
import { followsWhySchema, siteSchema, systemSchema, visitRowSchema } from './site'
import { storedFactSchema } from './visit'

export const bookSchema = z.object({ visits: z.array(visitRowSchema), next: z.string().nullable() })
export type BookDto = z.infer<typeof bookSchema>

/** The stop a finished visit left on the road. */
export const followUpSchema = z.object({ stopId: idSchema, day: daySchema, why: followsWhySchema })

export const visitPageSchema = z.object({
  /** The stop that what is left was put on; null where nothing was. */
  followUp: followUpSchema.nullable(),
  visit: visitRowSchema.nullable(),
  site: siteSchema.nullable(),
  system: systemSchema.nullable(),
  facts: z.array(storedFactSchema),
  photos: z.array(photoSchema),
})
export type VisitPageDto = z.infer<typeof visitPageSchema>

/** Where a page of the book ended: the instant its last visit began, and which one it was. */
export const bookPlaceSchema = z.string().refine(
  (place) => {
    const [at, visitId, ...more] = place.split('~')
    return more.length === 0 && instantSchema.safeParse(at).success && idSchema.safeParse(visitId).success
  },
  { error: 'expected the "next" of an earlier page' },
)
