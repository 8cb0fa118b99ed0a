import { createMiddleware } from 'hono/factory'
import { parseSigned } from 'hono/utils/cookie'
import type { Deps, Env, Who } from '../http/env'
import { ApiError } from '../http/errors'

const signedOut = (): ApiError => new ApiError('NOT_SIGNED_IN', 'Sign in first.')

/** A sign-in that was not used for a day is written down as used, and lasts on: the library does it where it is asked. */
const TOUCH_AFTER_MS = 86_400_000

/** The token of a sign-in's cookie; null where there is none, or its signature is not ours. */
async function tokenOf(deps: Deps, headers: Headers): Promise<string | null> {
  const cookie = headers.get('cookie')
  if (cookie === null) return null
  const { secret, authCookies } = await deps.auth.$context
  const { name } = authCookies.sessionToken
  const { [name]: token } = await parseSigned(cookie, secret, name)
  return token || null
}

/** From cookie to firm and person; the only place where a request gets its firm. */
export async function whoAsks(deps: Deps, headers: Headers): Promise<Who | null> {
  const token = await tokenOf(deps, headers)
  if (token === null) return null
  const now = deps.now()
  const found = await deps.atTheSession(token, now)
  if (found === null) return null
  const { lastSeen, ...who } = found
  if (now.getTime() - lastSeen.getTime() > TOUCH_AFTER_MS) await deps.auth.api.getSession({ headers })
  return who
}

export const signedIn = (deps: Deps) =>
  createMiddleware<Env>(async (c, next) => {
    const who = await whoAsks(deps, c.req.raw.headers)
    if (!who) throw signedOut()
    c.set('who', who)
    await next()
  })
