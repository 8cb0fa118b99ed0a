import { z } from 'zod'
import { idSchema } from './common'
import { THINGS } from './edits'

/** What a firm's other devices are told as it happens: enough to know what to ask for, never its content. */
export const newsSchema = z.discriminatedUnion('what', [
  /** Facts of these kinds, of these visits at these sites, came from a device. */
  z.object({
    what: z.literal('facts'),
    deviceId: idSchema,
    kinds: z.array(z.string()),
    visitIds: z.array(idSchema),
    siteIds: z.array(idSchema),
  }),
  /** The plan in the making changed; `published`: and the road with it. */
  z.object({ what: z.literal('round'), published: z.boolean() }),
  /** Somebody edited something that the firm keeps. */
  z.object({ what: z.literal('edited'), thing: z.enum(THINGS) }),
  /** Forecasts were recomputed. */
  z.object({ what: z.literal('forecasts') }),
  /** Something may have been missed: everything on the screen is asked for again. */
  z.object({ what: z.literal('again') }),
])
export type News = z.infer<typeof newsSchema>
