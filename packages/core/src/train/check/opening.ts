import { say } from '../../words'
import { reactorOf } from '../graph'
import { type Chamber, chambersOf, type Edge, edgesOf, endsOf, pressedBy } from '../machine/network'
import { isCaught, isDry, isInline, shutsItself, stageOf, type TrainState } from '../machine/state'
import type { StageNode, Train } from '../types'
import type { Checking, CheckStep, StepRule } from './types'

const OPENS: readonly CheckStep['verb'][] = ['loosen', 'open-housing', 'disconnect']

/** Wet stages a step opens: by its housing, or by a line of its body. */
export function openedBy({ train }: Checking, { verb, at }: CheckStep): StageNode[] {
  if (!OPENS.includes(verb)) return []
  const ids = at.flatMap((one) => (one.includes('>') ? one.split('>') : [one]))
  return ids.flatMap((id) => {
    const stage = stageOf(train, id)
    return stage && !isDry(stage) ? [stage] : []
  })
}

/** No housing is loosened and no line taken off or put back while its water is pressed. */
export const pressure: StepRule = (checking, state, step) => {
  const { train } = checking
  const pressedEnd = (line: string): boolean => endsOf(train, line, state.bypassed).some((end) => state.pressed.has(end))
  if (step.verb === 'loosen' || step.verb === 'open-housing') {
    const stage = stageOf(train, step.at[0] ?? '')
    if (!stage || isDry(stage) || shutsItself(stage)) return null
    return chambersOf(train, stage.id).some((one) => state.pressed.has(one)) ? say`${stage.id} is opened under pressure` : null
  }
  if (step.verb === 'disconnect') {
    for (const line of step.at) if (pressedEnd(line)) return say`${line} is taken off under pressure`
  }
  if (step.verb === 'connect') {
    for (const line of step.at) if (state.apart.has(line) && pressedEnd(line)) return say`${line} is put back against pressure`
  }
  if (step.verb === 'take-out') {
    const stage = stageOf(train, step.at[0] ?? '')
    if (!stage || shutsItself(stage) || stage.housing === 'dry-slot' || stage.media === 'softener') return null
    const lines = train.pipes.filter(({ from, to }) => from === stage.id || to === stage.id).map(({ from, to }) => `${from}>${to}`)
    const free = isInline(stage) ? lines.every((line) => state.apart.has(line)) : state.stages.get(stage.id)?.open === true
    return free ? null : say`${stage.id} is taken out of a body that is still closed`
  }
  return null
}

/** Something stands underneath before the first wet body is opened; a full large one is drained first where it can be. */
export const catching: StepRule = (checking, state, step) => {
  const opened = openedBy(checking, step)
  if (opened.length === 0) return null
  // A line between two places drips into either's tray.
  const caught =
    step.verb === 'disconnect' ? opened.some((stage) => isCaught(state, stage)) : opened.every((stage) => isCaught(state, stage))
  if (!caught)
    return state.catching.size === 0
      ? say`nothing catches the water yet`
      : say`nothing stands under ${opened[0]?.id ?? ''}: the tray is elsewhere`
  const full = opened.find(({ id, housing, drainCocks = 0 }) => housing === 'sump-large' && drainCocks > 0 && !state.drained.has(id))
  return full && step.verb !== 'disconnect' ? say`${full.id} is full and has a cock: drain it first` : null
}

/** Ballast, pump and appliance are off before what they feed or light is opened. */
export const power: StepRule = (checking, state, step) => {
  const { train, due } = checking
  if (!OPENS.includes(step.verb)) return null
  const ids = step.at.flatMap((one) => (one.includes('>') ? one.split('>') : [one]))
  for (const id of ids) {
    const stage = stageOf(train, id)
    if (!stage) continue
    if (stage.housing === 'uv-reactor' && step.verb !== 'disconnect') {
      if (!reactorOf(train, id).some((node) => state.off.has(node.id))) return say`the lamp is still lit or its ballast still plugged in`
    }
    if (stage.media === 'fridge-inline' && due.some((one) => one.stage.id === stage.id)) {
      const outlets = train.nodes.filter((node) => node.kind === 'outlet')
      if (!outlets.some((node) => state.off.has(node.id))) return say`the refrigerator is still plugged in`
    }
    if (step.verb === 'disconnect' || isDry(stage) || shutsItself(stage)) continue
    const pump = pumpInto(train, state, chambersOf(train, stage.id))
    if (pump) return say`pump ${pump} could start into the open housing`
  }
  if (step.verb === 'disconnect') {
    const pump = pumpInto(
      train,
      state,
      step.at.flatMap((line) => endsOf(train, line, state.bypassed)),
    )
    if (pump) return say`pump ${pump} could start into the open line`
  }
  return null
}

/** A running pump whose water would come to one of these if every valve stood open: a bypass that is on keeps it away. */
function pumpInto(train: Train, state: TrainState, chambers: readonly Chamber[]): string | null {
  const running = train.nodes.filter((node) => node.kind === 'pump' && !state.still.has(node.id))
  if (running.length === 0) return null
  const open = forwardOnly(edgesOf(train, { shut: new Set(), still: new Set(), apart: new Set(), bypassed: state.bypassed }))
  const found = running.find(({ id }) => {
    const fed = pressedBy(open, [`${id}>`])
    return chambers.some((one) => fed.has(one))
  })
  return found?.id ?? null
}
const forwardOnly = (all: readonly Edge[]): Edge[] => all.map((edge) => ({ ...edge, oneWay: true }))

/** One at a time: two bodies with different elements never stand open together; sleeve and lamp share one. */
export const oneOpen: StepRule = (checking, state, step) => {
  if (checking.schools.order !== 'one-at-a-time' || step.verb !== 'open-housing') return null
  const stage = stageOf(checking.train, step.at[0] ?? '')
  if (!stage) return null
  const other = checking.train.nodes.find(
    (node): node is StageNode =>
      node.kind === 'stage' &&
      node.id !== stage.id &&
      state.stages.get(node.id)?.open === true &&
      node.media !== stage.media &&
      !reactorOf(checking.train, stage.id).some(({ id }) => id === node.id),
  )
  return other ? say`${other.id} still stands open with another element` : null
}

/** A side nobody ever confirmed is asked for before the valve is trusted. */
export const direction: StepRule = (checking, state, step) => {
  const opened = step.at.flatMap((one) => (OPENS.includes(step.verb) ? one.split('>') : []))
  const blind = checking.due.find(
    ({ stage }) =>
      opened.includes(stage.id) && !isDry(stage) && stage.inletConfirmed !== true && state.stages.get(stage.id)?.asked !== true,
  )
  return blind ? say`nobody asked which side of ${blind.stage.id} is its inlet` : null
}
