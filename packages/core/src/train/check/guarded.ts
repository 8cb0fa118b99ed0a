import { CARBONS } from '../../catalogue/names'
import { say } from '../../words'
import { forwardOf, spread } from '../machine/network'
import { inService, MOVES_WATER, stageOf, type TrainState } from '../machine/state'
import type { StageNode, Train } from '../types'
import type { StepRule } from './types'

/** Nodes that water of the main comes to without passing one of the guards. */
function unguarded(train: Train, state: TrainState, guards: (stage: StageNode) => boolean): Set<string> {
  const next = forwardOf(train, state)
  const stops = (id: string): boolean => {
    const stage = stageOf(train, id)
    // A pump that stands still lets nothing on either.
    return state.still.has(id) || (stage !== undefined && guards(stage))
  }
  const sources = train.nodes.flatMap(({ id, kind }) => (kind === 'source' && !state.shut.has(id) ? [id] : []))
  return spread(sources, { get: (id) => (stops(id) ? [] : next.get(id)) })
}

const holdsElement = (state: TrainState, { id }: StageNode): boolean => state.stages.get(id)?.element !== 'none'

/** Membranes that water comes to past every carbon; the source is taken to be chlorinated, as nobody says it is not. */
function bare(train: Train, state: TrainState): string[] {
  const met = unguarded(train, state, (stage) => CARBONS.includes(stage.media) && holdsElement(state, stage))
  return train.nodes.flatMap((node) =>
    node.kind === 'stage' && node.media === 'membrane' && holdsElement(state, node) && met.has(node.id) ? [node.id] : [],
  )
}

/** A carbon that stands before a membrane takes its chlorine: a bypass, or an empty housing, must not carry it on to the membrane. */
export const pastCarbon: StepRule = ({ train }, state, { verb }, after) => {
  if (!MOVES_WATER.includes(verb)) return null
  const before = bare(train, state)
  const fresh = bare(train, after).filter((id) => !before.includes(id))
  if (fresh.length === 0) return null
  // One that has no carbon before it in service does with what comes.
  const always = bare(train, inService(train))
  const first = fresh.find((id) => !always.includes(id))
  return first === undefined ? null : say`chlorinated water goes round the carbon to ${first}`
}

/** Taps of people whose water no lamp lights, where one stands in their way. */
const unlit = (train: Train, state: TrainState): string[] => {
  if (!train.nodes.some((node) => node.kind === 'stage' && node.housing === 'uv-reactor')) return []
  const met = unguarded(train, state, ({ housing }) => housing === 'uv-reactor')
  return train.nodes.flatMap((node) => (node.kind === 'outlet' && node.use !== 'hose' && met.has(node.id) ? [node.id] : []))
}

/** A barrier against germs is bypassed onto nobody who was not told. */
export const pastLamp: StepRule = ({ train }, state, { verb, to }, after) => {
  if (verb !== 'turn' || to !== 'bypass' || state.told) return null
  const before = unlit(train, state)
  const first = unlit(train, after).find((id) => !before.includes(id))
  return first === undefined ? null : say`water goes round the lamp to ${first}, and nobody was told`
}
