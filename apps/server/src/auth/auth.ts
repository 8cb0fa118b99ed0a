import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import { hash, verify } from '@node-rs/argon2'
import { betterAuth } from 'better-auth'
import { parseSigned } from 'hono/utils/cookie'
import type { AtTheDoor } from '../db/scope'
import type { Auth } from '../http/env'
import { authAdapter } from './adapter'

/** Argon2id with the library's defaults of the current OWASP advice: 19 MiB, two passes, one lane. */
const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const
export const hashPassword = (password: string): Promise<string> => hash(password, ARGON)

const DAY_S = 86_400
/** A technician signs in about once a month on his own phone. */
const SESSION = { expiresIn: 30 * DAY_S, updateAge: DAY_S } as const
export const CLIENT_IP_HEADER = 'x-even-round-client-ip'

interface AuthOptions {
  atTheDoor: AtTheDoor
  secret: string
  newId: () => string
  /** Cookies only over TLS; off on plain loopback. */
  secureCookies: boolean
}

/** E-mail and password, sessions in PostgreSQL, cookies HttpOnly and SameSite. People are made by an owner, never by themselves. */
export function createAuth({ atTheDoor, secret, newId, secureCookies }: AuthOptions): Auth {
  const { api, $context } = betterAuth({
    secret,
    basePath: '/api/auth',
    database: authAdapter(atTheDoor),
    telemetry: { enabled: false },
    logger: { disabled: true },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: SHORTEST_PASSWORD,
      maxPasswordLength: 200,
      password: { hash: hashPassword, verify: ({ hash: stored, password }) => verify(stored, password) },
    },
    user: { modelName: 'auth_user', additionalFields: { firmId: { type: 'string', required: true, input: false } } },
    session: { ...SESSION, modelName: 'auth_session', additionalFields: { firmId: { type: 'string', required: true, input: false } } },
    account: { modelName: 'auth_account', additionalFields: { firmId: { type: 'string', required: true, input: false } } },
    // Slowed by failures of our own (see failures.ts): a count of requests would lock out a whole office behind one address.
    rateLimit: { enabled: false },
    databaseHooks: {
      session: {
        create: {
          before: async (session) => {
            const [row] = await atTheDoor<{ firm_id: string }[]>((manager) =>
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
  return {
    tokenOf: async (headers) => {
      const cookie = headers.get('cookie')
      if (cookie === null) return null
      const context = await $context
      const { name } = context.authCookies.sessionToken
      const { [name]: token } = await parseSigned(cookie, context.secret, name)
      return token || null
    },
    touch: async (headers) => {
      await api.getSession({ headers })
    },
    signIn: (body, headers) => api.signInEmail({ body, headers, asResponse: true }),
    signOut: (headers) => api.signOut({ headers, asResponse: true }),
    changePassword: (body, headers) => api.changePassword({ body, headers, asResponse: true }),
  }
}
