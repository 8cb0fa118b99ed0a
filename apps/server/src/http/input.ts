import { problemsOf } from '@evenround/contract/problems'
import type { Context } from 'hono'
import type { z } from 'zod'
import type { Env } from './env'
import { badInput } from './errors'

type Problem = ReturnType<typeof problemsOf>[number]

/** The body of a request that stands before the documented routes; refused with every problem at its place, said as `say` has it. */
export async function readInput<S extends z.ZodType>(
  c: Context<Env>,
  schema: S,
  say: (problem: Problem) => Problem = (problem) => problem,
): Promise<z.output<S>> {
  const input: unknown = await c.req.json().catch(() => null)
  const parsed = schema.safeParse(input)
  if (!parsed.success) throw badInput(problemsOf(parsed.error, input).map(say))
  return parsed.data
}
