import type { StageDto, StopDto, StopPageDto } from '@evenround/contract/site'
import type { StageDueDto } from '@evenround/contract/wear'
import { type Action, actionsFor, stageOf } from '@evenround/core/train'
import type { Cause } from '@evenround/core/wear'
import { midSentence, say } from '@evenround/core/words'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { dueWords, stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { Tick } from '../../ui/choice'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

export interface JudgedStage {
  stage: StageDto
  due: StageDueDto
  governing: Cause
}

/** The usual act on a stage; null where its train no longer has it. */
function taskFor(stop: StopDto, stageId: string): StopDto['tasks'][number] | null {
  const node = stageOf(stop.system.train, stageId)
  return node ? { stageId, action: actionsFor(node)[0] as Action } : null
}

/** The stop with what was added to its work before it began. */
export function withAdded(stop: StopDto, added: readonly string[]): StopDto {
  const more = added.flatMap((id) => (stop.tasks.some(({ stageId }) => stageId === id) ? [] : (taskFor(stop, id) ?? [])))
  const place = (stageId: string): number => stop.system.stages.findIndex(({ id }) => id === stageId)
  return { ...stop, tasks: [...stop.tasks, ...more].sort((a, b) => place(a.stageId) - place(b.stageId)) }
}

interface SpentHereProps {
  page: StopPageDto
  dues: readonly JudgedStage[]
  /** The visit has not begun: what is added begins with it. */
  mayAdd: boolean
  /** The work as it is now, where the visit has begun; and how a stage is taken into it. */
  work?: readonly string[] | undefined
  onTake?: ((stageId: string, action: Action) => void) | undefined
  added: readonly string[]
  onAdd: (stageIds: readonly string[]) => void
}

/** What is spent by all that is known with these readings and is not in today's work, with the offer to take it in. */
export function SpentHere({ page, dues, mayAdd, work, onTake, added, onAdd }: SpentHereProps) {
  const units = useUnits()
  const planned = new Set(work ?? page.stop.tasks.map(({ stageId }) => stageId))
  const spent = dues.filter(({ stage, due }) => due.state === 'spent' && !planned.has(stage.id))
  if (spent.length === 0) return null
  return (
    <Notice tone="look" title={spent.length === 1 ? say`Spent, and not in today’s work` : say`Spent, and not in today’s work yet`} live>
      {spent.map(({ stage, due, governing }) => (
        <View key={stage.id} className="gap-2">
          <T>{`${stage.position} ${stageName(stage)}: ${dueWords(due, governing, page.stop.day, units)}`}</T>
          {mayAdd ? (
            <Tick
              label={say`Add ${stage.position} ${midSentence(stageName(stage))} to today’s work`}
              {...(stage.nextPart ? { hint: say`Is ${stage.nextPart.partNumber} in the van?` } : {})}
              value={added.includes(stage.id)}
              onChange={(on) => onAdd(on ? [...added, stage.id] : added.filter((id) => id !== stage.id))}
            />
          ) : onTake ? (
            <Button
              label={say`Take ${stage.position} ${midSentence(stageName(stage))} into today’s work`}
              onPress={() => {
                const task = taskFor(page.stop, stage.id)
                if (task) onTake(stage.id, task.action)
              }}
            />
          ) : null}
        </View>
      ))}
    </Notice>
  )
}
