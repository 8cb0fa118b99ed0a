import { z } from 'zod'
import { idSchema, instantSchema, lineSchema } from './common'

/** A code of six digits from an authenticator app, or a recovery code. */
export const secondEnterSchema = z.strictObject({ code: z.string().trim().min(1).max(40), kind: z.enum(['app', 'recovery']) })
export const secondPasswordSchema = z.strictObject({ password: z.string().min(1).max(200) })
export const secondCodeSchema = z.strictObject({ code: z.string().trim().min(1).max(20) })

/** What a person has beside the password. */
export const secondSchema = z.object({
  /** An authenticator app is asked for at sign-in. */
  app: z.boolean(),
  /** Recovery codes that were not used yet; null without an app. */
  codesLeft: z.int().nullable(),
  passkeys: z.array(z.object({ id: idSchema, name: z.string(), since: instantSchema })),
  /** The firm asks its owners for one. */
  asked: z.boolean(),
})
export type SecondDto = z.infer<typeof secondSchema>
/** The secret for the app, as the address that apps read from a picture, and the codes: both are shown this once. */
export const secondBegunSchema = z.object({ address: z.string(), codes: z.array(z.string()) })
export type SecondBegun = z.infer<typeof secondBegunSchema>
export const codesSchema = z.object({ codes: z.array(z.string()) })

/** What the browser made of a challenge: it is the library's to judge. */
export const passkeyNewSchema = z.strictObject({ name: lineSchema(60), response: z.record(z.string(), z.unknown()) })
export const passkeySignInSchema = z.strictObject({ response: z.record(z.string(), z.unknown()) })

/** How a sign-in went on. */
export interface SignedInAnswer {
  ok: true
  /** A code is still asked for; nobody is in yet. */
  second: boolean
}
