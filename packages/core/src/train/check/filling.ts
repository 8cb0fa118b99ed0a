import { say } from '../../words'
import { reactorOf } from '../graph'
import { isDry, stageOf } from '../machine/state'
import type { EndRule, StepRule } from './types'

/** Air has a way out while a bed or a lamp chamber fills: only then is it soaked, or lit. */
export const vented: StepRule = ({ train }, state, { verb, at, to }) => {
  if ((verb !== 'soak' || to === 'vessel') && verb !== 'power-on') return null
  const airy = at.find((id) => {
    const stage = stageOf(train, id)
    const wet = stage && (verb === 'soak' || stage.housing === 'uv-reactor')
    return wet && chamberOf(train, id).some((one) => state.stages.get(one)?.full === false)
  })
  if (airy === undefined) return null
  return say`${airy} ${verb === 'soak' ? say`is left to soak` : say`is lit`} with air in it: nothing let it out while it filled`
}

/** A bed by itself; a lamp with the sleeves of its reactor, which hold the water. */
const chamberOf = (train: Parameters<StepRule>[0]['train'], id: string): string[] => {
  // A lamp drawn without its sleeve in the train stands in quartz that nobody opens.
  const inOne = reactorOf(train, id)
  return inOne.length > 0 ? inOne.filter((stage) => !isDry(stage)).map((stage) => stage.id) : [id]
}

/** What was opened is full of water again at the end. */
export const filled: EndRule = ({ train }, state) =>
  [...state.stages].flatMap(([id, { full, takenOut }]) => {
    const stage = stageOf(train, id)
    return stage && !isDry(stage) && takenOut > 0 && !full
      ? [{ text: say`${id} was filled with every way out shut: air stands in it` }]
      : []
  })
