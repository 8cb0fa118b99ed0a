import { PARTS_FIELDS } from '@evenround/core/intake'
import { z } from 'zod'
import { MOST_INTAKE_LINES } from './intake'

export const partsFieldSchema = z.enum(PARTS_FIELDS)
const MOST_TEXT = 1_900_000

/** A list of parts as text: CSV with a heading line; what each column holds is guessed from the headings where it is left out. */
export const partsListSchema = z.strictObject({
  text: z.string().min(1).max(MOST_TEXT),
  columns: z.array(partsFieldSchema.nullable()).max(200).optional(),
})

const problemSchema = z.object({
  field: partsFieldSchema.nullable(),
  heading: z.string().nullable(),
  value: z.string(),
  message: z.string(),
})
export const partsPreviewSchema = z.object({
  columns: z.array(z.object({ heading: z.string(), field: partsFieldSchema.nullable(), samples: z.array(z.string()) })),
  lines: z.int(),
  good: z.int(),
  added: z.int(),
  changed: z.int(),
  /** Lines that say what stands already. */
  same: z.int(),
  problems: z.array(z.object({ line: z.int(), problems: z.array(problemSchema) })).max(MOST_INTAKE_LINES),
  notes: z.array(z.object({ line: z.int(), notes: z.array(z.string()) })),
  /** The first few parts as they will stand. */
  parts: z.array(z.object({ line: z.int(), isNew: z.boolean(), text: z.string() })),
})
export type PartsPreview = z.infer<typeof partsPreviewSchema>
export const partsDoneSchema = z.object({ added: z.int(), changed: z.int(), left: z.int() })
