import { stagesInFlow } from '../graph'
import { copyOf, type Element, inService, play, type TrainState } from '../machine/state'
import { flowsOut, flushedEnough, heldEnough, longEnough } from './amount'
import { chlorine } from './chlorine'
import { dryHeat, flooded, leakAtHalf, leakAtRest, oldGasket, seal, slow } from './closing'
import { filled, vented } from './filling'
import { alone, firstWater, flushedAll, onward, soak, soakApart } from './flushing'
import { follow, ownDrain } from './following'
import { pastCarbon, pastLamp } from './guarded'
import { scald, throughHeater } from './heaters'
import { darkLamp, warmedUp } from './lamps'
import { catching, direction, oneOpen, power, pressure } from './opening'
import { dryRun } from './pumps'
import type { CheckInput, Checking, EndRule, Finding, RuleId, StepRule } from './types'
import { continuity, leak, record, refit, restore } from './whole'

const STEP_RULES: readonly [RuleId, StepRule][] = [
  ['continuity', continuity],
  ['pressure', pressure],
  ['catch', catching],
  ['power', power],
  ['one-open', oneOpen],
  ['direction', direction],
  ['old-gasket', oldGasket],
  ['seal', seal],
  ['slow', slow],
  ['leak', leakAtHalf],
  ['leak', leakAtRest],
  ['dry-heat', dryHeat],
  ['alone', alone],
  ['onward', onward],
  ['soak', soakApart],
  ['chlorine', chlorine],
  ['chlorine', pastCarbon],
  ['amount', flowsOut],
  ['amount', longEnough],
  ['dry-run', dryRun],
  ['dark-lamp', darkLamp],
  ['dark-lamp', pastLamp],
  ['scald', scald],
  ['follow', throughHeater],
  ['follow', follow],
  ['follow', ownDrain],
  ['vent', vented],
]
const END_RULES: readonly [RuleId, EndRule][] = [
  ['soak', soak],
  ['onward', flushedAll],
  ['first-water', firstWater],
  ['leak', leak],
  ['refit', refit],
  ['restore', restore],
  ['record', record],
  ['amount', flushedEnough],
  ['amount', heldEnough],
  ['dark-lamp', warmedUp],
  ['vent', filled],
]

export interface CheckEnd {
  valves: Record<string, 'open' | 'half' | 'shut'>
  stages: Record<string, { housing: 'open' | 'closed'; element: Element }>
  linesOff: string[]
  withoutPower: string[]
  inBypass: string[]
}
export interface CheckResult {
  findings: Finding[]
  end: CheckEnd
}

/**
 * Plays a sheet through on its train and names every rule it breaks, with the step it breaks it at; no findings means good. Takes any
 * sheet of the right form, however wrong: what cannot happen is a finding and play goes on. Pure and deterministic.
 */
export function check({ train, tasks, schools, visits, holds = [] }: CheckInput): CheckResult {
  const stages = stagesInFlow(train)
  const due = stages.flatMap((stage) => {
    const task = tasks.find((one) => one.stage === stage.id)
    return task ? [{ stage, task }] : []
  })
  const steps = visits.flatMap((visit) => visit.steps)
  const checking: Checking = { train, schools, due, visits, steps, holds }
  const findings: Finding[] = []
  let state = inService(train)
  let wasFlooded = false
  for (const step of steps) {
    const after = copyOf(state)
    play(train, after, step)
    for (const [rule, judge] of STEP_RULES) {
      const text = judge(checking, state, step, after)
      if (text !== null) findings.push({ rule, step: step.key, text })
    }
    const flood = flooded(after, train)
    if (flood !== null && !wasFlooded) findings.push({ rule: 'pressure', step: step.key, text: flood })
    wasFlooded = flood !== null
    state = after
  }
  for (const [rule, judge] of END_RULES)
    for (const { text, step } of judge(checking, state)) findings.push({ rule, step: step ?? null, text })
  return { findings, end: endOf(train, state) }
}

function endOf(train: CheckInput['train'], state: TrainState): CheckEnd {
  const valves = train.nodes.filter(
    (node) => node.kind === 'valve' || node.kind === 'tank' || (node.kind === 'stage' && node.ownShutoff === true),
  )
  return {
    valves: Object.fromEntries(valves.map(({ id }) => [id, state.shut.has(id) ? 'shut' : state.half.has(id) ? 'half' : 'open'])),
    stages: Object.fromEntries([...state.stages].map(([id, { open, element }]) => [id, { housing: open ? 'open' : 'closed', element }])),
    linesOff: [...state.apart],
    withoutPower: [...state.still, ...state.off],
    inBypass: [...state.bypassed],
  }
}
