import type { SheetStep, Surprise, SurpriseId } from '@evenround/core/train'
import { caution, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { useIntoView } from '../../ui/into-view'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

interface CannotProps {
  surprises: readonly Surprise[]
  /** What people call a body, by its stage. */
  nameOf: (stage: string) => string
  onSurprise: (id: SurpriseId, stageId: string | null) => void
  onSkip: (why: string) => void
  onStop: () => void
  onClose: () => void
}

interface CannotAtProps {
  steps: readonly SheetStep[]
  surprises: (step: SheetStep) => readonly Surprise[]
  nameOf: (stage: string) => string
  onSurprise: (step: SheetStep, id: SurpriseId, stageId: string | null) => void
  onSkip: (step: SheetStep, why: string) => void
  onStop: () => void
  onClose: () => void
}

/** Of several steps ticked at once: first which of them cannot be done. */
export function CannotAt(props: CannotAtProps) {
  // It opens under a long card: what was asked for comes into view.
  const ref = useIntoView(1, 'nearest')
  return (
    <View ref={ref}>
      <Which {...props} />
    </View>
  )
}

function Which({ steps, surprises, onSurprise, onSkip, ...rest }: CannotAtProps) {
  const [key, setKey] = useState<string | null>(null)
  const step = steps.length === 1 ? steps[0] : steps.find((one) => one.key === key)
  if (!step)
    return (
      <Notice tone="look" title={say`Which step cannot be done?`}>
        {steps.map((one) => (
          <Button key={one.key} label={one.text} size="big" onPress={() => setKey(one.key)} />
        ))}
        <Button label={say`Back to the block`} onPress={rest.onClose} />
      </Notice>
    )
  return (
    <Cannot
      {...rest}
      surprises={surprises(step)}
      onSurprise={(id, stageId) => onSurprise(step, id, stageId)}
      onSkip={(why) => onSkip(step, why)}
    />
  )
}

/** When a step cannot be done as it stands: what turned out otherwise, with advice; or leave it out; or stop here. */
function Cannot({ surprises, nameOf, onSurprise, onSkip, onStop, onClose }: CannotProps) {
  const [met, setMet] = useState<Surprise | null>(null)
  if (met) return <Advice surprise={met} nameOf={nameOf} onGoOn={onSurprise} onClose={() => setMet(null)} />
  return (
    <Notice tone="look" title={say`What is in the way?`}>
      {surprises.map((surprise) => (
        <Button key={surprise.id} label={surprise.label} size="big" onPress={() => setMet(surprise)} />
      ))}
      <LeaveOut onSkip={onSkip} onStop={onStop} onClose={onClose} />
    </Notice>
  )
}

/** Likeliest cause first; then the sheet goes on by another way. */
function Advice({
  surprise,
  nameOf,
  onGoOn,
  onClose,
}: {
  surprise: Surprise
  nameOf: CannotProps['nameOf']
  onGoOn: CannotProps['onSurprise']
  onClose: () => void
}) {
  const { stages } = surprise
  const [which, setWhich] = useState<string | null>(stages.length === 1 ? (stages[0] as string) : null)
  const ready = stages.length === 0 || which !== null
  return (
    <Notice tone="look" title={surprise.label}>
      <View role="list" className="gap-2">
        {surprise.advice.map((line, index) => (
          <View key={line} role="listitem" className="flex-row gap-2">
            <T kind="strong">{`${index + 1}.`}</T>
            <T className="flex-1">{line}</T>
          </View>
        ))}
      </View>
      {stages.length > 1 ? (
        <Choice
          label={say`Which one?`}
          value={which}
          options={stages.map((value) => ({ value, label: nameOf(value) }))}
          onChange={setWhich}
        />
      ) : null}
      <View className="flex-row flex-wrap gap-2 pt-1">
        <Button
          label={say`It stays so: go on by another way`}
          kind="act"
          size="big"
          disabled={!ready}
          onPress={() => onGoOn(surprise.id, which)}
          testID="surprise-go-on"
        />
        <Button label={say`That helped: back to the step`} size="big" onPress={onClose} />
      </View>
    </Notice>
  )
}

function LeaveOut({ onSkip, onStop, onClose }: Pick<CannotProps, 'onSkip' | 'onStop' | 'onClose'>) {
  const [why, setWhy] = useState('')
  const [asked, setAsked] = useState(false)
  return (
    <>
      <T>{caution`Nothing is opened while water still presses. If nothing shuts it off, stop here.`}</T>
      <Field
        label={say`Something else, in a few words`}
        value={why}
        onChangeText={setWhy}
        maxLength={300}
        error={asked && why.trim() === '' ? say`Say what is in the way: the next one reads it` : undefined}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Leave this step out`} onPress={() => (why.trim() === '' ? setAsked(true) : onSkip(why.trim()))} />
        <Button label={say`Stop here: partly done`} kind="danger" onPress={onStop} />
        <Button label={say`Back to the step`} onPress={onClose} />
      </View>
    </>
  )
}
