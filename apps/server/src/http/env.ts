import type { MapFeature } from '@evenround/contract/geo'
import type { IntakeAsk, IntakePreview } from '@evenround/contract/intake'
import { problemsOf } from '@evenround/contract/problems'
import type { YearWork, YearWorked } from '@evenround/contract/year-page'
import type { Right, Role } from '@evenround/core/firm'
import { hasRight, RIGHTS } from '@evenround/core/firm'
import type { Hindsight, HindsightAsk } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import type { AskFirm, InAuthScope, InDeviceScope, InFeedScope, InFirm, InSessionScope, Revision } from '../db/scope'
import type { BroughtIn } from '../firm-file/read'
import type { Log } from '../log'
import type { Mailer } from '../mail/mailer'
import { ApiError, badInput } from './errors'
import type { Limit } from './limits'
import type { Tell } from './live'

/** Who asks, as the session says; the firm comes from here and never from the request. */
export interface Who {
  firmId: string
  personId: string
  sessionId: string
  name: string
  role: Role
  skills: readonly string[]
  /** The firm asks owners for a second factor, and this one has none yet. */
  secondMissing: boolean
}

/** Signing in and out, as a request asks for it; `auth/` does it. Answers carry the cookies to set. */
export interface Auth {
  /** Devices somebody was signed in on before. */
  known: {
    /** Under what tries for this e-mail are counted. */
    countedAs: (email: string, headers: Headers) => string
    cookieFor: (email: string, headers: Headers) => string
  }
  /** The token of the sign-in that these headers carry; null where there is none, or its signature is not ours. */
  tokenOf: (headers: Headers) => Promise<string | null>
  /** Writes down that a sign-in is used, and lets it last on. */
  touch: (headers: Headers) => Promise<void>
  signIn: (person: { email: string; password: string }, headers: Headers) => Promise<Response>
  signOut: (headers: Headers) => Promise<Response>
  changePassword: (passwords: { currentPassword: string; newPassword: string }, headers: Headers) => Promise<Response>
  second: SecondFactor
}

/** Authenticator apps, recovery codes and passkeys; `auth/` does it. Answers carry the cookies to set. */
export interface SecondFactor {
  /** The code that a sign-in with a password still waits for. */
  enter: (code: string, kind: 'app' | 'recovery', headers: Headers) => Promise<Response>
  /** A new secret, not in force until it is confirmed; answers with `totpURI` and `backupCodes`. */
  begin: (password: string, headers: Headers) => Promise<Response>
  confirm: (code: string, headers: Headers) => Promise<Response>
  turnOff: (password: string, headers: Headers) => Promise<Response>
  newCodes: (password: string, headers: Headers) => Promise<Response>
  /** How many recovery codes are left; null without an authenticator app. */
  codesLeft: (personId: string) => Promise<number | null>
  passkeyAsk: (headers: Headers) => Promise<Response>
  passkeyAdd: (name: string, response: unknown, headers: Headers) => Promise<Response>
  passkeySignInAsk: (headers: Headers) => Promise<Response>
  passkeySignIn: (response: Record<string, unknown>, headers: Headers) => Promise<Response>
  /** Whether this is the password of whoever is signed in. */
  isPassword: (password: string, headers: Headers) => Promise<boolean>
}

/** What a feature works with; time and ids are given, so that tests can hold them. */
export interface Deps {
  inFirm: InFirm
  /** One statement of a firm's in one round trip. */
  askFirm: AskFirm
  /** The same over connections of their own, for whoever is not signed in: strangers never keep people from theirs. */
  inFirmAtDoor: InFirm
  inAuthScope: InAuthScope
  inSessionScope: InSessionScope
  inDeviceScope: InDeviceScope
  inFeedScope: InFeedScope
  auth: Auth
  now: () => Date
  newId: () => string
  log: Log
  /** Counts what may be asked only so often. */
  limit: Limit
  /** Whom to count where nobody is signed in. */
  addressOf: (c: Context<Env>) => string
  /** The demo, in a firm of its own beside the others. */
  demo: {
    firmId: string
    people: { name: string; email: string; role: string; password: string }[]
    load: () => Promise<void>
    throwAway: () => Promise<void>
  }
  /** Where mail goes out; null where none is set up. */
  mailer: Mailer | null
  /** The server's own address as its people type it; null where nobody said it: then no link is mailed. */
  publicUrl: string | null
  /** A named function of the core, from JSON text to JSON text. */
  calc: (name: string, text: string) => Promise<string>
  /** A year's plan, made in a thread of its own; null where what is asked cannot be moved so. */
  workYear: (ask: YearWork) => Promise<YearWorked | null>
  /** What rules would have meant, worked out in a thread of its own. */
  inHindsight: (ask: HindsightAsk) => Promise<Hindsight>
  /** Coasts and borders round some places, read in a thread of its own. */
  outlines: (places: readonly { lat: number; lon: number }[]) => Promise<MapFeature[]>
  /** Tells whoever of the firm listens that something changed. */
  tell: Tell
  /** Asks for the firm's stale forecasts to be recomputed soon. */
  refreshSoon: (firmId: string) => Promise<void>
  /** Has a run of the round worked on soon. */
  planSoon: (firmId: string, runId: string) => Promise<void>
  /** Has the firm's whole file made soon. */
  makeFileSoon: (firmId: string, fileId: string) => Promise<void>
  /** Looks a list through before it is brought in, in a thread of its own. */
  previewList: (firmId: string, ask: IntakeAsk) => Promise<IntakePreview>
  /** Has a list that waits brought in soon. */
  bringInSoon: (firmId: string, intakeId: string) => Promise<void>
  /** Brings a firm's file, which lies at a path, into this installation. */
  bringFirmIn: (path: string) => Promise<BroughtIn>
  /** Hosts of routing servers that firms may name. */
  roadHosts: readonly string[]
  /** Has a firm's routing server asked soon about what it has not said yet. */
  roadsSoon: (firmId: string) => Promise<void>
}

/** What routes work with that threads of their own answer: each reads all of a firm, or makes a whole plan. */
export type ApartDeps = Pick<Deps, 'inFirm' | 'now' | 'newId' | 'workYear' | 'inHindsight'>

export interface Env {
  Variables: {
    who: Who
    /** Of the firm's records, read before anything else of the request: what is read later is at least as new. */
    revision: Revision
    requestId: string
  }
}

/** A router whose input is refused with every problem at its place. */
export const router = (): OpenAPIHono<Env> =>
  new OpenAPIHono<Env>({
    defaultHook: (result) => {
      // On failure the validator hands the raw value on, so that a message can show what was there.
      if (!result.success) throw badInput(problemsOf(result.error, Reflect.get(result, 'data')))
    },
  })

/** What only an owner may: it waits for the second factor the firm asks of owners. */
const OWNERS_ACTS: readonly Right[] = RIGHTS.filter((right) => !hasRight('planner', right))

export function need(who: Who, right: Right): void {
  if (who.secondMissing && OWNERS_ACTS.includes(right))
    throw new ApiError(
      'NO_RIGHT',
      say`Your firm asks its owners for a second factor. Set yours up under your own settings; then this opens.`,
    )
  if (!hasRight(who.role, right))
    throw new ApiError('NO_RIGHT', say`This needs the right to ${right.replaceAll('-', ' ')}; ask the owner of the firm.`)
}
