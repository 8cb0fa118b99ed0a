import { type Action, actionsFor, isBegun, isFitted, type SheetStep, stageOf, type Train } from '@evenround/core/train'
import { midSentence, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { changeWork, leaveRest, type VisitPlace } from '../../data/visit-acts'
import { ACTION_WORDS } from '../../parts/visit/action-words'
import { WhyLeft } from '../../parts/visit/why-left'
import { stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { useIntoView } from '../../ui/into-view'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

interface ChangeWorkProps {
  place: VisitPlace
  train: Train
  steps: readonly SheetStep[]
  /** Why a stage cannot be taken in, or left (no action); null where it can. */
  problemWith: (stageId: string, action: Action | null) => string | null
  onClose: () => void
}

/** All of it at once is left, not one stage. */
const ALL = 'all'
const DOING: Record<Action, string> = { change: say`changing`, wash: say`washing`, clean: say`cleaning`, refill: say`refilling` }
const capital = (text: string): string => text.replace(/^./, (first) => first.toUpperCase())

/** Stages taken into today's work or left for another day: the sheet goes on from where it stands. */
export function ChangeWork({ place, train, steps, problemWith, onClose }: ChangeWorkProps) {
  const { stop, state } = place
  const work = new Map((state.work ?? []).map(({ stage, action }) => [stage, action]))
  const [leaving, setLeaving] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const take = (stageId: string, action: Action): void => {
    const text = problemWith(stageId, action)
    setProblem(text)
    if (text === null) void changeWork(place, stageId, action, null).then(onClose)
  }
  const begun = (stageId: string): boolean => isBegun(steps, state.done.keys(), stageId)
  const leave = (stageId: string, why: string): void => {
    const text = problemWith(stageId, null)
    setProblem(text)
    if (text === null) void changeWork(place, stageId, null, why).then(onClose)
  }
  const open = [...work.keys()].filter((id) => !isFitted(steps, state.done.keys(), id)).length
  // It opens under a long card: what was asked for comes into view.
  const ref = useIntoView(1, 'nearest')
  return (
    <View ref={ref}>
      <Notice tone="look" title={say`Change today’s work`}>
        {stop.system.stages.map((stage) => {
          const node = stageOf(train, stage.id)
          const name = `${stage.position} ${midSentence(stageName(stage))}`
          if (!node) return null
          const acts = actionsFor(node)
          if (!work.has(stage.id)) {
            return (
              <View key={stage.id} className="gap-1">
                {acts.map((action) => (
                  <Button
                    key={action}
                    label={say`Add ${name}: ${ACTION_WORDS[action]}`}
                    size="big"
                    onPress={() => take(stage.id, action)}
                  />
                ))}
                {stage.nextPart && acts.includes('change') ? <T kind="small">{say`Is ${stage.nextPart.partNumber} in the van?`}</T> : null}
              </View>
            )
          }
          // An element that turns out torn is changed, a sleeve that will not come clean too: as long as nothing went back in.
          const fitted = steps.some(({ key, verb, at }) => verb === 'fit' && at[0] === stage.id && state.done.has(key))
          const otherwise = fitted ? [] : acts.filter((action) => action !== work.get(stage.id))
          return (
            <View key={stage.id} className="gap-1">
              {otherwise.map((action) => (
                <Button
                  key={action}
                  label={say`${capital(action)} ${name} instead of ${DOING[work.get(stage.id) as Action]} it`}
                  size="big"
                  onPress={() => take(stage.id, action)}
                />
              ))}
              {isFitted(steps, state.done.keys(), stage.id) ? (
                <T kind="quiet">{say`${name}: the new part is in, so it is finished`}</T>
              ) : leaving === stage.id ? (
                <Leave what={name} begun={begun(stage.id)} onLeave={(why) => leave(stage.id, why)} />
              ) : (
                <Button label={say`Leave ${name} for another day`} size="big" onPress={() => setLeaving(stage.id)} />
              )}
            </View>
          )
        })}
        {open > 1 ? (
          leaving === ALL ? (
            <Leave what={say`all that is not fitted`} begun onLeave={(why) => void leaveRest(place, steps, why).then(onClose)} />
          ) : (
            <Button label={say`Stop here: put everything back`} size="big" onPress={() => setLeaving(ALL)} />
          )
        ) : null}
        {problem ? (
          <T kind="strong" role="alert" className="text-oxblood">
            {problem}
          </T>
        ) : null}
        <Button label={say`Back to the sheet`} onPress={onClose} />
      </Notice>
    </View>
  )
}

function Leave({ what, begun, onLeave }: { what: string; begun: boolean; onLeave: (why: string) => void }) {
  return (
    <WhyLeft
      label={say`Why ${what} is left`}
      hint={begun ? say`The sheet then says how the old part goes back, and the water` : undefined}
      act={say`Leave ${what} for another day`}
      onLeave={onLeave}
    />
  )
}
