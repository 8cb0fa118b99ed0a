import { passkeySignInSchema, secondEnterSchema } from '@evenround/contract/second'
import { say } from '@evenround/core/words'
import type { Context } from 'hono'
import type { Deps, Env } from '../http/env'
import { ApiError } from '../http/errors'
import { readInput } from '../http/input'
import { withCookies } from './routes'

const AGAIN = () => say`That took too long, or too many codes were tried. Sign in again with your password.`

/** Why a code was not taken, in words; what else the library answers is an error of ours. */
export async function refuseCode(answer: Response): Promise<never> {
  if (answer.status === 429)
    throw new ApiError('SLOW_DOWN', say`Too many wrong codes for this person. Wait a quarter of an hour, or use a recovery code then.`)
  const { code } = (await answer.json().catch(() => ({}))) as { code?: string }
  if (code === 'INVALID_CODE' || code === 'INVALID_BACKUP_CODE')
    throw new ApiError('BAD_INPUT', say`This code does not fit. Codes of an app change every half minute; each recovery code opens once.`, {
      fields: [{ path: 'code', message: say`does not fit` }],
    })
  if (answer.status === 401 || answer.status === 400) throw new ApiError('NOT_SIGNED_IN', AGAIN())
  throw new Error(`the second factor answered ${answer.status}`)
}

/** The code that a sign-in with a password waits for. */
export async function enterSecond(c: Context<Env>, deps: Deps): Promise<Response> {
  const { code, kind } = await readInput(c, secondEnterSchema)
  const answer = await deps.auth.second.enter(kind === 'app' ? code.replaceAll(' ', '') : code, kind, c.req.raw.headers)
  return answer.ok ? withCookies(answer, { ok: true, second: false }) : refuseCode(answer)
}

/** A challenge for a passkey; whose it is the passkey itself says. */
export async function askPasskey(c: Context<Env>, deps: Deps): Promise<Response> {
  const answer = await deps.auth.second.passkeySignInAsk(c.req.raw.headers)
  if (!answer.ok) throw new Error(`a passkey's challenge answered ${answer.status}`)
  return withCookies(answer, await answer.json())
}

export async function enterPasskey(c: Context<Env>, deps: Deps): Promise<Response> {
  const { response } = await readInput(c, passkeySignInSchema)
  const answer = await deps.auth.second.passkeySignIn(response, c.req.raw.headers)
  if (answer.ok) return withCookies(answer, { ok: true, second: false })
  throw new ApiError('NOT_SIGNED_IN', say`This passkey opens nothing here. Sign in with your password.`)
}
