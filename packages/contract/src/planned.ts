import { say } from '@evenround/core/words'
import { z } from 'zod'

/** Says what is wrong with an input, and where. */
export type Refuse = (path: (string | number)[], message: string) => void

export const refusing =
  (context: z.RefinementCtx): Refuse =>
  (path, message) =>
    context.addIssue({ code: 'custom', path, message })

/** How long, or how far, a search for a plan may go. */
export const searchLimits = { seconds: z.number().gt(0).optional(), iterations: z.int().min(0).optional() }

/** One of the two is given. */
export function endsSometime(
  { seconds, iterations }: { seconds?: number | undefined; iterations?: number | undefined },
  refuse: Refuse,
): void {
  if (seconds === undefined && iterations === undefined)
    refuse(['seconds'], say`expected seconds, or iterations in their stead, got neither`)
}

/** The ids of a list of the input, each of which stands there once. */
export function unique(all: readonly { id: string }[], what: string, refuse: Refuse): Set<string> {
  const ids = new Set<string>()
  all.forEach(({ id: one }, index) => {
    if (ids.has(one)) refuse([what, index, 'id'], say`expected each id once, got ${one} twice`)
    ids.add(one)
  })
  return ids
}
