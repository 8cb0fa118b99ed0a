import { z } from 'zod'
import { idSchema, instantSchema } from './common'

/** Longest side a photo is kept at, in pixels; the device shrinks it before it is sent, and the server does again. */
export const PHOTO_SIDE = 1600
/** What one photo may weigh when it is sent. */
export const MOST_PHOTO_BYTES = 1_900_000

export const photoPlaceSchema = z.object({ siteId: idSchema, visitId: idSchema, stageId: idSchema, takenAt: instantSchema })
export type PhotoPlace = z.infer<typeof photoPlaceSchema>
export const photoSchema = z.object({ id: idSchema, stageId: idSchema, takenAt: instantSchema, width: z.int(), height: z.int() })
export type PhotoDto = z.infer<typeof photoSchema>
