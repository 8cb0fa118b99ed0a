import { surpriseAnswer } from '../train/surprises'
import { effectiveFacts } from './effective'
import { done } from './step-result'
import type {
  BlockDone,
  Fact,
  FaultNoted,
  HoldBegun,
  PartFitted,
  PartRemoved,
  StageReading,
  StepResult,
  StepSurprise,
  TdsReading,
  TimerStarted,
  VisitBegun,
  VisitFinished,
  WorkChanged,
} from './types'
import { type Work, workOf } from './work'

/** A visit as its facts leave it; rebuilt from them at any time and on any device. */
export interface VisitState {
  begun: VisitBegun | null
  /** Step key → the fact that ticked it (the first; ticks are a union over devices). */
  done: Map<string, string>
  /** What was ticked at once, by the fact's id. */
  blocks: Map<string, BlockDone>
  /** Stages taken into the work or left out of it, oldest first, each with what was ticked and answered by then. */
  changes: {
    at: string
    stage: string
    action: WorkChanged['action']
    /** Why it was left. */
    why: string | null
    done: string[]
    answers: Record<string, string>
  }[]
  /** The work as it is now: what the visit began with, changed since. */
  work: Work | null
  /** How ticked steps came out, by step key, the latest of several. */
  results: Map<string, StepResult>
  /** What was chosen or turned out otherwise, by step key, oldest first, as the generator takes it. */
  answers: Map<string, string>
  /** What turned out otherwise, by step key. */
  surprises: Map<string, StepSurprise>
  /** Step key → the timer running or run on it (the latest started). */
  timers: Map<string, TimerStarted>
  /** Latest counts, by phase and water. */
  readings: { before: ReadingPair; after: ReadingPair }
  /** Latest readings of a stage (or the whole system), by `readingKey`. */
  stageReadings: Map<string, StageReading>
  removed: Map<string, PartRemoved>
  fitted: Map<string, PartFitted>
  holds: HoldBegun[]
  /** Holds lifted at this visit, by id. */
  lifted: Set<string>
  finished: VisitFinished | null
  /** What was seen here and is not today's work. */
  faults: FaultNoted[]
  /** Facts that two corrections disagree on. */
  conflicts: string[]
}
export interface ReadingPair {
  untreated: TdsReading | null
  treated: TdsReading | null
}

/** Key of `stageReadings`: one row a phase and stage, or the system where the stage is null. */
export const readingKey = (phase: 'before' | 'after', stageId: string | null): string => `${phase}/${stageId ?? 'system'}`

/**
 * Oldest first. A block of which some ticks were taken back stands where it was ticked: what was done keeps its order.
 */
function inOrder(facts: readonly Fact[], all: ReadonlyMap<string, Fact>): Fact[] {
  const placeOf = (fact: Fact): Fact => {
    const seen = new Set<string>()
    let first = fact
    while (first.kind === 'block-done' && first.supersedes !== null && !seen.has(first.id)) {
      seen.add(first.id)
      first = all.get(first.supersedes) ?? first
    }
    return first
  }
  const placed = facts.map((fact) => {
    const { at, seq } = placeOf(fact)
    return { fact, at, seq }
  })
  placed.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.seq - b.seq))
  return placed.map(({ fact }) => fact)
}

function take(state: VisitState, fact: Fact): void {
  switch (fact.kind) {
    case 'visit-begun':
      state.begun ??= fact
      state.work ??= fact.tasks
      break
    case 'tds-reading':
      state.readings[fact.phase][fact.water] = fact
      break
    case 'stage-reading':
      state.stageReadings.set(readingKey(fact.phase, fact.stageId), fact)
      break
    case 'step-done':
      if (!state.done.has(fact.stepKey)) state.done.set(fact.stepKey, fact.id)
      state.results.set(fact.stepKey, fact)
      if (fact.choice !== null) state.answers.set(fact.stepKey, fact.choice)
      break
    case 'block-done':
      state.blocks.set(fact.id, fact)
      for (const { stepKey } of fact.steps) {
        if (!state.done.has(stepKey)) state.done.set(stepKey, fact.id)
        state.results.set(stepKey, done())
      }
      break
    case 'step-surprise':
      state.answers.set(fact.stepKey, surpriseAnswer(fact.surprise, fact.stageId ?? undefined))
      state.surprises.set(fact.stepKey, fact)
      break
    case 'work-changed': {
      const { stageId, action, why } = fact
      state.changes.push({
        at: fact.at,
        stage: stageId,
        action,
        why,
        done: [...state.done.keys()],
        answers: Object.fromEntries(state.answers),
      })
      state.work = state.work && workOf(state.work, [fact])
      break
    }
    case 'timer-started':
      state.timers.set(fact.stepKey, fact)
      break
    case 'part-removed':
      state.removed.set(fact.stageId, fact)
      break
    case 'part-fitted':
      state.fitted.set(fact.stageId, fact)
      break
    case 'hold-begun':
      state.holds.push(fact)
      break
    case 'hold-lifted':
      state.lifted.add(fact.holdId)
      break
    case 'fault-noted':
      state.faults.push(fact)
      break
    case 'visit-finished':
      state.finished = fact
      break
  }
}

/** Folds a visit's facts, in any order and with repeats, into its state. */
export function visitState(facts: readonly Fact[]): VisitState {
  const all = new Map(facts.map((fact) => [fact.id, fact]))
  const { facts: counting, conflicts } = effectiveFacts([...all.values()])
  const state: VisitState = {
    begun: null,
    done: new Map(),
    blocks: new Map(),
    changes: [],
    work: null,
    results: new Map(),
    answers: new Map(),
    surprises: new Map(),
    timers: new Map(),
    readings: { before: { untreated: null, treated: null }, after: { untreated: null, treated: null } },
    stageReadings: new Map(),
    removed: new Map(),
    fitted: new Map(),
    holds: [],
    lifted: new Set(),
    finished: null,
    faults: [],
    conflicts,
  }
  for (const fact of inOrder(counting, all)) take(state, fact)
  return state
}

/** Seconds a timer still has to run at `now` (ISO instant), exact over reloads; 0 when over, never negative. */
export function remainingSeconds(timer: Pick<TimerStarted, 'at' | 'seconds'>, now: string): number {
  const elapsed = (Date.parse(now) - Date.parse(timer.at)) / 1000
  return Math.max(0, timer.seconds - Math.max(0, elapsed))
}
