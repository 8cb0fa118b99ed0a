import type { StopDto } from '@evenround/contract/site'
import type { SheetHold, SheetStep, Task } from '@evenround/core/train'
import { chose, early, remainingSeconds } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { useNow } from '../../data/now'
import { type Finding, type Given, recordSteps, type Salt, startTimer, type VisitPlace } from '../../data/visit-acts'
import { partProblem } from '../../parts/visit/part-check'
import { phaseOf } from '../../parts/visit/sheet'
import { useKeys } from '../../ui/keys'
import { type Asked, askedAt } from './segment'
import { countdown, stageOfStep } from './sheet-view'

interface SegmentInput {
  /** What one tap ticks: one step, or those of a block up to the next that ends it. */
  steps: readonly SheetStep[]
  place: VisitPlace
  holds: readonly SheetHold[]
  tasks: readonly Task[]
}

export interface SegmentAct {
  label: string
  /** Null while something is still wanted; then `wanting` says what. */
  run: (() => void) | null
  wanting?: string
}

/** What was chosen and typed at a step so far. */
interface Draft {
  finding: Finding
  answer: 'yes' | 'no' | null
  /** Null until it is typed: then it is what belongs there. */
  partNumber: string | null
  /** The number that is right all the same. */
  doubted: string | null
  salt: Salt
}
const NOTHING: Draft = {
  finding: { found: null, dirtPast: null },
  answer: null,
  partNumber: null,
  doubted: null,
  salt: { saltKg: null, hardnessInMgL: null, hardnessOutMgL: null },
}

/** A step that asks for something, with what was said so far. */
export interface Question {
  step: SheetStep
  asked: Asked
  stage: StopDto['system']['stages'][number] | null
  /** Something follows that dirt could have reached. */
  asksDirt: boolean
  draft: Draft
  number: string
  /** Why that number does not belong here, once it was given. */
  problem: string | null
  set: (change: Partial<Draft>) => void
}

/** What still has to be said at a question; null where nothing is. */
function wantedAt({ asked, draft, asksDirt, number }: Question): string | null {
  if (asked === 'finding') {
    if (draft.finding.found === null) return say`Choose how it was`
    return asksDirt && draft.finding.dirtPast === null ? say`Did dirt get past it?` : null
  }
  if (asked === 'answer') return draft.answer === null ? say`Answer the question` : null
  if (asked === 'salt') return draft.salt.saltKg === null ? say`How much salt went in?` : null
  return asked === 'part' && number === '' ? say`Which part went in?` : null
}

function givenAt({ asked, draft, number, step }: Question, holds: readonly SheetHold[]): Given {
  if (asked === 'finding') return { finding: draft.finding }
  if (asked === 'part') return { partNumber: number }
  if (asked === 'salt') return { salt: draft.salt }
  if (asked === 'answer' && draft.answer !== null) return { result: chose(draft.answer) }
  const hold = asked === 'hold' ? holds.find(({ kind }) => kind === step.to) : undefined
  return hold ? { hold } : {}
}

/** What the steps of one tap ask for, and what the one big act does. */
export function useSegment({ steps, place, holds, tasks }: SegmentInput) {
  const router = useRouter()
  const [drafts, setDrafts] = useState<Record<string, Draft>>({})
  const { stop, state } = place
  const last = steps.at(-1) as SheetStep
  const timer = state.timers.get(last.key) ?? null
  const now = useNow(timer ? 1000 : null)
  const left = timer ? remainingSeconds(timer, now) : null

  const questions = steps.flatMap((step): Question[] => {
    const asked = askedAt(step, stop, tasks, holds)
    if (asked === null) return []
    const stage = stageOfStep(step, stop)
    const draft = drafts[step.key] ?? NOTHING
    const number = (draft.partNumber ?? stage?.nextPart?.partNumber ?? stage?.part?.partNumber ?? '').trim()
    return [
      {
        step,
        asked,
        stage,
        asksDirt: stage !== null && stop.system.stages.some(({ position }) => position > stage.position),
        draft,
        number,
        problem: asked === 'part' && stage !== null ? partProblem(stop, stage, number) : null,
        set: (change) => setDrafts((before) => ({ ...before, [step.key]: { ...NOTHING, ...before[step.key], ...change } })),
      },
    ]
  })

  const act = ((): SegmentAct => {
    const given = new Map(questions.map((question) => [question.step.key, givenAt(question, holds)]))
    const doAll = (): void => void recordSteps(place, steps, given)
    const before = steps.slice(0, -1)
    const untilLast = (): void => {
      if (before.length > 0) void recordSteps(place, before, given)
    }
    const wanting = questions.map(wantedAt).find((one) => one !== null)
    const asked = questions.at(-1)?.step === last ? questions.at(-1)?.asked : undefined
    const all = steps.length === 1 ? say`Done` : say`All ${steps.length} done`
    // Among many lines the question stands further down: the act says which.
    if (wanting) return { label: steps.length > 1 ? wanting : say`Done`, run: null, wanting }
    // A wrong part is noticed while it can still be taken out.
    const wrong = questions.find(({ problem, draft, number }) => problem !== null && draft.doubted !== number)
    if (wrong) return { label: say`It says ${wrong.number}`, run: () => wrong.set({ doubted: wrong.number }) }
    if (asked === 'reading')
      return {
        label: say`Measure`,
        run: () => {
          untilLast()
          router.push(`/stop/${stop.id}/measure?phase=${phaseOf(last)}`)
        },
      }
    if (asked === 'clock' && timer === null)
      return {
        label: say`Start the ${Math.round(last.minutes)} min clock`,
        run: () => {
          untilLast()
          void startTimer(place, last)
        },
      }
    if (asked === 'clock' && left !== null && left > 0)
      return {
        label: say`Done before its time`,
        run: () => void recordSteps(place, steps, new Map([...given, [last.key, { result: early(countdown(left)) }]])),
      }
    if (asked === 'hold') return { label: say`Customer informed, start hold`, run: doAll }
    if (questions.some(({ problem }) => problem !== null)) return { label: say`It is right all the same`, run: doAll }
    const only = steps.length === 1 ? questions[0] : undefined
    return { label: only?.asked === 'part' ? say`It says ${only.number}` : all, run: doAll }
  })()
  const keys = useMemo(() => ({ Enter: () => act.run?.() }), [act])
  useKeys(keys)
  return { act, questions, left }
}
