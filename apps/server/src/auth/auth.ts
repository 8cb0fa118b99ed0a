import { createHmac } from 'node:crypto'
import { passkey } from '@better-auth/passkey'
import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import { verify } from '@node-rs/argon2'
import { betterAuth } from 'better-auth'
import { isAPIError } from 'better-auth/api'
import { twoFactor } from 'better-auth/plugins/two-factor'
import { parse } from 'hono/utils/cookie'
import type { InAuthScope } from '../db/scope'
import type { Auth } from '../http/env'
import { authAdapter } from './adapter'
import { hashing, hashOf } from './hashing'
import { knownDevices } from './known'
import { sameSecret } from './token'

const DAY_S = 86_400
/** A technician signs in about once a month on his own phone. Freshness is asked for by the password itself, where it matters. */
const SESSION = { expiresIn: 30 * DAY_S, updateAge: DAY_S, freshAge: 0 } as const
export const CLIENT_IP_HEADER = 'x-even-round-client-ip'

/** The token of a signed cookie, as the sign-in library writes it (`token.signature`, HMAC-SHA256); null where the signature is not ours. */
function tokenIn(signed: string, secret: string): string | null {
  const dot = signed.lastIndexOf('.')
  if (dot < 1) return null
  const token = signed.slice(0, dot)
  return sameSecret(signed.slice(dot + 1), createHmac('sha256', secret).update(token).digest('base64')) ? token : null
}

interface AuthOptions {
  inAuthScope: InAuthScope
  secret: string
  newId: () => string
  /** Cookies only over TLS; off on plain loopback. */
  secureCookies: boolean
  /** The server's own address as its people type it: passkeys belong to it. */
  publicUrl: string | null
}

/** E-mail and password, sessions in PostgreSQL, cookies HttpOnly and SameSite. People are made by an owner, never by themselves. */
export function createAuth({ inAuthScope, secret, newId, secureCookies, publicUrl }: AuthOptions): Auth {
  const { api, $context } = betterAuth({
    secret,
    basePath: '/api/auth',
    database: authAdapter(inAuthScope),
    telemetry: { enabled: false },
    logger: { disabled: true },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: SHORTEST_PASSWORD,
      maxPasswordLength: 200,
      password: { hash: hashOf, verify: ({ hash: stored, password }) => verify(stored, password) },
    },
    user: { modelName: 'auth_user', additionalFields: { firmId: { type: 'string', required: true, input: false } } },
    verification: { modelName: 'auth_verification' },
    plugins: [
      twoFactor({ issuer: 'Even Round', schema: { twoFactor: { modelName: 'auth_two_factor' } } }),
      passkey({
        rpName: 'Even Round',
        rpID: publicUrl === null ? 'localhost' : new URL(publicUrl).hostname,
        origin: publicUrl === null ? null : new URL(publicUrl).origin,
        schema: { passkey: { modelName: 'auth_passkey', fields: { credentialID: 'credentialId' } } },
      }),
    ],
    session: { ...SESSION, modelName: 'auth_session', additionalFields: { firmId: { type: 'string', required: true, input: false } } },
    account: { modelName: 'auth_account', additionalFields: { firmId: { type: 'string', required: true, input: false } } },
    // Slowed by failures of our own (see failures.ts): a count of requests would lock out a whole office behind one address.
    rateLimit: { enabled: false },
    databaseHooks: {
      session: {
        create: {
          before: async (session) => {
            const [row] = await inAuthScope<{ firm_id: string }[]>((manager) =>
              manager.query('select firm_id from auth_user where id = $1', [session.userId]),
            )
            return { data: { ...session, firmId: row?.firm_id } }
          },
        },
      },
    },
    advanced: {
      cookiePrefix: 'even-round',
      useSecureCookies: secureCookies,
      defaultCookieAttributes: { httpOnly: true, sameSite: 'lax' },
      ipAddress: { ipAddressHeaders: [CLIENT_IP_HEADER] },
      database: { generateId: () => newId() },
    },
  })
  // One person's devices wait for one another, not for everybody's.
  const ofSession = <T>(headers: Headers, work: () => Promise<T>): Promise<T> => hashing.run(headers.get('cookie') ?? '', work)
  return {
    known: knownDevices(secret, secureCookies),
    tokenOf: async (headers) => {
      const cookie = headers.get('cookie')
      if (cookie === null) return null
      const context = await $context
      const { name } = context.authCookies.sessionToken
      return tokenIn(parse(cookie, name)[name] ?? '', context.secret)
    },
    touch: async (headers) => {
      await api.getSession({ headers })
    },
    signIn: (body, headers) => hashing.run(body.email, () => api.signInEmail({ body, headers, asResponse: true })),
    signOut: (headers) => api.signOut({ headers, asResponse: true }),
    changePassword: (body, headers) => ofSession(headers, () => api.changePassword({ body, headers, asResponse: true })),
    second: {
      enter: (code, kind, headers) =>
        kind === 'app'
          ? api.verifyTOTP({ body: { code }, headers, asResponse: true })
          : api.verifyBackupCode({ body: { code }, headers, asResponse: true }),
      begin: (password, headers) => ofSession(headers, () => api.enableTwoFactor({ body: { password }, headers, asResponse: true })),
      confirm: (code, headers) => api.verifyTOTP({ body: { code }, headers, asResponse: true }),
      turnOff: (password, headers) => ofSession(headers, () => api.disableTwoFactor({ body: { password }, headers, asResponse: true })),
      newCodes: (password, headers) => ofSession(headers, () => api.generateBackupCodes({ body: { password }, headers, asResponse: true })),
      codesLeft: async (userId) => {
        try {
          return (await api.viewBackupCodes({ body: { userId } })).backupCodes.length
        } catch (error) {
          if (isAPIError(error)) return null
          throw error
        }
      },
      passkeyAsk: (headers) => api.generatePasskeyRegistrationOptions({ headers, query: {}, asResponse: true }),
      passkeyAdd: (name, response, headers) => api.verifyPasskeyRegistration({ body: { name, response }, headers, asResponse: true }),
      passkeySignInAsk: (headers) => api.generatePasskeyAuthenticationOptions({ headers, asResponse: true }),
      passkeySignIn: (response, headers) =>
        api.verifyPasskeyAuthentication({ body: { response: response as never }, headers, asResponse: true }),
      isPassword: async (password, headers) =>
        (await ofSession(headers, () => api.verifyPassword({ body: { password }, headers, asResponse: true }))).ok,
    },
  }
}
