import { type Action, actionsFor, isBegun, type SheetStep, stageOf, type Train } from '@evenround/core/train'
import { useState } from 'react'
import { View } from 'react-native'
import { changeWork, type VisitPlace } from '../../data/visit-acts'
import { stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

interface ChangeWorkProps {
  place: VisitPlace
  train: Train
  steps: readonly SheetStep[]
  /** Why a stage cannot be taken in; null where it can. */
  problemWith: (stageId: string, action: Action) => string | null
  onClose: () => void
}

const DOING: Record<Action, string> = { change: 'changing', wash: 'washing', clean: 'cleaning', refill: 'refilling' }
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
  return (
    <Notice tone="look" title="Change today’s work">
      {stop.system.stages.map((stage) => {
        const node = stageOf(train, stage.id)
        const name = `${stage.position} ${stageName(stage).toLowerCase()}`
        if (!node) return null
        const acts = actionsFor(node)
        if (!work.has(stage.id)) {
          return (
            <View key={stage.id} className="gap-1">
              {acts.map((action) => (
                <Button key={action} label={`Take in ${name}: ${action}`} size="big" onPress={() => take(stage.id, action)} />
              ))}
              {stage.nextPart && acts.includes('change') ? <T kind="small">{`Is ${stage.nextPart.partNumber} in the van?`}</T> : null}
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
                label={`${capital(action)} ${name} instead of ${DOING[work.get(stage.id) as Action]} it`}
                size="big"
                onPress={() => take(stage.id, action)}
              />
            ))}
            {isBegun(steps, state.done.keys(), stage.id) ? (
              <T kind="quiet">{`${name}: begun, so it is finished`}</T>
            ) : work.size === 1 ? (
              <T kind="quiet">{`${name}: all there is today. To stop, end the visit.`}</T>
            ) : leaving === stage.id ? (
              <Leave name={name} onLeave={(why) => void changeWork(place, stage.id, null, why).then(onClose)} />
            ) : (
              <Button label={`Leave ${name} for another day`} size="big" onPress={() => setLeaving(stage.id)} />
            )}
          </View>
        )
      })}
      {problem ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <Button label="Back to the sheet" onPress={onClose} />
    </Notice>
  )
}

function Leave({ name, onLeave }: { name: string; onLeave: (why: string) => void }) {
  const [why, setWhy] = useState('')
  const [asked, setAsked] = useState(false)
  return (
    <View className="gap-2">
      <Field
        label={`Why ${name} is left`}
        value={why}
        onChangeText={setWhy}
        maxLength={300}
        error={asked && why.trim() === '' ? 'Say why: the next one reads it' : undefined}
      />
      <Button
        label={`Leave ${name} for another day`}
        kind="act"
        onPress={() => (why.trim() === '' ? setAsked(true) : onLeave(why.trim()))}
      />
    </View>
  )
}
