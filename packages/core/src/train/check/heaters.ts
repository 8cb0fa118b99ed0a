import { say } from '../../words'
import { isHot } from '../graph'
import { wayOut } from '../machine/network'
import type { StepRule } from './types'

/** A hot tap is no relief and no drain: it scalds, and empties the heater. */
export const scald: StepRule = ({ train }, _, { verb, at, to }) => {
  const by = verb === 'relieve' ? at : verb === 'drain' && to !== undefined ? [to] : []
  const hot = by.find((id) => train.nodes.some((node) => node.id === id && node.kind === 'outlet') && isHot(train, id))
  if (hot !== undefined) return say`${hot} is a hot tap: it scalds, and it empties the heater`
  const heater = verb === 'drain' ? at.find((id) => train.nodes.some((node) => node.id === id && node.kind === 'heater')) : undefined
  return heater === undefined ? null : say`${heater} is drained: it stays full`
}

/** What a new part sheds does not go through the heater. */
export const throughHeater: StepRule = ({ train }, state, { verb, at, to }) => {
  if ((verb !== 'flush' && verb !== 'trickle') || to === undefined || to === 'vessel') return null
  for (const id of at) {
    const heater = (wayOut(train, state, id, to) ?? []).find((one) => train.nodes.some((node) => node.id === one && node.kind === 'heater'))
    if (heater) return say`what ${id} sheds runs through ${heater}`
  }
  return null
}
