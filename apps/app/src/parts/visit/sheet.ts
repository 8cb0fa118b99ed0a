import type { Schools } from '@evenround/contract/firm'
import type { StopDto } from '@evenround/contract/site'
import {
  fillTemplate,
  leftStanding,
  type SheetHold,
  type SheetRefusal,
  type SheetStep,
  sheet,
  type Task,
  type Train,
} from '@evenround/core/train'
import { type ShownUnits, toShown } from '@evenround/core/units'
import type { VisitBegun, VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'

/** The part of the sheet that is done at this visit. */
export type OpenSheet =
  | {
      ok: true
      steps: SheetStep[]
      /** What was done at the visit before, where this one follows a soak. */
      earlier: SheetStep[]
      holds: SheetHold[]
      tasks: Task[]
    }
  | SheetRefusal

const round = (value: number): string => String(Number(value.toPrecision(2)))

/** A step with its figures in the firm's units. */
export function inUnits(step: SheetStep, units: ShownUnits): SheetStep {
  if (!step.said || units.volume === 'L') return step
  const { text, why, values } = step.said
  const write = {
    litres: (value: number) => say`${round(toShown(value, 'volume', units))} gal`,
    kg: (value: number) => say`${round(value * LB_PER_KG)} lb`,
  }
  return { ...step, text: fillTemplate(text, values, write), why: fillTemplate(why, values, write) }
}
/** International pound, exact: 0.45359237 kg. */
const LB_PER_KG = 1 / 0.45359237

/** All of a visit that a sheet is written from. */
interface Standing {
  tasks: Task[]
  done: string[]
  answers: Record<string, string>
  /** What was taken in or left out since it began. */
  changes: VisitState['changes']
  /** The work as it is now. */
  work: Task[]
  /** Where it is done, where this visit chose; null: as the firm does it. */
  place: VisitBegun['place']
}

const planned = ({ tasks }: StopDto): Task[] => tasks.map(({ stageId, action }) => ({ stage: stageId, action }))
/** The work at this stop as it is now: what the visit began with, changed since; before it began, what is planned. */
export const workAt = (stop: StopDto, { work }: Pick<VisitState, 'work'>): Task[] => work ?? planned(stop)

/** Where the work at this stop stands: what the visit began with, else what is planned; what is ticked and answered. */
export const standingOf = (stop: StopDto, state: VisitState): Standing => ({
  tasks: state.begun?.tasks ?? planned(stop),
  done: [...state.done.keys()],
  answers: Object.fromEntries(state.answers),
  changes: state.changes,
  work: workAt(stop, state),
  place: state.begun?.place ?? null,
})

/**
 * The sheet of this visit: the tasks it began with, on the train as it was then, by the firm's schools, from where the work stands. A stop
 * that follows a soak gets the second part.
 */
export function sheetOf(
  stop: StopDto,
  { tasks, done, answers, changes, work, place: chosen }: Standing,
  schools: Schools,
  units: ShownUnits,
  train: Train = stop.system.train,
): OpenSheet {
  const { closing, seals, order, tankWater } = schools
  const place = chosen ?? schools.place ?? 'in-place'
  const made = sheet({
    train,
    tasks,
    schools: { closing, seals, order, tankWater, place },
    unchlorinated: stop.site.source !== 'municipal',
    from: { done, answers, changes },
  })
  if (!made.ok) return made
  const [first, second] = made.visits
  const follows = stop.follows?.why === 'soak' && second !== undefined
  const steps = (follows ? second : first)?.steps ?? []
  return {
    ok: true,
    steps: steps.map((step) => inUnits(step, units)),
    earlier: follows ? (first?.steps ?? []) : [],
    holds: made.holds,
    tasks: work,
  }
}

/** The readings a measuring step wants: those before the work, or those after it. */
export const phaseOf = (step: SheetStep): 'before' | 'after' => (/^(\w+-)?before\//.test(step.key) ? 'before' : 'after')

/** Keys that count as done: ticked ones, and measuring steps whose two readings are there. */
export function doneKeys(steps: readonly SheetStep[], state: VisitState): Set<string> {
  const done = new Set(state.done.keys())
  // What came to the work after it was read off is read off once more.
  const taken = state.changes.findLast(({ action }) => action !== null)?.at ?? ''
  for (const step of steps) {
    if (step.evidence !== 'reading') continue
    const phase = phaseOf(step)
    const { untreated, treated } = state.readings[phase]
    const since = phase === 'after' ? taken : ''
    if (untreated && treated && untreated.at >= since && treated.at >= since) done.add(step.key)
  }
  return done
}

/** What stands otherwise than in service at this visit by its sheet, in words; nothing where none can be made. */
export function standingAt(state: VisitState, made: OpenSheet, train: Train): string[] {
  if (!made.ok) return []
  const done = doneKeys(made.steps, state)
  // A bed that soaks between two visits stands as the sheet of the first one leaves it.
  for (const { key } of made.earlier) done.add(key)
  // A part that could not be put in is not in, whatever was done after it.
  for (const { key, verb } of made.steps) if (verb === 'fit' && state.results.get(key)?.outcome === 'left-out') done.delete(key)
  return leftStanding(train, [...made.earlier, ...made.steps], done)
}
