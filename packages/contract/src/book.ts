import { say } from '@evenround/core/words'
import { z } from 'zod'
import { daySchema, idSchema, instantSchema, workDaySchema } from './common'
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
  { error: () => say`expected the "next" of an earlier page` },
)

const OUTCOMES = ['done', 'partly-done', 'not-right', 'nobody-home', 'part-missing'] as const
/** Which visits of the book are wanted; what is left out asks for all. */
export const bookFilterSchema = z.object({
  /** Part of a site's, system's or person's name, of a part number or of the note. */
  text: z.string().trim().max(80).optional(),
  person: idSchema.optional(),
  from: workDaySchema.optional(),
  to: workDaySchema.optional(),
  outcome: z.enum(OUTCOMES).optional(),
  photos: z.literal('yes').optional(),
})
export type BookFilter = z.infer<typeof bookFilterSchema>
export const bookQuerySchema = bookFilterSchema.extend({ before: bookPlaceSchema.optional() })

export const LIFE_KINDS = ['visit', 'reading', 'part', 'hold', 'disinfection', 'fault', 'other'] as const
export type LifeKind = (typeof LIFE_KINDS)[number]
/** One thing that happened at a site, in words. */
export const lifeSchema = z.object({
  siteName: z.string(),
  /** Newest first. */
  lines: z.array(
    z.object({
      id: idSchema,
      at: instantSchema,
      kind: z.enum(LIFE_KINDS),
      text: z.string(),
      /** Null where it was no visit. */
      visitId: idSchema.nullable(),
      /** Taken back or corrected since. */
      over: z.boolean(),
    }),
  ),
  /** There is more than is listed. */
  more: z.boolean(),
})
export type LifeDto = z.infer<typeof lifeSchema>
