import type { SheetStep } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import type { VisitPlace } from '../../data/visit-acts'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'
import { QuestionView } from './questions'
import { countdown, stageOfStep } from './sheet-view'
import type { SegmentAct, useSegment } from './use-segment'

interface PresentRungProps {
  step: SheetStep
  of: number
  place: VisitPlace
  segment: ReturnType<typeof useSegment>
}

/** The present step by itself: large, with its reason, its caution and whatever it wants as proof. */
export function PresentRung({ step, of, place, segment }: PresentRungProps) {
  const { questions, left } = segment
  const stage = stageOfStep(step, place.stop)
  return (
    <View className="gap-3 rounded-card border-2 border-line border-l-8 border-l-kelp bg-sheet p-4" testID="rung">
      <T kind="quiet">{say`Step ${step.n} of ${of}${stage ? say` · position ${stage.position}` : ''}`}</T>
      <T kind="title" level={1}>
        {step.text}
      </T>
      <Caution text={step.caution} />
      {questions.map((question) => (
        <QuestionView key={question.step.key} question={question} place={place} named={false} />
      ))}
      <MarkText step={step} place={place} />
      <ClockFace left={left} />
      <View className="border-t-2 border-line pt-2">
        <T>
          <T kind="strong">{say`Why: `}</T>
          {step.why}
        </T>
        <With step={step} />
      </View>
    </View>
  )
}

export function Caution({ text }: { text: string | undefined }) {
  if (text === undefined) return null
  return (
    <View className="border-l-4 border-oxblood pl-3">
      <T kind="strong" className="text-oxblood">
        {text}
      </T>
    </View>
  )
}

export function With({ step: { tools, consumables } }: { step: SheetStep }) {
  return tools.length + consumables.length > 0 ? <T kind="small">{say`With: ${[...tools, ...consumables].join(', ')}`}</T> : null
}

/** What is to be written on the part that went in. */
export function MarkText({ step, place }: { step: SheetStep; place: VisitPlace }) {
  const mark = step.verb === 'mark' ? place.state.fitted.get(step.at[0] ?? '')?.markText : undefined
  if (mark === undefined) return null
  return (
    <View className="rounded-card border-2 border-line bg-paper px-3 py-2">
      <T kind="small">{say`Write on it`}</T>
      <T kind="heading" selectable>
        {mark}
      </T>
    </View>
  )
}

/** What is left of a clock, in seconds; nothing where none was started. */
export function ClockFace({ left }: { left: number | null }) {
  if (left === null) return null
  return (
    <>
      <T kind="figure" role="timer" className={left > 0 ? 'text-brine' : 'text-lichen-text'}>
        {left > 0 ? countdown(left) : say`Time is over`}
      </T>
      {left > 0 ? (
        <T kind="small">{say`It goes on while the phone is locked, and sounds at its end as long as this page is open.`}</T>
      ) : null}
    </>
  )
}

/** The two acts under the thumb. */
export function RungActs({ act, onCannot, onWanting }: { act: SegmentAct; onCannot: () => void; onWanting: () => void }) {
  const [asked, setAsked] = useState(false)
  return (
    <>
      <Button label={say`Can’t do`} size="big" onPress={onCannot} />
      <Button
        label={asked && act.run === null && act.wanting ? act.wanting : act.label}
        kind="act"
        size="big"
        grow
        onPress={() => {
          if (act.run) return act.run()
          setAsked(true)
          onWanting()
        }}
        testID="rung-act"
      />
    </>
  )
}
