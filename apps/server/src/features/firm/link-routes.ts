import { type Forgot, forgotSchema, type LinkFor, linkAskSchema, linkUseSchema } from '@evenround/contract/begin'
import { problemsOf } from '@evenround/contract/problems'
import type { Context } from 'hono'
import type { z } from 'zod'
import { countFailure, secondsLocked } from '../../auth/failures'
import { withCookies } from '../../auth/routes'
import type { Deps, Env } from '../../http/env'
import { ApiError, badInput } from '../../http/errors'
import { linkFor, mailLink, makeLink, useLink, whoseEmail } from './links'

async function read<S extends z.ZodType>(c: Context<Env>, schema: S): Promise<z.output<S>> {
  const input: unknown = await c.req.json().catch(() => null)
  const parsed = schema.safeParse(input)
  if (!parsed.success) throw badInput(problemsOf(parsed.error, input))
  return parsed.data
}

/** Whom a link is for. */
export async function askLink(c: Context<Env>, deps: Deps): Promise<Response> {
  const { token } = await read(c, linkAskSchema)
  return c.json((await linkFor(deps, token, deps.now())) satisfies LinkFor)
}

/** A password by a link, and signed in with it. */
export async function takeLink(c: Context<Env>, deps: Deps): Promise<Response> {
  const { token, password } = await read(c, linkUseSchema)
  const email = await useLink(deps, token, password, deps.now(), deps.newId)
  const answer = await deps.auth.signIn({ email, password }, c.req.raw.headers)
  if (!answer.ok) throw new Error(`the sign-in after a link answered ${answer.status}`)
  return new Response(JSON.stringify({ ok: true }), { status: 200, headers: withCookies(answer) })
}

/** A link for a forgotten password goes out by mail; the answer does not say whether anybody has that e-mail. */
export async function forgot(c: Context<Env>, deps: Deps): Promise<Response> {
  const { email } = await read(c, forgotSchema)
  const said = { mail: deps.mailer !== null && deps.publicUrl !== null } satisfies Forgot
  if (!said.mail) return c.json(said)
  const who = `forgot:${email}`
  const wait = await secondsLocked(deps.atTheDoor, who, deps.now())
  if (wait > 0) throw new ApiError('SLOW_DOWN', `Too many tries for this e-mail. Try again in ${wait} seconds.`, { retryAfterS: wait })
  await countFailure(deps.atTheDoor, who, deps.now())
  const found = await whoseEmail(deps.atTheDoor, email)
  if (found) {
    // Not waited for: how long a letter takes would tell whether there is one.
    void deps
      .inFirm(found.firmId, async (scope) => {
        const link = await makeLink(scope, { kind: 'reset', personId: found.personId, madeBy: null, now: deps.now(), newId: deps.newId })
        await mailLink(scope, link, deps)
      })
      .catch((error: unknown) => deps.log('warn', 'reset-not-sent', { cause: String(error) }))
  }
  return c.json(said)
}
