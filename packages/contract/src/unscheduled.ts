import { z } from 'zod'
import { actionSchema, idSchema } from './common'

/** A stop that nobody planned, with an id made by the device. */
export const unscheduledStopSchema = z.strictObject({
  id: idSchema,
  systemId: idSchema,
  tasks: z
    .array(z.strictObject({ stageId: idSchema, action: actionSchema }))
    .min(1)
    .max(40),
})
export type UnscheduledStop = z.infer<typeof unscheduledStopSchema>
