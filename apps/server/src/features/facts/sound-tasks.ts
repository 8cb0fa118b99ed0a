import { type Action, actionsFor, stagesInFlow, type Train } from '@evenround/core/train'
import { badInput } from '../../http/errors'

/** Refuses work on a stage that this train does not have, or that its stage cannot have done to it. */
export function soundTasks(train: Train, tasks: readonly { stageId: string; action: Action }[]): void {
  const stages = new Map(stagesInFlow(train).map((stage) => [stage.id, stage]))
  tasks.forEach(({ stageId, action }, index) => {
    const stage = stages.get(stageId)
    if (!stage) throw badInput([{ path: `tasks[${index}].stageId`, message: 'expected a stage of this system' }])
    const can = actionsFor(stage)
    if (!can.includes(action)) throw badInput([{ path: `tasks[${index}].action`, message: `expected ${can.join(' or ')}, got ${action}` }])
  })
}
