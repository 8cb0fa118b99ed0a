import type { StopDto } from '@evenround/contract/site'
import { type Action, actionsFor, stageOf } from '@evenround/core/train'
import { say, sayFor } from '@evenround/core/words'
import { stageName } from '../../parts/wear/words'
import { Choice } from '../../ui/choice'

const ACT: Record<Action, string> = { change: sayFor('work')`Change`, wash: say`Wash`, clean: say`Clean`, refill: say`Refill` }

/** What is done at each stage of the stop, where it is not as planned. */
export type Acts = Readonly<Record<string, Action>>

export const withActs = (stop: StopDto, acts: Acts): StopDto => ({
  ...stop,
  tasks: stop.tasks.map((task) => ({ ...task, action: acts[task.stageId] ?? task.action })),
})

/** Where a stage can be done in more ways than one: washed or changed, cleaned or changed, refilled or changed. */
export function ActHere({ stop, onChoose }: { stop: StopDto; onChoose: (stageId: string, action: Action) => void }) {
  return stop.tasks.map(({ stageId, action }) => {
    const node = stageOf(stop.system.train, stageId)
    const stage = stop.system.stages.find(({ id }) => id === stageId)
    const actions = node ? actionsFor(node) : []
    if (!stage || actions.length < 2) return null
    return (
      <Choice
        key={stageId}
        label={say`${stage.position} · ${stageName(stage)}: what is done today?`}
        value={action}
        options={actions.map((value) => ({ value, label: ACT[value] }))}
        onChange={(value) => onChoose(stageId, value)}
      />
    )
  })
}
