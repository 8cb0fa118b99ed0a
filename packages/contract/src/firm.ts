import { RIGHTS, ROLES, SECOND_FACTOR_RULES } from '@evenround/core/firm'
import { z } from 'zod'
import { idSchema, instantSchema, lineSchema, versionSchema } from './common'
import { SHORTEST_PASSWORD } from './protocol'

/** The firm's defaults where good practice differs. */
export const schoolsSchema = z.object({
  change: z.enum(['calendar', 'usage', 'condition', 'earliest']),
  membrane: z.enum(['fixed-floor', 'own-baseline']),
  closing: z.enum(['hand-only', 'hand-and-quarter-turn']),
  /** Left out by firms of before it was asked: in place. */
  place: z.enum(['in-place', 'at-the-bench']).optional(),
  seals: z.enum(['reuse', 'new']),
  order: z.enum(['one-at-a-time', 'all-out']),
  tankWater: z.enum(['keep', 'drain']),
})
export type Schools = z.infer<typeof schoolsSchema>
/** How a firm works until it says otherwise: the careful choice where practice differs. */
export const USUAL_SCHOOLS: Schools = {
  change: 'earliest',
  membrane: 'fixed-floor',
  closing: 'hand-and-quarter-turn',
  seals: 'reuse',
  order: 'one-at-a-time',
  tankWater: 'keep',
}

/** What screens and papers of the firm speak; the core and the database stay metric. */
export const unitsSchema = z.object({
  volume: z.enum(['L', 'gal']),
  pressure: z.enum(['kPa', 'bar', 'psi']),
  temperature: z.enum(['C', 'F']),
})
export type Units = z.infer<typeof unitsSchema>

/** A language's cautions, read against the English and signed off; `mark` says which wording of them. */
const cautionsSignedSchema = z.record(z.string(), z.object({ mark: z.string(), reader: z.string(), by: z.string(), at: instantSchema }))
export type CautionsSigned = z.infer<typeof cautionsSignedSchema>
export const cautionsSignSchema = z.strictObject({
  mark: z.string().regex(/^[0-9a-f]{8}$/),
  /** Who read them, and what makes them competent. */
  reader: lineSchema(120),
})

export const firmSchema = z.object({
  id: idSchema,
  name: z.string(),
  timeZone: z.string(),
  currency: z.string(),
  gallon: z.enum(['us', 'imperial']),
  units: unitsSchema,
  schools: schoolsSchema,
  secondFactor: z.enum(SECOND_FACTOR_RULES),
  cautionsSigned: cautionsSignedSchema,
  version: versionSchema,
})
export type FirmDto = z.infer<typeof firmSchema>
export const firmEditSchema = z.strictObject({
  version: versionSchema,
  name: lineSchema(120),
  gallon: z.enum(['us', 'imperial']),
  /** Left out, they stay as they are. */
  units: unitsSchema.strict().optional(),
  schools: schoolsSchema,
  secondFactor: z.enum(SECOND_FACTOR_RULES).optional(),
})

export const skillSchema = z.enum(['wells'])
export const personSchema = z.object({
  id: idSchema,
  name: z.string(),
  email: z.string(),
  role: z.enum(ROLES),
  skills: z.array(skillSchema),
  van: z.string().nullable(),
  active: z.boolean(),
  version: versionSchema,
})
export type PersonDto = z.infer<typeof personSchema>

export const passwordSchema = z.string().min(SHORTEST_PASSWORD).max(200)
export const emailSchema = z.email().trim().toLowerCase().max(254)

export const personNewSchema = z.strictObject({
  id: idSchema,
  name: lineSchema(120),
  email: emailSchema,
  role: z.enum(ROLES),
  skills: z.array(skillSchema),
  van: lineSchema(60).nullable(),
  password: passwordSchema,
})
export const personEditSchema = z.strictObject({
  version: versionSchema,
  name: lineSchema(120),
  role: z.enum(ROLES),
  skills: z.array(skillSchema),
  van: lineSchema(60).nullable(),
  active: z.boolean(),
})
export const passwordResetSchema = z.strictObject({ password: passwordSchema })
export const passwordChangeSchema = z.strictObject({ currentPassword: z.string().min(1).max(200), newPassword: passwordSchema })

export const signInsSchema = z.object({
  signIns: z.array(z.object({ id: z.string(), device: z.string(), since: instantSchema, lastSeen: instantSchema, current: z.boolean() })),
})
export const meSchema = z.object({
  person: personSchema,
  firm: firmSchema,
  rights: z.array(z.enum(RIGHTS)),
  today: z.string(),
  secondMissing: z.boolean(),
})
export type MeDto = z.infer<typeof meSchema>

/** What the sign-in page needs to know: who may sign in to a demo, and whether nobody is here yet and a firm is to be set up. */
export interface SignInHints {
  setUp?: boolean
  people: { name: string; email: string; role: string; password: string }[]
}
