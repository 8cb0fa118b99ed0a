import type { SheetHold, SheetStep, Task } from '@evenround/core/train'
import { chose, early, remainingSeconds } from '@evenround/core/visit'
import { useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { View } from 'react-native'
import { useNow } from '../../data/now'
import { beginHold, doneStep, type Finding, recordFinding, recordFitting, startTimer, type VisitPlace } from '../../data/visit-acts'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { useKeys } from '../../ui/keys'
import { T } from '../../ui/text'
import { FindingChoice } from './finding'
import { FindingPhoto } from './finding-photo'
import { partProblem } from './part-check'
import { PartNumber } from './part-number'
import { countdown, phaseOf, stageOfStep } from './sheet-view'

interface PresentRungProps {
  step: SheetStep
  of: number
  place: VisitPlace
  holds: readonly SheetHold[]
  tasks: readonly Task[]
}

export interface RungAct {
  label: string
  /** Null while something is still wanted; then `wanting` says what. */
  run: (() => void) | null
  wanting?: string
}

/** What the present step asks for and what its one big act does; hooks in one place, drawing below. */
export function useRung({ step, place, holds, tasks }: Omit<PresentRungProps, 'of'>) {
  const router = useRouter()
  const [finding, setFinding] = useState<Finding>({ found: null, dirtPast: null })
  const [answer, setAnswer] = useState<'yes' | 'no' | null>(null)
  const stage = stageOfStep(step, place.stop)
  const [partNumber, setPartNumber] = useState(stage?.nextPart?.partNumber ?? stage?.part?.partNumber ?? '')
  const timer = place.state.timers.get(step.key) ?? null
  const now = useNow(timer ? 1000 : null)
  const left = timer ? remainingSeconds(timer, now) : null
  const action = tasks.find((task) => task.stage === stage?.id)?.action
  const fits = step.verb === 'fit' && stage !== null && step.at[0] === stage.id && (action === 'change' || action === 'refill')
  const problem = fits ? partProblem(place.stop, stage, partNumber) : null
  const [doubted, setDoubted] = useState<string | null>(null)
  const asksDirt = stage !== null && place.stop.system.stages.some(({ position }) => position > stage.position)

  const act = ((): RungAct => {
    if (step.evidence === 'reading')
      return { label: 'Measure', run: () => router.push(`/stop/${place.stop.id}/measure?phase=${phaseOf(step)}`) }
    if (step.evidence === 'finding' && stage) {
      const ready = finding.found !== null && (!asksDirt || finding.dirtPast !== null)
      return {
        label: 'Done',
        run: ready ? () => void recordFinding(place, step, stage.id, finding) : null,
        wanting: finding.found === null ? 'Choose how it was' : 'Did dirt get past it?',
      }
    }
    if (step.evidence === 'timer' && timer === null)
      return { label: `Start the ${Math.round(step.minutes)} min clock`, run: () => void startTimer(place, step) }
    if (step.evidence === 'timer' && left !== null && left > 0)
      return { label: 'Done before its time', run: () => void doneStep(place, step, early(countdown(left))) }
    if (step.evidence === 'answer')
      return {
        label: 'Done',
        run: answer === null ? null : () => void doneStep(place, step, chose(answer)),
        wanting: 'Answer the question',
      }
    if (fits && stage) {
      const number = partNumber.trim()
      const fit = (): void => void recordFitting(place, step, stage.id, number)
      if (number === '') return { label: 'Done', run: null, wanting: 'Which part went in?' }
      // A wrong part is noticed while it can still be taken out.
      if (problem !== null && doubted !== number) return { label: `It says ${number}`, run: () => setDoubted(number) }
      return { label: problem === null ? `It says ${number}` : 'It is right all the same', run: fit }
    }
    const hold = step.verb === 'hold' ? holds.find(({ kind }) => kind === step.to) : undefined
    if (hold) return { label: 'Told, hold begins', run: () => void beginHold(place, step, hold) }
    return { label: 'Done', run: () => void doneStep(place, step) }
  })()
  const keys = useMemo(() => ({ Enter: () => act.run?.() }), [act])
  useKeys(keys)
  return {
    act,
    finding,
    setFinding,
    answer,
    setAnswer,
    partNumber,
    setPartNumber,
    left,
    fits,
    asksDirt,
    stage,
    place,
    warned: doubted === partNumber.trim() ? problem : null,
  }
}

type Rung = ReturnType<typeof useRung>

/** The present rung: large, with its reason, its caution and whatever it wants as proof. */
export function PresentRung({ step, of, rung, mark }: { step: SheetStep; of: number; rung: Rung; mark: string | null }) {
  const { finding, setFinding, answer, setAnswer, partNumber, setPartNumber, left, fits, asksDirt, stage, place, warned } = rung
  return (
    <View className="gap-3 rounded-card border-2 border-line border-l-8 border-l-kelp bg-sheet p-4" testID="rung">
      <T kind="quiet">{`Step ${step.n} of ${of}${stage ? ` · position ${stage.position}` : ''}`}</T>
      <T kind="title" level={1}>
        {step.text}
      </T>
      {step.caution ? (
        <View className="border-l-4 border-oxblood pl-3">
          <T kind="strong" className="text-oxblood">
            {step.caution}
          </T>
        </View>
      ) : null}
      {step.evidence === 'finding' ? <FindingChoice finding={finding} onChange={setFinding} asksDirt={asksDirt} /> : null}
      {step.evidence === 'finding' && stage ? <FindingPhoto place={place} stageId={stage.id} /> : null}
      {step.evidence === 'answer' ? (
        <Choice
          label="Your answer"
          quietLabel
          value={answer}
          options={[
            { value: 'yes', label: 'Yes, as drawn' },
            { value: 'no', label: 'No, or not sure' },
          ]}
          onChange={setAnswer}
        />
      ) : null}
      {answer === 'no' ? (
        <T kind="strong" className="text-oxblood">
          Then the valve that is shut may isolate nothing: the sheet goes on with one further up.
        </T>
      ) : null}
      {fits && stage ? <PartNumber stage={stage} value={partNumber} onChange={setPartNumber} problem={warned} /> : null}
      {mark === null ? null : (
        <View className="rounded-card border-2 border-line bg-paper px-3 py-2">
          <T kind="small">Write on it</T>
          <T kind="heading" selectable>
            {mark}
          </T>
        </View>
      )}
      {left === null ? null : (
        <T kind="figure" role="timer" className={left > 0 ? 'text-brine' : 'text-lichen-text'}>
          {left > 0 ? countdown(left) : 'Time is over'}
        </T>
      )}
      {left === null || left === 0 ? null : (
        <T kind="small">It goes on while the phone is locked, and sounds at its end as long as this page is open.</T>
      )}
      <View className="border-t-2 border-line pt-2">
        <T>
          <T kind="strong">Why: </T>
          {step.why}
        </T>
        {step.tools.length + step.consumables.length > 0 ? (
          <T kind="small">{`With: ${[...step.tools, ...step.consumables].join(', ')}`}</T>
        ) : null}
      </View>
    </View>
  )
}

/** The two acts under the thumb. */
export function RungActs({ act, onCannot }: { act: RungAct; onCannot: () => void }) {
  const [asked, setAsked] = useState(false)
  return (
    <>
      <Button label="Can’t do" size="big" onPress={onCannot} />
      <Button
        label={asked && act.run === null && act.wanting ? act.wanting : act.label}
        kind="act"
        size="big"
        grow
        onPress={() => (act.run ? act.run() : setAsked(true))}
        testID="rung-act"
      />
    </>
  )
}
