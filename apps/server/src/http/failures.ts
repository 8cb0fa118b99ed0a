import { ERROR_CODES } from '@evenround/contract/errors'
import { say } from '@evenround/core/words'
import type { Context } from 'hono'
import { HTTPException } from 'hono/http-exception'
import { breach, cannotHold, databaseAway, gaveWay, TooManyWaiting } from '../db/errors'
import type { Log } from '../log'
import type { Env } from './env'
import { ApiError } from './errors'

/** Turns anything thrown into the one error; causes stay in the log and never reach a client. */
export function asApiError(error: unknown): ApiError {
  if (error instanceof ApiError) return error
  if (error instanceof TooManyWaiting || gaveWay(error))
    return new ApiError('BUSY', say`The server has too much to do at the moment. Try again in a few seconds.`, { retryAfterS: 1 })
  if (databaseAway(error)) {
    return new ApiError(
      'DATABASE_AWAY',
      say`The records cannot be reached for the moment. What you did stays on this device and is sent later.`,
    )
  }
  const breached = breach(error)
  if (breached === 'unique') return new ApiError('CONFLICT', say`There is one of that name or id already.`)
  if (breached === 'reference') return new ApiError('CONFLICT', say`Something it refers to is not there, or is still referred to.`)
  if (cannotHold(error))
    return new ApiError('BAD_INPUT', say`Something in the request cannot be stored: a control character, or a date or number out of range.`)
  if (error instanceof HTTPException && error.status === 400)
    return new ApiError('BAD_INPUT', say`The request is not readable JSON.`, { fields: [{ path: '$', message: say`expected JSON` }] })
  if (error instanceof HTTPException && error.status === 413)
    return new ApiError('TOO_LARGE', say`That is more than fits into one request.`)
  return new ApiError('INTERNAL', say`Something went wrong on the server. Nothing was changed by this request; try again.`)
}

/** Answers whatever was thrown; what nobody foresaw is written to the log with its cause. */
export const answerFailure =
  (log: Log) =>
  (error: Error, c: Context<Env>): Response => {
    const known = asApiError(error)
    if (known.code === 'INTERNAL' || known.code === 'DATABASE_AWAY')
      log('error', 'failed', { requestId: c.get('requestId'), code: known.code, cause: error.stack ?? error.message })
    if (known.more.retryAfterS !== undefined) c.header('retry-after', String(known.more.retryAfterS))
    return c.json(known.body(), ERROR_CODES[known.code].status)
  }
