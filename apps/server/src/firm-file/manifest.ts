import { z } from 'zod'

export const FORMAT = 'even-round-firm'
/** Goes up when an older program could not read the file any more. */
export const FORMAT_VERSION = 1

/** The list of what a firm's file holds; it is read first and every table is held against it. */
export const manifestSchema = z.object({
  format: z.literal(FORMAT),
  version: z.int().min(1),
  firmId: z.uuid(),
  firm: z.string(),
  madeAt: z.iso.datetime(),
  tables: z.record(z.string().regex(/^[a-z_]{1,63}$/), z.object({ rows: z.int().min(0), sha256: z.string().regex(/^[0-9a-f]{64}$/) })),
  pictures: z.int().min(0),
})
export type Manifest = z.output<typeof manifestSchema>
