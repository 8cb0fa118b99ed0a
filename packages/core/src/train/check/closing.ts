import { say } from '../../words'
import { chambersOf, inOf } from '../machine/network'
import { isDry, shutsItself, stageOf, type TrainState } from '../machine/state'
import type { StageNode } from '../types'
import type { StepRule } from './types'

const SEALED: readonly StageNode['housing'][] = ['sump-small', 'sump-large', 'membrane-vessel', 'uv-reactor', 'media-tank']

/** Looked at between out and in: an old gasket left behind is the usual leak; and nothing goes on top of an old element. */
export const oldGasket: StepRule = ({ train, due }, state, { verb, at }) => {
  if (verb !== 'fit') return null
  const [first = ''] = at
  const stage = stageOf(train, first)
  const now = state.stages.get(first)
  if (!stage || !now || stage.media === 'softener') return null
  if (now.element !== 'none') return say`${first} still holds an element`
  const task = due.find((one) => one.stage.id === first)?.task
  if (!now.inspected) return say`nobody looked into ${first} since its element came out`
  if ((task?.action === 'wash' || task?.action === 'clean') && !now.washed) return say`${first} goes back unwashed`
  return null
}

/** Every seal that was opened is looked at and greased, or new, before it closes. */
export const seal: StepRule = ({ train }, state, { verb, at }) => {
  if (verb !== 'close-housing') return null
  const stage = stageOf(train, at[0] ?? '')
  const now = state.stages.get(at[0] ?? '')
  if (!stage || !now || isDry(stage) || !SEALED.includes(stage.housing)) return null
  if (!now.open) return null
  return now.sealed ? null : say`the seal of ${stage.id} was neither greased nor renewed`
}

/** Water is let only into what is closed. */
export const flooded = (state: TrainState, train: Parameters<StepRule>[0]['train']): string | null => {
  for (const [id, { open, element, bridged }] of state.stages) {
    const stage = stageOf(train, id)
    if (!stage || isDry(stage) || shutsItself(stage)) continue
    const fed = chambersOf(train, id).some((one) => state.fed.has(one))
    if (open && fed) return say`water runs into ${id}, which stands open`
    if (fed && element === 'none' && !bridged && (stage.housing === 'push-fit' || stage.housing === 'threaded'))
      return say`water runs out where ${id} should be`
  }
  for (const id of state.cocks) {
    if (state.fed.has(inOf(train, id))) return say`water runs out of the open cock of ${id}`
  }
  return null
}

/** Pressure comes back to half, is looked at, and only then fully. */
export const slow: StepRule = ({ train }, state, { verb, at, to }) => {
  const [id = ''] = at
  const kind = train.nodes.find((node) => node.id === id)?.kind
  if (verb !== 'open' || to === 'half' || kind === 'outlet' || kind === undefined) return null
  if (!state.shut.has(id) && !state.half.has(id)) return null
  return state.half.has(id) ? null : say`${id} is thrown open at once`
}

export const leakAtHalf: StepRule = (_checking, state, { verb, at, to }) => {
  const [id = ''] = at
  if (verb !== 'open' || to === 'half') return null
  return state.half.get(id) === false ? say`${id} is opened fully before anybody looked for leaks` : null
}

/** At half pressure joints are looked at with every tap shut: running water hides a drip. */
export const leakAtRest: StepRule = ({ train }, state, { verb }) => {
  if (verb !== 'leak-check' || state.half.size === 0) return null
  const tap = [...state.taps].find((id) => state.fed.has(inOf(train, id)))
  return tap ? say`${tap} runs while the joints are looked at` : null
}

/** A heater is switched on only when it is full. */
export const dryHeat: StepRule = ({ train }, state, { verb, at }) => {
  if (verb !== 'power-on') return null
  const heater = train.nodes.find((node) => node.kind === 'heater' && at.includes(node.id))
  return heater && !state.fed.has(heater.id) ? say`${heater.id} is switched on without water in it` : null
}
