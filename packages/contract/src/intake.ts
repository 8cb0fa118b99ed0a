import { INTAKE_FIELDS } from '@evenround/core/intake'
import { z } from 'zod'
import { idSchema, instantSchema, lineSchema } from './common'

/** Longest list one request takes; longer ones are brought in by parts. */
export const MOST_INTAKE_LINES = 20_000
const MOST_TEXT = 8_000_000
/** What a request with such a list may weigh. */
export const MOST_LIST_BYTES = 12 * 1024 * 1024

export const intakeFieldSchema = z.enum(INTAKE_FIELDS)
export const dateOrderSchema = z.enum(['day-first', 'month-first'])

const list = {
  name: lineSchema(200),
  /** The file as text: CSV with a heading line; comma, semicolon or tab. */
  text: z.string().min(1).max(MOST_TEXT),
}
/** What each column holds; left out, it is guessed from the headings. */
const columns = z.array(intakeFieldSchema.nullable()).max(200)
export const intakeCheckSchema = z.strictObject({ ...list, columns: columns.optional(), order: dateOrderSchema.optional() })
/** A list to be looked through, whatever it is called. */
export type IntakeAsk = Omit<z.infer<typeof intakeCheckSchema>, 'name'>
export const intakeNewSchema = z.strictObject({ id: idSchema, ...list, columns, order: dateOrderSchema })

const countsSchema = z.object({
  sites: z.int(),
  systems: z.int(),
  parts: z.int(),
  /** Of those, parts whose fitting date nobody knows. */
  undated: z.int(),
  readings: z.int(),
})
export type IntakeCounts = z.infer<typeof countsSchema>

const problemSchema = z.object({
  field: intakeFieldSchema.nullable(),
  heading: z.string().nullable(),
  value: z.string(),
  message: z.string(),
})
export const intakePreviewSchema = z.object({
  columns: z.array(z.object({ heading: z.string(), field: intakeFieldSchema.nullable(), samples: z.array(z.string()) })),
  order: dateOrderSchema,
  /** False when no date of the list fits one order only. */
  orderTold: z.boolean(),
  /** The earlier list with the same headings whose columns these are. */
  remembered: z.string().nullish(),
  lines: z.int(),
  good: z.int(),
  counts: countsSchema,
  /** Lines that cannot come in, the first few hundred; `bad` counts them all. */
  problems: z.array(z.object({ line: z.int(), problems: z.array(problemSchema) })),
  bad: z.int(),
  /** Remarks on lines that do come in. */
  notes: z.array(z.object({ line: z.int(), notes: z.array(z.string()) })),
  noted: z.int(),
  /** Systems as they will stand, the first few. */
  systems: z.array(z.object({ site: z.string(), system: z.string(), isNew: z.boolean(), stages: z.array(z.string()) })),
})
export type IntakePreview = z.infer<typeof intakePreviewSchema>

/** How a list that was handed in stands; while it waits or is worked at it can be stopped. */
export const INTAKE_STATES = ['waiting', 'working', 'done', 'stopped', 'failed'] as const
export type IntakeState = (typeof INTAKE_STATES)[number]

export const intakeSchema = z.object({
  id: idSchema,
  name: z.string(),
  personName: z.string(),
  at: instantSchema,
  counts: countsSchema,
  undoneAt: instantSchema.nullable(),
  /** Sites that stayed when it was undone, since work was done there meanwhile. */
  kept: z.array(z.string()),
  state: z.enum(INTAKE_STATES),
  /** How much of it is written, 0 to 1. */
  progress: z.number(),
  /** Lines that could not come in. */
  left: z.int(),
  /** Why nothing came in; null otherwise. */
  failure: z.string().nullable(),
})
export type IntakeDto = z.infer<typeof intakeSchema>
export const intakesSchema = z.object({ intakes: z.array(intakeSchema) })
