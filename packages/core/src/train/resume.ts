import { say } from '../words'
import { reactorOf, stagesInFlow } from './graph'
import { copyOf, inService, play, type TrainState } from './machine/state'
import { putBack } from './phases/back'
import { closeTaps, heatersOn, openSlowly } from './phases/open-up'
import { powerOn } from './phases/power'
import { letAirOut } from './phases/restore'
import { nodesOf, type Plan, tanks } from './plan'
import { surpriseOf } from './surprises'
import type { Sheet, SheetStep, Train } from './types'
import { Work } from './work'

/** Words for "not on the side the drawing says", from a question about an inlet. */
const OTHER_SIDE = /^(no|not sure|unsure)\b|outlet|other/i

/** The plan as it is once something was answered or found at a step of the sheet so far. */
export function answered(plan: Plan, sheet: Sheet, key: string, answer: string): Plan {
  const answers = { ...plan.answers, [key]: answer }
  const steps = sheet.visits.flatMap((visit) => visit.steps)
  const step = steps.find((one) => one.key === key)
  if (!step) return { ...plan, answers }
  const surprise = surpriseOf(answer)
  if (surprise?.id === 'no-tank-valve') return { ...plan, answers, untrusted: new Set([...plan.untrusted, ...step.at]) }
  if (surprise?.id === 'will-not-close') {
    // A tap that drips is for another day: it keeps nothing away.
    if (!step.at.every((id) => isShutOff(plan.train, id) || tanks(plan.train).some((tank) => tank.id === id))) return { ...plan, answers }
    // One that was shut before and does not shut again passes; one that never did is left alone.
    const again = steps.slice(0, steps.indexOf(step)).some(({ verb, at }) => verb === 'close' && at[0] === step.at[0])
    return again ? passing(plan, answers, step.at) : { ...plan, answers, untrusted: new Set([...plan.untrusted, ...step.at]) }
  }
  if (surprise?.id === 'keeps-running') return passing(plan, answers, shutBefore(plan.train, steps, step))
  if (step.verb === 'ask' && OTHER_SIDE.test(answer)) {
    const opened = steps.find(({ verb }) => verb === 'loosen' || verb === 'open-housing' || verb === 'disconnect')
    return opened ? passing(plan, answers, shutBefore(plan.train, steps, opened)) : { ...plan, answers }
  }
  return { ...plan, answers }
}

const passing = (plan: Plan, answers: Plan['answers'], ids: readonly string[]): Plan => ({
  ...plan,
  answers,
  passing: new Set([...plan.passing, ...ids]),
})

/** The shut-offs that stand shut when a step comes. */
function shutBefore(train: Train, steps: readonly SheetStep[], until: SheetStep): string[] {
  const state = inService(train)
  for (const step of steps.slice(0, steps.indexOf(until))) play(train, state, step)
  return [...state.shut].filter((id) => isShutOff(train, id))
}

const isShutOff = (train: Train, id: string): boolean =>
  train.nodes.some(
    (node) => node.id === id && (node.kind === 'valve' || node.kind === 'source' || (node.kind === 'stage' && node.ownShutoff === true)),
  )

/**
 * The last sheet with everything that is done in it. What was done by an earlier sheet and is not in this one stays where it was, and
 * what it moved (a valve that was shut and turned out to be the wrong one) is put back before the work is closed out.
 */
export function goOn(plan: Plan, sheets: readonly Sheet[], done: readonly string[]): Sheet {
  const last = sheets.at(-1) as Sheet
  const known = new Map(sheets.flatMap(({ visits }) => visits.flatMap(({ steps }) => steps.map((step) => [step.key, step] as const))))
  const current = new Set(last.visits.flatMap(({ steps }) => steps.map(({ key }) => key)))
  const orphans = done.filter((key) => known.has(key) && !current.has(key))
  if (orphans.length === 0) return last
  const [first, ...later] = last.visits
  const steps = [...(first?.steps ?? [])]
  for (const key of orphans) {
    const before = done.slice(0, done.indexOf(key)).findLast((one) => steps.some((step) => step.key === one))
    steps.splice(before === undefined ? 0 : steps.findIndex((step) => step.key === before) + 1, 0, known.get(key) as SheetStep)
  }
  putBack(
    plan,
    steps,
    steps.findLastIndex(({ key }) => orphans.includes(key)),
  )
  mend(plan, steps, new Set(done))
  const left = leftMoved(plan, first?.steps ?? [], steps)
  const at = steps.findIndex(({ key }) => key.startsWith('close-out/'))
  steps.splice(at < 0 ? steps.length : at, 0, ...left)
  return { ...last, visits: [{ minGapHoursBefore: 0, ...first, steps }, ...later] }
}

/** Steps still to come that no longer fit what was done before the change: a valve that stands shut again comes back by half first. */
function mend(plan: Plan, steps: SheetStep[], done: ReadonlySet<string>): void {
  const work = new Work(plan.train)
  for (let index = 0; index < steps.length; index++) {
    const step = steps[index] as SheetStep
    const [id = ''] = step.at
    if (!done.has(step.key) && step.verb === 'open' && step.to === 'full' && work.state.shut.has(id)) {
      const from = work.steps.length
      openSlowly(`put-back-${step.key.split('/')[0]}`, plan, id, work)
      const instead = work.steps.slice(from)
      steps.splice(index, 1, ...instead)
      index += instead.length - 1
      continue
    }
    const heater = plan.train.nodes.some((node) => node.id === id && node.kind === 'heater')
    if (!done.has(step.key) && step.verb === 'power-on' && heater && !work.state.fed.has(id)) {
      // Switched on at the end, when water stands in it.
      steps.splice(index, 1)
      index -= 1
      continue
    }
    play(plan.train, work.state, step)
  }
}

function endOf(train: Train, steps: readonly SheetStep[]): TrainState {
  const state = inService(train)
  for (const step of steps) play(train, state, step)
  return state
}

/** Whether the reactor of a lamp is without power in this state. */
const isDarkIn = (state: TrainState, train: Train, id: string): boolean =>
  [id, ...reactorOf(train, id).map((one) => one.id)].some((one) => state.off.has(one))

/** What the steps done by an earlier sheet leave otherwise than this sheet alone would: each put back. */
function leftMoved(plan: Plan, alone: readonly SheetStep[], withOrphans: readonly SheetStep[]): SheetStep[] {
  const { train } = plan
  const wanted = endOf(train, alone)
  const left = endOf(train, withOrphans)
  const work = new Work(train)
  Object.assign(work.state, copyOf(left))
  // At rest: what is looked at for leaks stands under pressure, and nothing runs.
  for (const tap of [...left.taps])
    if (!wanted.taps.has(tap)) work.add('put-back', 'close', [tap], { text: say`Close the tap`, why: say`As it stands in service.` })
  for (const id of [...left.shut]) if (!wanted.shut.has(id)) openSlowly('put-back', plan, id, work)
  const lamps = nodesOf(train, 'stage').filter(({ id, media }) => media === 'uv-lamp' && !isDarkIn(wanted, train, id))
  // Heaters and lamps wait until water stands in them.
  const fullFirst = new Set(
    [...nodesOf(train, 'heater'), ...nodesOf(train, 'stage').filter(({ housing }) => housing === 'uv-reactor')].map(({ id }) => id),
  )
  for (const id of [...left.still, ...left.off]) {
    if (wanted.still.has(id) || wanted.off.has(id) || fullFirst.has(id)) continue
    work.add('put-back', 'power-on', [id], {
      text: say`Switch it on again`,
      why: say`It was switched off before the way of working changed.`,
    })
  }
  for (const id of left.bypassed) {
    if (!wanted.bypassed.has(id))
      work.add('put-back', 'turn', [id], {
        to: 'service',
        text: say`Turn the bypass to service`,
        why: say`It was turned before the way of working changed: service needs it back.`,
      })
  }
  letAirOut('put-back-air', plan, stagesInFlow(train), work)
  closeTaps('put-back-air', plan, work)
  heatersOn('put-back', plan, work)
  powerOn(
    'put-back',
    plan,
    lamps.map((stage) => ({ stage, task: { stage: stage.id, action: 'change' } })),
    work,
  )
  if (work.state.leakWanted)
    work.add('put-back-last', 'leak-check', [...left.shut].slice(0, 1), {
      text: say`Look once more, with full pressure`,
      why: say`Every joint that saw pressure again.`,
    })
  return work.steps
}
