import { emailSchema } from '@evenround/contract/firm'
import type { SignedInAnswer } from '@evenround/contract/second'
import { say } from '@evenround/core/words'
import type { Context } from 'hono'
import { z } from 'zod'
import type { Deps, Env } from '../http/env'
import { ApiError } from '../http/errors'
import { readInput } from '../http/input'
import { countTry, forgetTries } from './failures'

const signInSchema = z.object({ email: emailSchema, password: z.string().min(1).max(200) })

/** Signs in; slowed after repeated failures; says the same for a wrong e-mail and a wrong password. */
export async function signIn(c: Context<Env>, deps: Deps): Promise<Response> {
  const { email, password } = await readInput(c, signInSchema, (problem) =>
    problem.path === 'password' ? { ...problem, message: say`expected a password` } : problem,
  )
  const { headers } = c.req.raw
  const counted = deps.auth.known.countedAs(email, headers)
  await countTry(deps.inAuthScope, counted, deps.now(), say`tries for this e-mail`)
  const answer = await deps.auth.signIn({ email, password }, headers)
  if (answer.status === 401) throw new ApiError('NOT_SIGNED_IN', say`Incorrect e-mail or password.`)
  if (!answer.ok) throw new Error(`sign-in answered ${answer.status}`)
  await forgetTries(deps.inAuthScope, counted)
  return signedInBy(answer, deps.auth.known.cookieFor(email, headers))
}

export async function signOut(c: Context<Env>, deps: Deps): Promise<Response> {
  return withCookies(await deps.auth.signOut(c.req.raw.headers), { ok: true })
}

/** Signs in who has just been given this password. */
export async function signInWith(c: Context<Env>, deps: Deps, person: { email: string; password: string }): Promise<Response> {
  const answer = await deps.auth.signIn(person, c.req.raw.headers)
  if (!answer.ok) throw new Error(`the sign-in of a new password answered ${answer.status}`)
  // Whoever came in by a link is not kept out by what others guessed before.
  await forgetTries(deps.inAuthScope, person.email)
  return signedInBy(answer, deps.auth.known.cookieFor(person.email, c.req.raw.headers))
}

/** Said in short, with the cookies that the sign-in library sets. */
export function withCookies(answer: Response, said: unknown): Response {
  const headers = new Headers({ 'content-type': 'application/json' })
  for (const cookie of answer.headers.getSetCookie()) headers.append('set-cookie', cookie)
  return new Response(JSON.stringify(said), { status: 200, headers })
}

/** A password was right: whoever has an authenticator app is asked for its code before they are in. */
async function signedInBy(answer: Response, known: string): Promise<Response> {
  const { twoFactorRedirect = false } = (await answer.json()) as { twoFactorRedirect?: boolean }
  const response = withCookies(answer, { ok: true, second: twoFactorRedirect } satisfies SignedInAnswer)
  response.headers.append('set-cookie', known)
  return response
}
