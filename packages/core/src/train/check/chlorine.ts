import { CARBONS, type Medium } from '../../catalogue/names'
import { say } from '../../words'
import { type Chamber, chambersOf, edgesOf, outOf, pressedBy } from '../machine/network'
import { MOVES_WATER, type TrainState } from '../machine/state'
import type { StageNode, Train } from '../types'
import type { Checking, StepRule } from './types'

/** What chlorine ruins, or is used up by, before it has done anything. */
const SPOILED: readonly Medium[] = [...CARBONS, 'membrane', 'deionising-resin', 'softener']

/** Waters that what goes in here is carried on to, as the joints are. */
function reachedFrom(train: Train, state: TrainState, from: Iterable<string>): Set<Chamber> {
  const forward = edgesOf(train, state).map((edge) => ({ ...edge, oneWay: true }))
  return pressedBy(
    forward,
    [...from].map((id) => outOf(train, id)),
  )
}

/** A softener's resin stays in its tank: only a bypass keeps chlorine from it. */
const inPlace = (state: TrainState, { id, media }: StageNode): boolean => media === 'softener' || state.stages.get(id)?.element !== 'none'

/** The first thing that must not meet chlorine and does, in words; null where there is none. */
function harmed(train: Train, state: TrainState, reached: ReadonlySet<Chamber>): { id: string; text: string } | null {
  const met = (id: string): boolean => chambersOf(train, id).some((chamber) => reached.has(chamber))
  for (const node of train.nodes) {
    if (!met(node.id)) continue
    if (node.kind === 'stage' && SPOILED.includes(node.media) && inPlace(state, node))
      return { id: node.id, text: say`chlorine reaches ${node.id}: its element comes out first, or the dose goes round it` }
    if (node.kind === 'heater' && !state.off.has(node.id))
      return { id: node.id, text: say`chlorine reaches ${node.id} while it heats: its power or gas goes off first` }
  }
  return null
}

const descaled = ({ due }: Checking): string | null =>
  due.find(({ stage, task }) => stage.media === 'uv-sleeve' && task.action === 'clean')?.stage.id ?? null

/**
 * No dose reaches a membrane, carbon, resin or softener that is still in its place, nor a heater that heats: not when it is given, and
 * not by anything that is opened, turned or fitted until a strip shows it gone. And none is given where acid is used in the same job.
 */
export const chlorine: StepRule = (checking, state, step, after) => {
  const { train } = checking
  if (step.verb === 'dose') {
    const acid = descaled(checking)
    if (acid !== null) return say`${acid} is descaled with acid in the same job: acid and chlorine give off poisonous gas`
    return harmed(train, state, reachedFrom(train, state, step.at))?.text ?? null
  }
  if (state.dosedAt.size === 0 || (!MOVES_WATER.includes(step.verb) && step.verb !== 'fit')) return null
  const before = harmed(train, state, reachedFrom(train, state, state.dosedAt))
  if (before !== null) return null
  return harmed(train, after, reachedFrom(train, after, state.dosedAt))?.text ?? null
}
