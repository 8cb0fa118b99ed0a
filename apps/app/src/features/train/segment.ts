import type { StopDto } from '@evenround/contract/site'
import { minutesOf, type SheetHold, type SheetMinutes, type SheetStep, type Task } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { stageOfStep } from './sheet-view'

/** A part of the sheet that is ticked at once. */
export interface Block {
  n: number
  name: string
  steps: SheetStep[]
  /** Those not done yet. */
  left: SheetStep[]
  /** What these still take. */
  minutes: SheetMinutes
}

/** The blocks of a sheet in their order. */
export function blocksOf(steps: readonly SheetStep[], done: ReadonlySet<string>): Block[] {
  const blocks: Block[] = []
  for (const step of steps) {
    let block = blocks.find(({ name }) => name === step.block)
    if (!block) {
      block = { n: blocks.length + 1, name: step.block, steps: [], left: [], minutes: { handsOnMin: 0, waitingMin: 0 } }
      blocks.push(block)
    }
    block.steps.push(step)
    if (!done.has(step.key)) block.left.push(step)
  }
  return blocks.map((block) => ({ ...block, minutes: minutesOf(block.left) }))
}

/** What a step asks for beside a tick. */
export type Asked = 'reading' | 'clock' | 'answer' | 'finding' | 'part' | 'hold' | 'salt'

export function askedAt(step: SheetStep, stop: StopDto, tasks: readonly Task[], holds: readonly SheetHold[]): Asked | null {
  if (step.evidence === 'reading') return 'reading'
  if (step.evidence === 'timer') return 'clock'
  if (step.evidence === 'answer') return 'answer'
  const stage = stageOfStep(step, stop)
  if (step.evidence === 'finding') return stage ? 'finding' : null
  if (step.verb === 'measure' && stage?.media === 'softener') return 'salt'
  if (step.verb === 'hold') return holds.some(({ kind }) => kind === step.to) ? 'hold' : null
  const action = tasks.find((task) => task.stage === stage?.id)?.action
  const goesIn = step.verb === 'fit' && stage !== null && step.at[0] === stage.id && (action === 'change' || action === 'refill')
  return goesIn ? 'part' : null
}

/** Nothing is ticked past these in one tap: what follows depends on them, or waits for them. */
const ENDS: readonly (Asked | null)[] = ['reading', 'clock', 'answer', 'hold']

/**
 * What one tap ticks, from the present step on: the steps of its block up to the first that has to be answered or waited for, that one
 * included. A clock that runs stands alone.
 */
export function segmentOf(
  left: readonly SheetStep[],
  present: SheetStep,
  asked: (step: SheetStep) => Asked | null,
  runs: ReadonlySet<string>,
): SheetStep[] {
  const from = left.slice(left.findIndex(({ key }) => key === present.key))
  const end = from.findIndex((step) => ENDS.includes(asked(step)) || step.verb === 'soak')
  if (end < 0) return from
  // A clock that was started meanwhile is not started again: what stands before it is ticked, then it is waited for.
  const running = end > 0 && runs.has(from[end]?.key ?? '')
  return from.slice(0, running ? end : end + 1)
}

const whole = (minutes: number): number => Math.max(1, Math.round(minutes))
/** "about 4 min", and what runs by itself: "about 4 min, and 10 of clocks". */
export function minutesWords({ handsOnMin, waitingMin }: SheetMinutes): string {
  const hands = handsOnMin > 0 ? say`about ${whole(handsOnMin)} min` : ''
  if (waitingMin <= 0) return hands
  return hands === '' ? say`${whole(waitingMin)} min of clocks` : say`${hands}, and ${whole(waitingMin)} of clocks`
}
