import type { SheetStep } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import type { VisitPlace } from '../../data/visit-acts'
import { useIntoView } from '../../ui/into-view'
import { T } from '../../ui/text'
import { Caution, ClockFace, MarkText, With } from './present-rung'
import { QuestionView } from './questions'
import { type Block, minutesWords } from './segment'
import type { useSegment } from './use-segment'

interface PresentBlockProps {
  block: Block
  of: number
  /** What the next tap ticks. */
  steps: readonly SheetStep[]
  place: VisitPlace
  segment: ReturnType<typeof useSegment>
  /** How often somebody went on without answering: what is asked then comes into view. */
  wanted: number
  onEveryStep: () => void
}

/** The present block: its steps as lines, what is asked among those of the next tap below them, the rest of it quiet. */
export function PresentBlock({ block, of, steps, place, segment, wanted, onEveryStep }: PresentBlockProps) {
  const { questions, left } = segment
  const shown = questions.filter(({ asked }) => asked !== 'reading' && asked !== 'clock' && asked !== 'hold')
  const later = block.left.filter((step) => !steps.includes(step))
  const doneCount = block.steps.length - block.left.length
  const cautions = new Set<string>()
  const ref = useIntoView(wanted, 'start')
  return (
    <View className="gap-3 rounded-card border-2 border-line border-l-8 border-l-kelp bg-sheet p-4" testID="rung">
      <T kind="quiet">{[say`Block ${block.n} of ${of}`, minutesWords(block.minutes)].filter(Boolean).join(' · ')}</T>
      <T kind="title" level={1}>
        {block.name}
      </T>
      {doneCount > 0 ? <T kind="small">{say`${doneCount} of ${block.steps.length} steps done`}</T> : null}
      <View role="list" aria-label={say`Steps of the next tap`} className="gap-1">
        {steps.map((step) => {
          const fresh = step.caution !== undefined && !cautions.has(step.caution)
          if (step.caution !== undefined) cautions.add(step.caution)
          return <Line key={step.key} step={step} caution={fresh} place={place} />
        })}
      </View>
      <ClockFace left={left} />
      {shown.length > 0 ? (
        <View ref={ref} className="gap-3 border-t-2 border-line pt-3">
          {shown.map((question) => (
            <QuestionView key={question.step.key} question={question} place={place} named={steps.length > 1} />
          ))}
        </View>
      ) : null}
      {later.length > 0 ? (
        <View className="gap-1 border-t-2 border-line pt-2">
          {later.map((step) => (
            <T key={step.key} kind="quiet">{say`then: ${step.text}`}</T>
          ))}
        </View>
      ) : null}
      <Pressable role="button" onPress={onEveryStep} className="min-h-[40px] justify-center self-start">
        <T kind="small" className="underline">
          {say`Every step of this block`}
        </T>
      </Pressable>
    </View>
  )
}

/** One step as a line; its reason and tools unfold. */
function Line({ step, caution, place }: { step: SheetStep; caution: boolean; place: VisitPlace }) {
  const [open, setOpen] = useState(false)
  return (
    <View role="listitem" className="gap-1">
      <Pressable role="button" aria-expanded={open} onPress={() => setOpen(!open)} className="min-h-[32px] justify-center">
        <T>{step.text}</T>
      </Pressable>
      {caution ? <Caution text={step.caution} /> : null}
      <MarkText step={step} place={place} />
      {open ? (
        <View className="pl-3">
          <T kind="small">{step.why}</T>
          <With step={step} />
        </View>
      ) : null}
    </View>
  )
}
