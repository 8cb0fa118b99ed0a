import { standingShut } from './isolation'
import { bypassRound } from './phases/soak'
import { type Due, dueStages, type Plan, planOn, soaks, tapsByUse } from './plan'
import type { SheetSchools, Task, Train } from './types'

/** Whether water goes on past these beds while they stand aside, filled: by a bypass round each, or by a line beside them. */
export function goesOn(plan: Plan, beds: readonly Due[]): boolean {
  const without = beds.flatMap(({ stage }) => (bypassRound(plan, stage) === null ? [stage] : []))
  return without.length === 0 || standingShut(plan, without)?.goesOn === true
}

/** Whether lines beside these beds carry the house while they are run. */
export const isBeside = (plan: Plan, beds: readonly Due[]): boolean =>
  beds.every(({ stage }) => bypassRound(plan, stage) === null) && goesOn(plan, beds)

/**
 * Which beds soak at once: all of them, but where lines side by side carry the house, and all at once would leave it without water for days,
 * one line after the other, each a soak later.
 */
export function soakTurns(plan: Plan, beds: readonly Due[]): (readonly Due[])[] {
  if (beds.length === 0) return []
  if (goesOn(plan, beds) || beds.some((bed) => !goesOn(plan, [bed]))) return [beds]
  const turns: Due[][] = []
  for (const bed of beds) {
    const beside = turns.find((turn) => goesOn(plan, [...turn, bed]))
    if (beside) beside.push(bed)
    else turns.push([bed])
  }
  return turns
}

/** How the firm closes and flushes has no say in which beds soak together. */
const ANY_SCHOOL: SheetSchools = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }

/** The beds of these tasks that are filled and soak at the first visit, at the second, and so on, as the sheet has them; ids of stages. */
export function bedsByVisit(train: Train, tasks: readonly Task[]): string[][] {
  const due = dueStages(train, tasks)
  const plan = planOn(train, ANY_SCHOOL, { due, tap: tapsByUse(train)[0]?.id ?? '' })
  return soakTurns(plan, due.filter(soaks)).map((turn) => turn.map(({ stage }) => stage.id))
}
