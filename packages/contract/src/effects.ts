import { z } from 'zod'
import { followUpSchema } from './book'
import { idSchema } from './common'
import { holdSchema, systemSchema } from './site'
import { factResultSchema } from './visit'

/** What a batch of facts changed, with its new values: the device that sent it puts them in place instead of asking again. */
export const effectsSchema = z.object({
  /** Visits that began or ended, with the stops they stand on. */
  visits: z.array(z.object({ visitId: idSchema, stopId: idSchema.nullable(), finished: z.boolean() })),
  /** What a finished visit left on the road; null where it left nothing. */
  followUps: z.array(z.object({ visitId: idSchema, followUp: followUpSchema.nullable() })),
  /** All holds that are on, of every site where one began or ended. */
  holds: z.array(z.object({ siteId: idSchema, holds: z.array(holdSchema) })),
  /** Systems whose parts or readings changed, with their forecasts of now. */
  systems: z.array(systemSchema),
})
export type Effects = z.infer<typeof effectsSchema>

export const factBatchResultSchema = z.object({ results: z.array(factResultSchema), skewMs: z.number(), effects: effectsSchema })
