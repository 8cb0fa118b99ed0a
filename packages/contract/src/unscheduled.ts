import { z } from 'zod'
import { actionSchema, idSchema, instantSchema } from './common'

/** A stop that nobody planned, with an id made by the device. */
export const unscheduledStopSchema = z.strictObject({
  id: idSchema,
  systemId: idSchema,
  /** When it was put there, on a device without a connection; now where it is left out. */
  at: instantSchema.optional(),
  tasks: z
    .array(z.strictObject({ stageId: idSchema, action: actionSchema }))
    .min(1)
    .max(40),
})
export type UnscheduledStop = z.infer<typeof unscheduledStopSchema>
