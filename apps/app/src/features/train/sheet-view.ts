import type { StopDto, VisitTime } from '@evenround/contract/site'
import { minutesOf, type SheetStep } from '@evenround/core/train'
import { remainingSeconds, type VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'

export interface Ladder {
  done: SheetStep[]
  present: SheetStep | null
  coming: SheetStep[]
}

/** What can be done while a clock runs: nothing that moves water. */
const MEANWHILE: readonly SheetStep['verb'][] = ['mark', 'reset']

/** The next step that can be done while the clock of the present one runs; null where there is none. */
export const meanwhileOf = (steps: readonly SheetStep[], done: ReadonlySet<string>): SheetStep | null =>
  steps.find(({ key, verb }) => !done.has(key) && MEANWHILE.includes(verb)) ?? null

/** Done rungs, the present one, and those to come: the present one is the first that is not done, or the one taken meanwhile. */
export function ladder(steps: readonly SheetStep[], done: ReadonlySet<string>, meanwhile: SheetStep | null = null): Ladder {
  const first = steps.findIndex(({ key }) => !done.has(key))
  if (first < 0) return { done: [...steps], present: null, coming: [] }
  const present = meanwhile ?? (steps[first] as SheetStep)
  return { done: steps.slice(0, first), present, coming: steps.slice(first).filter(({ key }) => key !== present.key && !done.has(key)) }
}

/** 605 → "10:05". */
export function countdown(seconds: number): string {
  const whole = Math.ceil(seconds)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

/** Clocks whose step is not ticked off yet, with what is left of each at `now`: nothing once it is over. */
export const openTimers = (state: VisitState, now: string): { stepKey: string; seconds: number }[] =>
  [...state.timers.values()]
    .filter(({ stepKey }) => !state.done.has(stepKey))
    .map((timer) => ({ stepKey: timer.stepKey, seconds: remainingSeconds(timer, now) }))

/** The stage a step works on, where there is one. */
export function stageOfStep(step: SheetStep, stop: StopDto) {
  return stop.system.stages.find(({ id }) => step.at.includes(id)) ?? null
}

/** How much is left: hands at the pace that plan and day line go by, clocks apart. */
export function leftWords({ present, coming }: Ladder, time?: VisitTime | null): string {
  if (!present) return say`all done`
  const { handsOnMin: bySheet, waitingMin } = minutesOf([present, ...coming])
  const handsOnMin = bySheet * (time && time.sheetMin > 0 ? time.handsOnMin / time.sheetMin : 1)
  const clocks = waitingMin > 0 ? say` · ${Math.round(waitingMin)} min of clocks` : ''
  return say`about ${Math.round(handsOnMin)} min left${clocks}`
}
