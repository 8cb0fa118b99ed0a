import { type Guarded, JOB_PHASES, type JobPhase, type JobState, type JobStep } from '@evenround/core/job'

/** Phases of each day: the flush day's wait until the contact has ended. */
const DOSE_DAY: readonly JobPhase[] = ['ready', 'protect', 'dose', 'spread']

/** Done: ticked, or (an outlet) confirmed or cleared by its strip. */
export function isDone(step: JobStep, state: Pick<JobState, 'done' | 'outlets'>): boolean {
  if (step.kind === 'outlet')
    return state.outlets.some(({ outlet, arrival }) => outlet.id === step.outlet?.id && (arrival === 'confirmed' || arrival === 'left'))
  if (step.kind === 'clear') return state.outlets.some(({ outlet, clear }) => outlet.id === step.outlet?.id && clear)
  return state.done.has(step.key)
}

export interface JobSheet {
  /** Steps of the day that is on, in order. */
  today: JobStep[]
  present: JobStep | null
  next: JobStep | null
  done: JobStep[]
}

/** A tick of the dose day that the last strip did not wait for: the hose out of the well and its cap on. */
const closesDoseDay = ({ phase, kind }: JobStep): boolean => phase === 'spread' && kind === 'tick'

/**
 * The ladder of the day that is on: dose day until the clock runs, flush day once the contact has ended. What the dose day left open
 * stands beside the clock, and comes first on flush day: no well stays open because the clock began.
 */
export function sheetOf(steps: readonly JobStep[], state: JobState): JobSheet | null {
  const ended = state.contactEnded
  const leftOpen = (step: JobStep): boolean => closesDoseDay(step) && (state.done.get(step.key)?.at ?? '9') > (ended?.at ?? '')
  const own = steps.filter((step) => {
    if (ended !== null) return !DOSE_DAY.includes(step.phase) || leftOpen(step)
    return state.tide === null ? DOSE_DAY.includes(step.phase) : closesDoseDay(step)
  })
  const left = own.filter((step) => !isDone(step, state))
  return { today: own, present: left[0] ?? null, next: left[1] ?? null, done: own.filter((step) => isDone(step, state)) }
}

/** How far each phase is, for the line above the ladder. */
export function phaseSums(steps: readonly JobStep[], state: JobState): { phase: JobPhase; done: number; of: number }[] {
  return JOB_PHASES.flatMap((phase) => {
    const own = steps.filter((step) => step.phase === phase)
    return own.length === 0 ? [] : [{ phase, done: own.filter((step) => isDone(step, state)).length, of: own.length }]
  })
}

/** What is kept from the chlorine at all systems, each with its system's name. */
export const protectedThings = (guarded: readonly Guarded[]): { id: string; systemName: string; text: string }[] =>
  guarded.flatMap(({ systemName, protection }) =>
    protection.things.map(({ id, text }) => ({ id: `${systemName}/${id}`, systemName, text })),
  )
