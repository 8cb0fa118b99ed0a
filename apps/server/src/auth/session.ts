import { createMiddleware } from 'hono/factory'
import { Person } from '../db/entities/master'
import type { Deps, Env, Who } from '../http/env'
import { ApiError } from '../http/errors'

const signedOut = (): ApiError => new ApiError('NOT_SIGNED_IN', 'Sign in first.')

/** From cookie to firm and person; the only place where a request gets its firm. */
export async function whoAsks(deps: Deps, headers: Headers): Promise<Who | null> {
  const found = await deps.auth.api.getSession({ headers }).catch(async (error: unknown) => {
    // The library hides why it failed; if the database is away, this says so.
    await deps.atTheDoor((manager) => manager.query('select 1'))
    throw error
  })
  if (!found) return null
  const { firmId } = found.session as unknown as { firmId: string }
  const person = await deps.inFirm(firmId, (scope) => scope.findOne(Person, { id: found.user.id }))
  if (!person?.active) return null
  return { firmId, personId: person.id, sessionId: found.session.id, name: person.name, role: person.role, skills: person.skills }
}

export const signedIn = (deps: Deps) =>
  createMiddleware<Env>(async (c, next) => {
    const who = await whoAsks(deps, c.req.raw.headers)
    if (!who) throw signedOut()
    c.set('who', who)
    await next()
  })
