import type { Schools } from '@evenround/contract/firm'
import type { StopDto } from '@evenround/contract/site'
import { type SheetResult, type SheetStep, sheet, type Task } from '@evenround/core/train'
import { remainingSeconds, type VisitState } from '@evenround/core/visit'

/** The sheet of this visit: the tasks it began with, on the stop's train, by the firm's schools. */
export function sheetOf(stop: StopDto, state: VisitState, schools: Schools): SheetResult {
  const tasks: Task[] = state.begun?.tasks ?? stop.tasks.map(({ stageId, action }) => ({ stage: stageId, action }))
  const { closing, seals, order, tankWater } = schools
  return sheet({ train: stop.system.train, tasks, schools: { closing, seals, order, tankWater } })
}

/** The readings a measuring step wants: those before the work, or those after it. */
export const phaseOf = (step: SheetStep): 'before' | 'after' => (step.key.startsWith('before/') ? 'before' : 'after')

/** Keys that count as done: ticked ones, and measuring steps whose two readings are there. */
export function doneKeys(steps: readonly SheetStep[], state: VisitState): Set<string> {
  const done = new Set(state.done.keys())
  for (const step of steps) {
    if (step.evidence !== 'reading') continue
    const { untreated, treated } = state.readings[phaseOf(step)]
    if (untreated && treated) done.add(step.key)
  }
  return done
}

export interface Ladder {
  done: SheetStep[]
  present: SheetStep | null
  coming: SheetStep[]
}

/** Done rungs, the present one, and those to come: the present one is the first that is not done. */
export function ladder(steps: readonly SheetStep[], done: ReadonlySet<string>): Ladder {
  const index = steps.findIndex(({ key }) => !done.has(key))
  if (index < 0) return { done: [...steps], present: null, coming: [] }
  return { done: steps.slice(0, index), present: steps[index] ?? null, coming: steps.slice(index + 1) }
}

/** 605 → "10:05". */
export function countdown(seconds: number): string {
  const whole = Math.ceil(seconds)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

/** Timers still running at `now`, with what is left of each. */
export function runningTimers(state: VisitState, now: string): { stepKey: string; seconds: number }[] {
  return [...state.timers.values()]
    .map((timer) => ({ stepKey: timer.stepKey, seconds: remainingSeconds(timer, now) }))
    .filter(({ seconds, stepKey }) => seconds > 0 && !state.done.has(stepKey))
}

/** The stage a step works on, where there is one. */
export function stageOfStep(step: SheetStep, stop: StopDto) {
  return stop.system.stages.find(({ id }) => step.at.includes(id)) ?? null
}

const minutesLeft = (steps: readonly SheetStep[]): number => steps.reduce((sum, { minutes }) => sum + minutes, 0)
export const leftWords = ({ present, coming }: Ladder): string =>
  present ? `about ${minutesLeft([present, ...coming])} min left` : 'all done'
