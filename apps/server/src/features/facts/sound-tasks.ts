import { type Action, actionsFor, stagesInFlow, type Train } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { badInput } from '../../http/errors'

/** Refuses work on a stage that this train does not have, or that its stage cannot have done to it. */
export function soundTasks(train: Train, tasks: readonly { stageId: string; action: Action }[]): void {
  const stages = new Map(stagesInFlow(train).map((stage) => [stage.id, stage]))
  tasks.forEach(({ stageId, action }, index) => {
    const stage = stages.get(stageId)
    if (!stage) throw badInput([{ path: `tasks[${index}].stageId`, message: say`expected a stage of this system` }])
    const can = actionsFor(stage)
    if (!can.includes(action))
      throw badInput([{ path: `tasks[${index}].action`, message: say`expected ${can.join(' or ')}, got ${action}` }])
  })
}
