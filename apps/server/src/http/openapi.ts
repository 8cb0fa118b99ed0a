import { errorSchema } from '@evenround/contract/errors'
import type { z } from 'zod'

const problem = (description: string) => ({ description, content: { 'application/json': { schema: errorSchema } } })

/** Every route can answer with these. */
export const PROBLEMS = {
  400: problem('Bad input: each problem with its place'),
  401: problem('Not signed in'),
  403: problem('The right is missing'),
  404: problem('Nothing of this id here'),
  503: problem('The database is away for the moment'),
} as const

export const json = <S extends z.ZodType>(schema: S, description = 'Done') => ({ description, content: { 'application/json': { schema } } })
export const body = <S extends z.ZodType>(schema: S) => ({ body: { content: { 'application/json': { schema } }, required: true } })
