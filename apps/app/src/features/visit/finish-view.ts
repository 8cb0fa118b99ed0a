import type { StopDto } from '@evenround/contract/site'
import { soaksInTank, stageOf, type Task } from '@evenround/core/train'
import type { AfterDoubt, VisitOutcome, VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { type OpenSheet, workAt } from '../../parts/visit/sheet'

/** Stages whose new part is still missing from the record. */
export function notFitted(stop: StopDto, state: Pick<VisitState, 'work' | 'fitted'>, sheet: OpenSheet) {
  // A bed that soaks went in at the visit before, or goes in at the next: the sheet of this one does not fit it.
  const fitsHere = (task: Task): boolean => {
    const stage = stageOf(stop.system.train, task.stage)
    return (
      !sheet.ok || !stage || !soaksInTank({ stage, task }) || sheet.steps.some(({ verb, at }) => verb === 'fit' && at[0] === task.stage)
    )
  }
  const wanted = workAt(stop, state).flatMap((task) =>
    (task.action === 'change' || task.action === 'refill') && fitsHere(task) ? [task.stage] : [],
  )
  return stop.system.stages.filter(({ id, media }) => wanted.includes(id) && media !== 'softener' && !state.fitted.has(id))
}

export const hasMonitor = (stop: StopDto, state: Pick<VisitState, 'work'>): boolean => {
  const due = new Set(workAt(stop, state).map(({ stage }) => stage))
  return stop.system.train.nodes.some((node) => node.kind === 'stage' && due.has(node.id) && node.monitored === true)
}

/** A step of this verb was ticked; keys are `phase/verb:place`. */
export const verbDone = (state: VisitState, phase: string, verb: string): boolean =>
  [...state.done.keys()].some((key) => key.startsWith(`${phase}/${verb}:`) || key.includes(`-${phase}/${verb}:`))

interface FinishInput {
  stop: StopDto
  state: VisitState
  sheet: OpenSheet
  outcome: VisitOutcome
  customerTold: boolean
  /** What stands otherwise than in service, and whether the customer knows. */
  leftStanding: readonly string[]
  standsKnown: boolean
  /** What the readings after the work ask about, and why they are right all the same. */
  doubts: readonly AfterDoubt[]
  kept: string
}

/** Why the visit cannot be finished like this; null when it can. */
export function finishProblem({
  stop,
  state,
  sheet,
  outcome,
  customerTold,
  leftStanding,
  standsKnown,
  doubts,
  kept,
}: FinishInput): string | null {
  const missing = notFitted(stop, state, sheet)
  if (outcome === 'done' && missing.length > 0) {
    const places = missing.map(({ position }) => position).join(', ')
    return say`Done, but position ${places} has no new part in the record. Record it above, or say “Partly done”.`
  }
  if (leftStanding.length > 0 && outcome === 'done')
    return say`Done, but not everything is as in service. Go back to the run sheet and put it back, or say “Partly done”.`
  if (outcome === 'done' && doubts.some(({ notDone }) => notDone))
    return say`Done, but the water says otherwise. Look at what stands above and measure again, or say “Not right yet”.`
  if (outcome === 'done' && doubts.length > 0 && kept.trim() === '')
    return say`The readings after the work are asked about: say why they are right all the same, or say “Not right yet”.`
  if (leftStanding.length > 0 && !standsKnown) return say`Something stays shut, open or off: tell the customer, then tick it.`
  if (state.holds.length > 0 && !customerTold) return say`A hold starts with this visit: tell the customer, then tick it.`
  return null
}
