import { type Forgot, forgotSchema, type LinkFor, linkAskSchema, linkUseSchema } from '@evenround/contract/begin'
import { say } from '@evenround/core/words'
import type { Context } from 'hono'
import { countTry } from '../../auth/failures'
import { signInWith } from '../../auth/routes'
import type { Deps, Env } from '../../http/env'
import { readInput } from '../../http/input'
import { linkFor, mailLink, makeLink, useLink, whoseEmail } from './links'

/** Whom a link is for. */
export async function askLink(c: Context<Env>, deps: Deps): Promise<Response> {
  const { token } = await readInput(c, linkAskSchema)
  return c.json((await linkFor(deps, token, deps.now())) satisfies LinkFor)
}

/** A password by a link, and signed in with it. */
export async function takeLink(c: Context<Env>, deps: Deps): Promise<Response> {
  const { token, password } = await readInput(c, linkUseSchema)
  const email = await useLink(deps, token, password, deps.now(), deps.newId)
  return signInWith(c, deps, { email, password })
}

/** A link for a forgotten password goes out by mail; the answer does not say whether anybody has that e-mail. */
export async function forgot(c: Context<Env>, deps: Deps): Promise<Response> {
  const { email } = await readInput(c, forgotSchema)
  const said = { mail: deps.mailer !== null && deps.publicUrl !== null } satisfies Forgot
  if (!said.mail) return c.json(said)
  const who = `forgot:${email}`
  await countTry(deps.inAuthScope, who, deps.now(), say`tries for this e-mail`)
  const found = await whoseEmail(deps.inAuthScope, email)
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
