import { say } from '@evenround/core/words'
import { z } from 'zod'
import { idSchema, instantSchema } from './common'

/** What was found at a visit, or the installation and its labels, which stay with the system. */
export const PHOTOS_OF = ['finding', 'installation', 'label'] as const
export type PhotoOf = (typeof PHOTOS_OF)[number]

export const photoPlaceSchema = z
  .object({
    siteId: idSchema,
    takenAt: instantSchema,
    what: z.enum(PHOTOS_OF).default('finding'),
    /** Of a finding: at which visit, at which place of the system. */
    visitId: idSchema.optional(),
    stageId: idSchema.optional(),
    /** Of an installation or a label. */
    systemId: idSchema.optional(),
  })
  .superRefine(({ what, visitId, stageId, systemId }, context) => {
    const wanting = what === 'finding' ? { visitId, stageId } : { systemId }
    for (const [path, value] of Object.entries(wanting))
      if (value === undefined)
        context.addIssue({ code: 'custom', path: [path], message: say`expected an id, since it is a photo of: ${what}` })
  })
export type PhotoPlace = z.input<typeof photoPlaceSchema>
export const photoSchema = z.object({ id: idSchema, stageId: idSchema, takenAt: instantSchema, width: z.int(), height: z.int() })
export type PhotoDto = z.infer<typeof photoSchema>
/** A photo that stays with a system. */
export const systemPhotoSchema = z.object({
  id: idSchema,
  systemId: idSchema,
  what: z.enum(PHOTOS_OF),
  takenAt: instantSchema,
  width: z.int(),
  height: z.int(),
})
export type SystemPhotoDto = z.infer<typeof systemPhotoSchema>
