import { z } from 'zod'
import { idSchema, instantSchema } from './common'

export const photoPlaceSchema = z.object({ siteId: idSchema, visitId: idSchema, stageId: idSchema, takenAt: instantSchema })
export type PhotoPlace = z.infer<typeof photoPlaceSchema>
export const photoSchema = z.object({ id: idSchema, stageId: idSchema, takenAt: instantSchema, width: z.int(), height: z.int() })
export type PhotoDto = z.infer<typeof photoSchema>
