import { z } from 'zod'
import { daySchema, idSchema, instantSchema } from './common'

/** A firm's whole file: asked for, made by a job, fetched. */
export const firmFileSchema = z.object({
  id: idSchema,
  state: z.enum(['asked', 'made', 'failed']),
  askedAt: instantSchema,
  askedBy: z.string(),
  madeAt: instantSchema.nullable(),
  /** Bytes of the ZIP. */
  bytes: z.number().nullable(),
  rows: z.int().nullable(),
  /** It is deleted then, or when another one is asked for. */
  until: instantSchema,
})
export type FirmFileDto = z.infer<typeof firmFileSchema>

/** Who opened customers' pages: a line for each day and person. */
export const looksSchema = z.object({
  looks: z.array(
    z.object({
      day: daySchema,
      person: z.string(),
      /** How many customers. */
      count: z.int(),
      /** The first of them by name. */
      names: z.array(z.string()),
    }),
  ),
})
export type LooksDto = z.infer<typeof looksSchema>

/** How the backups of the server this firm stands on go; what exactly went wrong is for whoever runs it. */
export const backupsSchema = z.object({
  /** When the last good one was begun; null where there is none. */
  lastGood: instantSchema.nullable(),
  /** It was restored beside the server, and every firm in it was the same. */
  checked: z.boolean(),
  /** A try that failed since then. */
  failedSince: instantSchema.nullable(),
})
export type BackupsDto = z.infer<typeof backupsSchema>

export const AUDITED = [
  'firm-exported',
  'firm-brought-in',
  'customer-exported',
  'customer-erased',
  'second-factor-removed',
  'cautions-signed',
  'rights-changed',
  'round-published',
  'hold-lifted',
  'list-exported',
] as const
export type Audited = (typeof AUDITED)[number]
export const auditSchema = z.object({
  id: idSchema,
  at: instantSchema,
  what: z.enum(AUDITED),
  /** Null where it was done from the server's shell. */
  person: z.string().nullable(),
  said: z.string(),
})
export type AuditDto = z.infer<typeof auditSchema>

/** What was brought in, and a link each for its owners to choose a password. */
export const broughtInSchema = z.object({
  firm: z.string(),
  rows: z.int(),
  pictures: z.int(),
  owners: z.array(z.object({ name: z.string(), email: z.string(), token: z.string() })),
})
export type BroughtInDto = z.infer<typeof broughtInSchema>
