import { comesTo } from './graph'
import { chooseIsolation, type Isolation } from './isolation'
import { before, tellStop } from './phases/before'
import { asks, benchLines, change } from './phases/change'
import { closeOut, holdsAfter } from './phases/close-out'
import { flushApart } from './phases/flush'
import { isolate } from './phases/isolate'
import { powerOff } from './phases/power'
import { restore } from './phases/restore'
import { runBed, SOAK_HOURS, SOAK_MOST_HOURS, soakBed } from './phases/soak'
import { type Due, dueStages, isWet, type Plan, soaks, tapsByUse, wantsIsolation } from './plan'
import type { SheetRefusal, SheetResult, SheetSchools, SheetVisit, Task, Train } from './types'
import { flushesOf } from './ways'
import { Work } from './work'

export interface SheetInput {
  train: Train
  tasks: readonly Task[]
  schools: SheetSchools
}

const refuse = (reason: SheetRefusal['reason'], text: string): SheetRefusal => ({ ok: false, reason, text })

function planOf({ train, tasks, schools }: SheetInput): Plan | SheetRefusal {
  const due = dueStages(train, tasks)
  const unknown = tasks.find(({ stage }) => !train.nodes.some((node) => node.id === stage && node.kind === 'stage'))
  if (unknown) return refuse('unknown-stage', `This train has no stage ${unknown.stage}.`)
  const first = due[0]
  if (!first) return refuse('no-tasks', 'Nothing is chosen to be done here.')
  const taps = tapsByUse(train)
  const tap = taps.find(({ id }) => due.some(({ stage }) => comesTo(train, stage.id, id))) ?? taps[0]
  if (!tap) return refuse('no-outlet', 'This train shows no tap or other outlet. Add it to the train first.')
  return { train, due, tap: tap.id, schools: { place: 'in-place', ...schools }, untrusted: new Set(), answers: {} }
}

/** One closing and opening of the set: what is due in it is done, flushed and put back; null where nothing keeps the water away. */
function session(prefix: string, plan: Plan, due: readonly Due[], bed: Due | undefined, work: Work): boolean {
  const all = bed ? [...due, bed] : due
  const bench = benchLines(plan, all)
  const opened = all.filter((one) => wantsIsolation(one) || (bench.length > 0 && isWet(one)))
  const wet = all.filter(isWet)
  const flushes = flushesOf(plan, due, new Set(bed ? [bed.stage.id] : []))
  const lines = [...bench, ...flushes.apart.flatMap((one) => one.lines)]
  let isolation: Isolation | null = null
  if (opened.length > 0 || flushes.apart.length > 0) {
    isolation = chooseIsolation(
      plan,
      work.state,
      opened.map(({ stage }) => stage),
      lines,
    )
    if (isolation === null) return false
  }
  powerOff(`${prefix}isolate`, plan, all, work)
  if (isolation) isolate(`${prefix}isolate`, plan, isolation, opened, lines, work)
  const first = wet[0]
  if (first) {
    work.add(`${prefix}isolate`, 'catch', [first.stage.id], {
      text: 'Put the tray and towels underneath',
      why: 'The housing comes off full of water, over somebody’s floor.',
      minutes: 2,
      tools: ['catch tray'],
      consumables: ['towels'],
    })
  }
  change(prefix, plan, all, work)
  if (isolation) flushApart(prefix, plan, isolation, flushes.apart, work)
  if (bed && isolation) soakBed(prefix, plan, isolation, bed, all, work)
  else restore(prefix, plan, isolation, due, flushes, work)
  return true
}

/**
 * The run sheet of today's tasks on this train: every step in its order, with reason, caution and evidence, over one visit or two.
 *
 * Works from the plumbing's graph: which shut-offs keep water away, where pressure is let out, where first water may go; each step is
 * played on the state machine as it is written. Minutes are expected values. Refuses, with words for the person, what it cannot do
 * right. Deterministic; keys are stable.
 */
export function sheet(input: SheetInput): SheetResult {
  const plan = planOf(input)
  if ('ok' in plan) return plan
  const bed = plan.due.find(soaks)
  const others = plan.due.filter((one) => one !== bed)
  const holds = holdsAfter(plan)
  const work = new Work(plan.train)
  // The order of what is written is not the order it is worked out in: how long the water stops is known only at the end.
  const trial = new Work(plan.train)
  if (!sessions(plan, others, bed, trial)) {
    return refuse(
      'no-isolation',
      'This train shows no valve before the first part that is due. Find the shut-off and add it to the train first.',
    )
  }
  const minutes = trial.steps.reduce((sum, step) => sum + step.minutes, 0)
  const bypassed = trial.steps.some(
    ({ verb, to }, index) => verb === 'turn' && to === 'bypass' && !trial.steps.slice(0, index).some((one) => one.verb === 'close'),
  )
  before('', plan, work)
  if (plan.due.some(isWet)) tellStop('', plan, minutes, bypassed, work)
  asks('', plan.due, work)
  sessions(plan, others, bed, work)
  const early = bed ? holds.filter(({ kind }) => kind === 'do-not-use' || kind === 'first-tank' || kind === 'ice') : holds
  const first = bed && others.some(isWet) ? early : bed ? early.filter(({ kind }) => kind === 'do-not-use') : early
  closeOut('', plan, plan.due, first, work, true)
  const visits: SheetVisit[] = [numbered(work.steps, 0)]
  if (bed) {
    const done = work.steps.length
    before('second-', plan, work)
    tellStop('second-', plan, 60, false, work)
    runBed('second-', plan, bed, work)
    work.add('second-restore', 'leak-check', [bed.stage.id], {
      text: 'Look once more, with full pressure',
      why: 'Under flow and at rest: a slow drip shows only after some minutes.',
      minutes: 2,
      tools: ['torch', 'dry tissue'],
    })
    closeOut(
      'second-',
      plan,
      [],
      holds.filter((hold) => !first.includes(hold)),
      work,
      true,
    )
    visits.push({ ...numbered(work.steps.slice(done), SOAK_HOURS), maxGapHoursBefore: SOAK_MOST_HOURS })
  }
  return { ok: true, visits, holds }
}

/** Everything else first, through the old bed, and the bed last: what is new never meets water that has run through a bed not yet soaked. */
function sessions(plan: Plan, others: readonly Due[], bed: Due | undefined, work: Work): boolean {
  const wet = others.some(isWet)
  if (!bed) return session('', plan, others, undefined, work)
  if (!wet) return session('', plan, others, bed, work)
  return session('', plan, others, undefined, work) && session('bed-', plan, [], bed, work)
}

const numbered = (steps: SheetVisit['steps'], minGapHoursBefore: number): SheetVisit => ({
  minGapHoursBefore,
  steps: steps.map((step, index) => ({ ...step, n: index + 1 })),
})
