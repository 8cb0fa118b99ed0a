import { emailSchema } from '@evenround/contract/firm'
import { problemsOf } from '@evenround/contract/problems'
import type { Context } from 'hono'
import { z } from 'zod'
import type { Deps, Env } from '../http/env'
import { ApiError, badInput } from '../http/errors'
import { countFailure, forgetFailures, secondsLocked } from './failures'

const signInSchema = z.object({ email: emailSchema, password: z.string().min(1).max(200) })

/** Signs in; slowed after repeated failures; says the same for a wrong e-mail and a wrong password. */
export async function signIn(c: Context<Env>, deps: Deps): Promise<Response> {
  const input: unknown = await c.req.json().catch(() => null)
  const parsed = signInSchema.safeParse(input)
  if (!parsed.success)
    throw badInput(
      problemsOf(parsed.error, input).map((problem) =>
        problem.path === 'password' ? { ...problem, message: 'expected a password' } : problem,
      ),
    )
  const { email, password } = parsed.data
  const wait = await secondsLocked(deps.atTheDoor, email, deps.now())
  if (wait > 0) throw new ApiError('SLOW_DOWN', `Too many tries for this e-mail. Try again in ${wait} seconds.`, { retryAfterS: wait })
  const answer = await deps.auth.signIn({ email, password }, c.req.raw.headers)
  if (answer.status === 401) {
    await countFailure(deps.atTheDoor, email, deps.now())
    throw new ApiError('NOT_SIGNED_IN', 'E-mail and password do not go together.')
  }
  if (!answer.ok) throw new Error(`sign-in answered ${answer.status}`)
  await forgetFailures(deps.atTheDoor, email)
  return new Response(JSON.stringify({ ok: true }), { status: 200, headers: withCookies(answer) })
}

export async function signOut(c: Context<Env>, deps: Deps): Promise<Response> {
  const answer = await deps.auth.signOut(c.req.raw.headers)
  return new Response(JSON.stringify({ ok: true }), { status: 200, headers: withCookies(answer) })
}

export function withCookies(answer: Response): Headers {
  const headers = new Headers({ 'content-type': 'application/json' })
  for (const cookie of answer.headers.getSetCookie()) headers.append('set-cookie', cookie)
  return headers
}
