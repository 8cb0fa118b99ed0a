import { say } from '../../words'
import { comesTo, reactorOf } from '../graph'
import { inOf } from '../machine/network'
import { stageOf } from '../machine/state'
import type { EndRule, StepRule } from './types'

/** People are told before a lamp goes dark whose water they could draw. */
export const darkLamp: StepRule = ({ train }, state, { verb, at }) => {
  if (verb !== 'power-off' || state.told) return null
  for (const id of at) {
    if (stageOf(train, id)?.housing !== 'uv-reactor') continue
    const drawn = train.nodes.find(
      (node) => node.kind === 'outlet' && comesTo(train, id, node.id) && state.watered.has(inOf(train, node.id)),
    )
    if (drawn) return say`water at ${drawn.id} is not disinfected while ${id} is dark, and nobody was told`
  }
  return null
}

const WARM_UP_MINUTES = 2

/** A lamp that was dark warms up before its water is used. */
export const warmedUp: EndRule = ({ train, steps }) =>
  steps.flatMap(({ verb, at, key }, index) => {
    if (verb !== 'power-on') return []
    return at.flatMap((id) => {
      const reactor = reactorOf(train, id).map((stage) => stage.id)
      if (reactor.length === 0) return []
      const waited = steps
        .slice(index)
        .filter((step) => step.verb === 'wait' && step.at.some((one) => reactor.includes(one)))
        .reduce((minutes, step) => minutes + step.minutes, 0)
      return waited < WARM_UP_MINUTES ? [{ text: say`nobody waits until ${id} is warm`, step: key }] : []
    })
  })
