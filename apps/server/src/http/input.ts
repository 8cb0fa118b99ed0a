import { problemsOf } from '@evenround/contract/problems'
import type { Context } from 'hono'
import type { z } from 'zod'
import type { Env } from './env'
import { ApiError, badInput } from './errors'
import { jsonText } from './front'

type Problem = ReturnType<typeof problemsOf>[number]

/** What a body says; null where it is no JSON. */
export async function readJson(c: Context<Env>): Promise<unknown> {
  try {
    return JSON.parse(await jsonText(c))
  } catch (error) {
    if (error instanceof ApiError) throw error
    return null
  }
}

/** The body of a request that stands before the documented routes; refused with every problem at its place, said as `say` has it. */
export async function readInput<S extends z.ZodType>(
  c: Context<Env>,
  schema: S,
  say: (problem: Problem) => Problem = (problem) => problem,
): Promise<z.output<S>> {
  const input = await readJson(c)
  const parsed = schema.safeParse(input)
  if (!parsed.success) throw badInput(problemsOf(parsed.error, input).map(say))
  return parsed.data
}
