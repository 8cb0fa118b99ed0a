import { say } from '@evenround/core/words'
import { createMiddleware } from 'hono/factory'
import type { Revision } from '../db/scope'
import type { Deps, Env, Who } from '../http/env'
import { ApiError } from '../http/errors'

const signedOut = (): ApiError => new ApiError('NOT_SIGNED_IN', say`Sign in first.`)

/** A sign-in that was not used for a day is written down as used, and lasts on: the library does it where it is asked. */
const TOUCH_AFTER_MS = 86_400_000

/** From cookie to firm and person; the only place where a request gets its firm. */
async function whoAsks(deps: Deps, headers: Headers): Promise<{ who: Who; revision: Revision } | null> {
  const token = await deps.auth.tokenOf(headers)
  if (token === null) return null
  const now = deps.now()
  const found = await deps.inSessionScope(token, now)
  if (found === null) return null
  const { lastSeen, revision, ...who } = found
  if (now.getTime() - lastSeen.getTime() > TOUCH_AFTER_MS) await deps.auth.touch(headers)
  return { who, revision }
}

export const signedIn = (deps: Deps) =>
  createMiddleware<Env>(async (c, next) => {
    const found = await whoAsks(deps, c.req.raw.headers)
    if (!found) throw signedOut()
    c.set('who', found.who)
    c.set('revision', found.revision)
    await next()
  })
