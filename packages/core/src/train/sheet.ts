import type { Housing, Medium } from '../catalogue/names'
import { flowPath, stagesInFlow } from './graph'
import { before } from './phases/before'
import { change } from './phases/change'
import { closeOut, holdsAfter } from './phases/close-out'
import { flushApart, flushState } from './phases/flush'
import { isolate } from './phases/isolate'
import { restore } from './phases/restore'
import { type Plan, StepList } from './plan'
import type { OutletNode, SheetRefusal, SheetResult, SheetSchools, StageNode, TankNode, Task, Train, ValveNode } from './types'

export interface SheetInput {
  train: Train
  tasks: readonly Task[]
  schools: SheetSchools
}

/** What the generator knows to be right so far; anything else is refused in words rather than guessed. */
const COVERED_HOUSINGS: readonly Housing[] = ['sump-small', 'sump-large', 'membrane-vessel', 'push-fit']
const COVERED_MEDIA: readonly Medium[] = ['sediment', 'carbon-block', 'fluoride-media', 'membrane', 'post-carbon', 'deionising-resin']

const refuse = (reason: SheetRefusal['reason'], text: string): SheetRefusal => ({ ok: false, reason, text })

function dueStages(input: SheetInput): { stage: StageNode; task: Task }[] | SheetRefusal {
  const stages = stagesInFlow(input.train)
  for (const { stage } of input.tasks) {
    if (!stages.some(({ id }) => id === stage)) return refuse('unknown-stage', `This train has no stage ${stage}.`)
  }
  const due = stages.flatMap((stage) => {
    const task = input.tasks.find((candidate) => candidate.stage === stage.id)
    return task ? [{ stage, task }] : []
  })
  return due.length > 0 ? due : refuse('no-tasks', 'Nothing is chosen to be done here.')
}

function planOf(input: SheetInput): Plan | SheetRefusal {
  const due = dueStages(input)
  if ('ok' in due) return due
  const { train, schools } = input
  const path = flowPath(train)
  const outlet = path.at(-1) as OutletNode | undefined
  const odd = due.find(({ stage }) => !COVERED_HOUSINGS.includes(stage.housing) || !COVERED_MEDIA.includes(stage.media))
  const bypassed = train.nodes.some(({ kind }) => kind === 'bypass')
  if (odd || bypassed || !outlet || due.some(({ stage }) => !path.includes(stage))) {
    return refuse(
      'family-not-covered',
      'No run sheet is generated for this kind of system yet. Follow the maker’s instructions, then record the work at Finish.',
    )
  }
  const firstDue = path.findIndex(({ id }) => id === due[0]?.stage.id)
  const feed = path.slice(0, firstDue).findLast((node): node is ValveNode => node.kind === 'valve')
  if (!feed)
    return refuse(
      'no-isolation',
      'This train shows no valve before the first part that is due. Find the shut-off and add it to the train first.',
    )
  const tank = train.nodes.find((node): node is TankNode => node.kind === 'tank') ?? null
  const pump = path.slice(0, firstDue).find(({ kind }) => kind === 'pump')?.id ?? null
  return { train, path, due, feed, tank, outlet, pump, schools }
}

/**
 * The run sheet of today's tasks on this train: every step in its order, with reason, caution and evidence.
 *
 * Covers trains of sumps, membrane vessels and push-fit bodies in a row, with or without storage; one visit.
 * Minutes are expected values. Refuses, with words for the person, what it cannot do right. Deterministic; keys are stable.
 */
export function sheet(input: SheetInput): SheetResult {
  const plan = planOf(input)
  if ('ok' in plan) return plan
  const work = new StepList()
  isolate(plan, work)
  change(plan, work)
  const state = flushState(plan)
  flushApart(plan, work, state)
  restore(plan, work, state)
  const stopMinutes = work.steps.reduce((sum, { minutes }) => sum + minutes, 0)
  const holds = holdsAfter(plan)
  const all = new StepList()
  before(plan, all, Math.ceil(stopMinutes / 5) * 5)
  all.steps.push(...work.steps)
  closeOut(plan, all, holds)
  const steps = all.steps.map((step, index) => ({ ...step, n: index + 1 }))
  return { ok: true, visits: [{ minGapHoursBefore: 0, steps }], holds }
}
