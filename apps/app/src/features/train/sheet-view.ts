import type { Schools } from '@evenround/contract/firm'
import type { StopDto } from '@evenround/contract/site'
import { minutesOf, type SheetHold, type SheetRefusal, type SheetStep, sayWith, sheet, type Task, type Train } from '@evenround/core/train'
import { type ShownUnits, toShown } from '@evenround/core/units'
import { remainingSeconds, type VisitState } from '@evenround/core/visit'

/** The part of the sheet that is done at this visit. */
export type OpenSheet = { ok: true; steps: SheetStep[]; holds: SheetHold[]; tasks: Task[] } | SheetRefusal

const round = (value: number): string => String(Number(value.toPrecision(2)))

/** A step with its figures in the firm's units. */
export function inUnits(step: SheetStep, units: ShownUnits): SheetStep {
  if (!step.said || units.volume === 'L') return step
  const { text, why, values } = step.said
  const write = {
    litres: (value: number) => `${round(toShown(value, 'volume', units))} gal`,
    kg: (value: number) => `${round(value * LB_PER_KG)} lb`,
  }
  return { ...step, text: sayWith(text, values, write), why: sayWith(why, values, write) }
}
/** International pound, exact: 0.45359237 kg. */
const LB_PER_KG = 1 / 0.45359237

/** All of a visit that a sheet is written from. */
interface Standing {
  tasks: Task[]
  done: string[]
  answers: Record<string, string>
}

/** Where the work at this stop stands: what the visit began with, else what is planned; what is ticked and answered. */
export const standingOf = (stop: StopDto, state: VisitState): Standing => ({
  tasks: state.begun?.tasks ?? stop.tasks.map(({ stageId, action }) => ({ stage: stageId, action })),
  done: [...state.done.keys()],
  answers: Object.fromEntries(state.answers),
})

/**
 * The sheet of this visit: the tasks it began with, on the train as it was then, by the firm's schools, from where the work stands. A stop
 * that follows a soak gets the second part.
 */
export function sheetOf(
  stop: StopDto,
  { tasks, done, answers }: Standing,
  schools: Schools,
  units: ShownUnits,
  train: Train = stop.system.train,
): OpenSheet {
  const { closing, seals, order, tankWater, place = 'in-place' } = schools
  const made = sheet({ train, tasks, schools: { closing, seals, order, tankWater, place }, from: { done, answers } })
  if (!made.ok) return made
  const visit = stop.follows?.why === 'soak' ? (made.visits[1] ?? made.visits[0]) : made.visits[0]
  return { ok: true, steps: (visit?.steps ?? []).map((step) => inUnits(step, units)), holds: made.holds, tasks }
}

/** The readings a measuring step wants: those before the work, or those after it. */
export const phaseOf = (step: SheetStep): 'before' | 'after' => (/^(\w+-)?before\//.test(step.key) ? 'before' : 'after')

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

export function leftWords({ present, coming }: Ladder): string {
  if (!present) return 'all done'
  const { handsOnMin, waitingMin } = minutesOf([present, ...coming])
  const clocks = waitingMin > 0 ? ` · ${Math.round(waitingMin)} min of clocks` : ''
  return `about ${Math.round(handsOnMin)} min left${clocks}`
}
