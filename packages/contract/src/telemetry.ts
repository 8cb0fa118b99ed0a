import { z } from 'zod'
import { idSchema, instantSchema, lineSchema } from './common'

export const deviceKindSchema = z.enum(['pulse-counter', 'lamp-controller'])
export const deviceSchema = z.object({
  id: idSchema,
  systemId: idSchema,
  name: z.string(),
  kind: deviceKindSchema,
  active: z.boolean(),
  lastAt: instantSchema.nullable(),
  lastValue: z.number().nullable(),
})
export type DeviceDto = z.infer<typeof deviceSchema>
export const deviceNewSchema = z.strictObject({ id: idSchema, systemId: idSchema, name: lineSchema(80), kind: deviceKindSchema })
/** The key is shown once, when the device is added; only its hash is kept. */
export const deviceAddedSchema = z.object({ device: deviceSchema, key: z.string() })

export const MOST_READINGS = 1000
/** What a counter shows (litres, or hours lit) at an instant; `seq` is the device's own order and makes a repeat harmless. */
export const telemetrySchema = z.strictObject({
  readings: z
    .array(z.strictObject({ at: instantSchema, seq: z.int().min(0), value: z.number().min(0).max(1e12) }))
    .min(1)
    .max(MOST_READINGS),
})
export const telemetryAnswerSchema = z.object({ stored: z.int(), alreadyHad: z.int() })
