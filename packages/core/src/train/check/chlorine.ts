import { CARBONS, type Medium } from '../../catalogue/names'
import { chambersOf, edgesOf, outOf, pressedBy } from '../machine/network'
import type { StageNode } from '../types'
import type { StepRule } from './types'

/** What chlorine ruins, or is used up by, before it has done anything. */
const SPOILED: readonly Medium[] = [...CARBONS, 'membrane', 'deionising-resin', 'softener']

/** No dose reaches a membrane, carbon, resin or softener that is still in its place; and none is given where acid is used in the same job. */
export const chlorine: StepRule = ({ train, due }, state, step) => {
  if (step.verb !== 'dose') return null
  const acid = due.find(({ stage, task }) => stage.media === 'uv-sleeve' && task.action === 'clean')
  if (acid) return `${acid.stage.id} is descaled with acid in the same job: acid and chlorine give off poisonous gas`
  const forward = edgesOf(train, state).map((edge) => ({ ...edge, oneWay: true }))
  const reached = pressedBy(
    forward,
    step.at.map((id) => outOf(train, id)),
  )
  const taken = train.nodes.find(
    (node): node is StageNode =>
      node.kind === 'stage' &&
      SPOILED.includes(node.media) &&
      // A softener's resin stays in its tank: only a bypass keeps chlorine from it.
      (node.media === 'softener' || state.stages.get(node.id)?.element !== 'none') &&
      chambersOf(train, node.id).some((chamber) => reached.has(chamber)),
  )
  return taken ? `chlorine reaches ${taken.id}: its element comes out first, or the dose goes round it` : null
}
