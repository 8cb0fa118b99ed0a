import { say } from '@evenround/core/words'
import { z } from 'zod'
import { idSchema, lineSchema } from './common'
import { emailSchema, passwordSchema, personSchema, unitsSchema } from './firm'

/** A zone of the IANA database that this machine knows. */
const isZone = (name: string): boolean => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name })
    return true
  } catch {
    return false
  }
}
const minute = z
  .int()
  .min(0)
  .max(24 * 60)

/** What a firm begins with. */
export const firmNewSchema = z.strictObject({
  name: lineSchema(120),
  timeZone: z
    .string()
    .max(60)
    .refine(isZone, { error: () => say`expected a time zone such as Europe/Lisbon` }),
  /** ISO 4217. */
  currency: z.string().regex(/^[A-Z]{3}$/, { error: () => say`expected three letters such as EUR` }),
  gallon: z.enum(['us', 'imperial']),
  units: unitsSchema.strict(),
})
export const ownerNewSchema = z.strictObject({ name: lineSchema(120), email: emailSchema, password: passwordSchema })
/** Where the vans start, WGS 84 degrees. */
export const baseNewSchema = z.strictObject({
  name: lineSchema(80),
  lat: z.number().min(-90).max(90),
  lon: z.number().min(-180).max(180),
})
export const weekNewSchema = z
  .strictObject({ weekdays: z.array(z.int().min(1).max(7)).min(1).max(7), fromMin: minute, toMin: minute })
  .refine(({ fromMin, toMin }) => fromMin < toMin, { path: ['toMin'], error: () => say`expected an end after the beginning` })

/** Setting up a server's first firm, behind the code that its start printed. */
export const setupSchema = z.strictObject({
  code: z.string().min(1).max(40),
  firm: firmNewSchema,
  owner: ownerNewSchema,
  base: baseNewSchema.nullable(),
  week: weekNewSchema,
})
export type Setup = z.infer<typeof setupSchema>
/** Whether nobody is in this database yet. */
export interface SetupState {
  open: boolean
}

export const LINK_KINDS = ['invitation', 'reset'] as const
export type LinkKind = (typeof LINK_KINDS)[number]
/** A link that is good once, for one person. */
export const linkSchema = z.object({
  kind: z.enum(LINK_KINDS),
  personId: idSchema,
  /** Said once, to be handed on; only its hash is kept. */
  token: z.string(),
  expiresAt: z.string(),
  /** Sent to this address; null where no mail is set up. */
  mailedTo: z.string().nullable(),
})
export type LinkDto = z.infer<typeof linkSchema>
export const inviteSchema = personSchema
  .omit({ active: true, version: true })
  .extend({ name: lineSchema(120), email: emailSchema, van: lineSchema(60).nullable() })
  .strict()

export const tokenSchema = z.string().regex(/^[A-Za-z0-9_-]{20,100}$/, { error: () => say`expected the whole of the link` })
export const linkUseSchema = z.strictObject({ token: tokenSchema, password: passwordSchema })
export const linkAskSchema = z.strictObject({ token: tokenSchema })
/** Whom a link is for, before it is used. */
export interface LinkFor {
  kind: LinkKind
  name: string
  email: string
  firm: string
}
export const forgotSchema = z.strictObject({ email: emailSchema })
/** Said alike whether somebody signs in with that e-mail or not. */
export interface Forgot {
  mail: boolean
}

/** The demo beside a firm of one's own: its sign-ins, while it is there. */
export const demoSchema = z.object({
  there: z.boolean(),
  people: z.array(z.object({ name: z.string(), email: z.string(), role: z.string(), password: z.string() })),
})
export type DemoDto = z.infer<typeof demoSchema>

export const mailSchema = z.object({ to: z.string(), subject: z.string(), text: z.string(), at: z.string() })
export type MailDto = z.infer<typeof mailSchema>
