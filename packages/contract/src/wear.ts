import { z } from 'zod'
import { daySchema } from './common'

export const causeSchema = z.enum([
  'calendar',
  'throughput',
  'pressure',
  'passage',
  'production',
  'resin',
  'breakthrough',
  'lamp',
  'intensity',
])
export const forecastSchema = z.object({
  p10: daySchema,
  p50: daySchema,
  p90: daySchema,
  governing: causeSchema,
  causes: z.array(
    z.object({ cause: causeSchema, p10: daySchema, p50: daySchema, p90: daySchema, hazardShare: z.number(), evidence: z.string() }),
  ),
  remaining: z.number().min(0).max(1),
  /** Chance that it is over by today. */
  ended: z.number().min(0).max(1),
  state: z.enum(['over', 'any-day', 'good']),
  /** Places in its readings of those that are held for slips. */
  doubted: z.array(z.int()),
  narrowing: z.array(z.object({ reading: z.string(), windowDaysAfter: z.number() })),
})
export type ForecastDto = z.infer<typeof forecastSchema>

export const changeSchoolSchema = z.enum(['calendar', 'usage', 'condition', 'earliest'])
/** The school of changing in force at a stage, and where it was chosen. */
export const schoolInForceSchema = z.object({ inForce: changeSchoolSchema, from: z.enum(['firm', 'site', 'stage']) })
export type SchoolInForce = z.infer<typeof schoolInForceSchema>
/** Null follows the next wider choice. */
export const schoolChoiceSchema = z.strictObject({ school: changeSchoolSchema.nullable() })
