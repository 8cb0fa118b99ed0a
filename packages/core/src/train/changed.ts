import { check } from './check'
import type { Action, SheetResult, SheetSchools, SheetStep, Task, Train } from './types'

/** A stage that was taken into the work in the middle of a visit, or left out of it. */
export interface WorkChange {
  stage: string
  /** Null: it is left for another day. */
  action: Action | null
  /** Steps that were ticked when it was decided, in the order they were done. */
  done: readonly string[]
  answers?: Readonly<Record<string, string>>
}

/** What is to be done now, and of it what came too late for the closing that was on. */
export interface TodaysWork {
  tasks: readonly Task[]
  later: ReadonlySet<string>
  /** Left out when the closing was already made for them: their own steps fall away, the rest stays as it was written. */
  skipped: ReadonlySet<string>
  /** The first closing was read off and told before that: what came later has readings and words of its own. */
  closedOut: boolean
  /** The work as it was before it was changed last; what was done of it stays. */
  before: TodaysWork | null
}

/** Steps that only look or speak: a stage of which no other is done is as it was. */
const TOUCHES_NOTHING: readonly SheetStep['verb'][] = ['measure', 'tell', 'ask', 'catch', 'record', 'mark']

/** Whether something was done to a stage: left for another day, what was opened of it is put back first. */
export function isBegun(steps: readonly SheetStep[], done: Iterable<string>, stage: string): boolean {
  const ticked = new Set(done)
  // Of an inline body the lines are freed first: what is done for a stage is known by its key, wherever it is done.
  return steps.some(({ key, verb }) => ticked.has(key) && !TOUCHES_NOTHING.includes(verb) && key.includes(`change-${stage}/`))
}

/** Whether something new went into a stage: it is finished, since the old part is not what stands in it any more. */
export function isFitted(steps: readonly SheetStep[], done: Iterable<string>, stage: string): boolean {
  const ticked = new Set(done)
  return steps.some(({ key, verb, at }) => ticked.has(key) && verb === 'fit' && at[0] === stage)
}

interface Making {
  train: Train
  schools: SheetSchools
  make: (work: TodaysWork, from: Pick<WorkChange, 'done' | 'answers'>) => SheetResult
}

/** The steps of a visit as they come to be done: first what is ticked, in its order, then the rest of the sheet. */
function inDoneOrder(steps: readonly SheetStep[], done: readonly string[]): SheetStep[] {
  const byKey = new Map(steps.map((step) => [step.key, step]))
  // Readings are known by themselves: the first ones were taken before anything was ticked.
  const first = steps.filter(({ key, verb }) => verb === 'measure' && key.startsWith('before/') && !done.includes(key))
  const ticked = [...first, ...done.flatMap((key) => byKey.get(key) ?? [])]
  const known = new Set(ticked)
  return [...ticked, ...steps.filter((step) => !known.has(step))]
}

/** Whether the work can still be done within the closing that is on: the sheet written anew passes, as far as it is done. */
function fits(work: TodaysWork, from: WorkChange, { train, schools, make }: Making): boolean {
  const made = make(work, from)
  if (!made.ok) return false
  const [first, ...others] = made.visits
  if (!first) return false
  const visits = [{ ...first, steps: inDoneOrder(first.steps, from.done) }, ...others]
  const tasks = work.tasks.filter(({ stage }) => !work.skipped.has(stage))
  // What is done is done: a change is judged by what is still to come.
  const { findings } = check({ train, tasks, schools, visits, holds: made.holds })
  return findings.every(({ step }) => step !== null && from.done.includes(step))
}

function changed(work: TodaysWork, change: WorkChange, making: Making): TodaysWork {
  const { stage, action } = change
  const { tasks, later, closedOut } = work
  const others = tasks.filter((task) => task.stage !== stage)
  if (action === null) {
    const made = making.make(work, change)
    const steps = made.ok ? made.visits.flatMap((visit) => visit.steps) : []
    if (isFitted(steps, change.done, stage)) return work
    const without = { ...work, tasks: others, later: new Set([...later].filter((id) => id !== stage)), before: work }
    if (fits(without, change, making)) return without
    const skipped = { ...work, skipped: new Set([...work.skipped, stage]), before: work }
    const left = tasks.every((task) => skipped.skipped.has(task.stage))
    const nothing = { ...work, tasks: [], later: new Set<string>(), skipped: new Set<string>(), before: work }
    if (left) return fits(nothing, change, making) ? nothing : work
    return !isBegun(steps, change.done, stage) || fits(skipped, change, making) ? skipped : work
  }
  const skipped = new Set([...work.skipped].filter((id) => id !== stage))
  const within = { ...work, tasks: [...others, { stage, action }], skipped, before: work }
  if (others.length < tasks.length || fits(within, change, making)) return within
  const out = change.done.some((key) => key.startsWith('close-out/'))
  const afterwards = { ...within, later: new Set([...later, stage]), closedOut: closedOut || out }
  // Where nothing keeps the water away from it the work goes on without it.
  return making.make(afterwards, change).ok ? afterwards : work
}

/**
 * The work after what was decided in the middle of the visit, oldest first. A stage that is taken in is done within the closing that is on
 * where the sheet still passes the checker with it, else in a closing of its own afterwards. One that is left goes back as it was, as long as
 * nothing new went into it; where all is left everything is put back.
 */
export const workAfter = (tasks: readonly Task[], changes: readonly WorkChange[], making: Making): TodaysWork =>
  changes.reduce<TodaysWork>((work, change) => changed(work, change, making), {
    tasks,
    later: new Set(),
    skipped: new Set(),
    closedOut: false,
    before: null,
  })
