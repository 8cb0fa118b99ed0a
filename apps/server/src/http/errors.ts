import { type ApiErrorBody, ERROR_CODES, type ErrorCode, type FieldProblem } from '@evenround/contract/errors'
import { say } from '@evenround/core/words'
import { type Thing, thingWord } from './things'

/** A refusal with a public message; anything else that is thrown becomes INTERNAL with its cause in the log only. */
export class ApiError extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly more: { fields?: FieldProblem[]; current?: unknown; retryAfterS?: number } = {},
  ) {
    super(message)
    this.name = 'ApiError'
  }

  get status(): (typeof ERROR_CODES)[ErrorCode]['status'] {
    return ERROR_CODES[this.code].status
  }

  body(): ApiErrorBody {
    const { fields, current } = this.more
    return {
      error: {
        code: this.code,
        message: this.message,
        retryable: ERROR_CODES[this.code].retryable,
        ...(fields ? { fields } : {}),
        ...(current === undefined ? {} : { current }),
      },
    }
  }
}

export const notFound = (what: Thing): ApiError => new ApiError('NOT_FOUND', say`There is no such ${thingWord(what)} here.`)

export function badInput(fields: FieldProblem[]): ApiError {
  const [first] = fields
  const message = first ? `${first.path}: ${first.message}` : say`The input has the wrong form.`
  return new ApiError('BAD_INPUT', message, { fields })
}
