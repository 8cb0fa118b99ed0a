import { z } from 'zod'

/** Closed list: a new code without a status does not compile. */
export const ERROR_CODES = {
  BAD_INPUT: { status: 400, retryable: false },
  NOT_SIGNED_IN: { status: 401, retryable: false },
  NO_RIGHT: { status: 403, retryable: false },
  NOT_FOUND: { status: 404, retryable: false },
  STALE_VERSION: { status: 409, retryable: false },
  CONFLICT: { status: 409, retryable: false },
  TOO_LARGE: { status: 413, retryable: false },
  CLIENT_TOO_OLD: { status: 426, retryable: false },
  SLOW_DOWN: { status: 429, retryable: true },
  INTERNAL: { status: 500, retryable: true },
  SERVER_TOO_OLD: { status: 409, retryable: true },
  TIMED_OUT: { status: 503, retryable: true },
  BUSY: { status: 503, retryable: true },
  DATABASE_AWAY: { status: 503, retryable: true },
} as const satisfies Record<string, { status: number; retryable: boolean }>

export type ErrorCode = keyof typeof ERROR_CODES

export const fieldProblemSchema = z.object({ path: z.string(), message: z.string() })
export type FieldProblem = z.infer<typeof fieldProblemSchema>

/** The one shape every refusal of the API has. */
export const errorSchema = z.object({
  error: z.object({
    code: z.enum(Object.keys(ERROR_CODES) as [ErrorCode, ...ErrorCode[]]),
    message: z.string(),
    retryable: z.boolean(),
    fields: z.array(fieldProblemSchema).optional(),
    /** With STALE_VERSION: what stands on the server now. */
    current: z.unknown().optional(),
  }),
})
export type ApiErrorBody = z.infer<typeof errorSchema>
