import { putBack } from './phases/back'
import { outlets, type Plan } from './plan'
import type { Sheet, SheetStep } from './types'
import { withoutClosing } from './work'

/** Steps of a stage's own: its body, its mark, its reminder, and a flush through its own freed line that serves no other. */
function isOf(id: string, key: string, alsoServes: boolean): boolean {
  const named = withoutClosing(key)
  return (
    named.startsWith(`change-${id}/`) ||
    named === `close-out/mark:${id}` ||
    named === `close-out/reset:${id}` ||
    (named.startsWith(`flush-${id}/`) && !alsoServes)
  )
}

/** Whether through the freed line of this stage others are run out that are not left. */
const servesOthers = (id: string, steps: readonly SheetStep[], skipped: ReadonlySet<string>): boolean =>
  steps.some(({ key, verb, at }) => {
    const named = withoutClosing(key)
    return (
      named.startsWith(`flush-${id}-with/`) || (named.startsWith(`flush-${id}/`) && verb === 'flush' && at.some((one) => !skipped.has(one)))
    )
  })

/**
 * A sheet without the steps of stages that were left out after the closing was made for them: its shutting and opening stay as they are;
 * what was opened of them is put back.
 */
export function withoutSkipped(plan: Plan, made: Sheet, skipped: ReadonlySet<string>, done: readonly string[]): Sheet {
  if (skipped.size === 0) return made
  const ticked = new Set(done)
  const visits = made.visits.map((visit) => {
    const serving = new Set([...skipped].filter((id) => servesOthers(id, visit.steps, skipped)))
    const steps = visit.steps.flatMap((step): SheetStep[] => {
      if (ticked.has(step.key)) return [step]
      // A tap that runs is closed whatever it was opened for.
      const closesTap = step.verb === 'close' && outlets(plan.train).some(({ id }) => id === step.at[0])
      if (!closesTap && [...skipped].some((id) => isOf(id, step.key, serving.has(id)))) return []
      if (step.verb !== 'flush') return [step]
      const at = step.at.filter((id) => !skipped.has(id))
      return at.length === 0 ? [] : at.length === step.at.length ? [step] : [{ ...step, at }]
    })
    const last = steps.findLastIndex(({ key }) => ticked.has(key))
    putBack(plan, steps, last)
    return { ...visit, steps }
  })
  return { ...made, visits }
}
