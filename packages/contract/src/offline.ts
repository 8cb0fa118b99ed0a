import { z } from 'zod'
import { visitPageSchema } from './book'
import { idSchema } from './common'
import { disinfectionPageSchema } from './disinfections'
import { stopPageSchema, todaySchema, weekSchema } from './site'

/** The coming days of one person, whole: what a device needs to go on without a network. */
export const offlineSchema = z.object({
  today: todaySchema,
  week: weekSchema,
  stops: z.array(stopPageSchema),
  /** Visits that were begun on these stops. */
  visits: z.array(z.object({ id: idSchema, page: visitPageSchema })),
  disinfections: z.array(disinfectionPageSchema),
})
export type OfflineDto = z.infer<typeof offlineSchema>
