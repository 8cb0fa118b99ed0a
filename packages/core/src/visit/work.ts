import type { Action } from '../train/types'
import type { VisitBegun, WorkChanged } from './types'

export type Work = VisitBegun['tasks']

/** The work of a visit as it is now: what it began with, with the stages that were taken in and without those that were left; oldest first. */
export function workOf(tasks: Work, changes: readonly Pick<WorkChanged, 'stageId' | 'action'>[]): Work {
  const work = new Map<string, Action>(tasks.map(({ stage, action }) => [stage, action]))
  for (const { stageId, action } of changes) {
    if (action === null) work.delete(stageId)
    else work.set(stageId, action)
  }
  return [...work].map(([stage, action]) => ({ stage, action }))
}
