import { say } from '../../words'
import { pumpsAgainst, starvedPumps } from '../machine/pumps'
import { MOVES_WATER } from '../machine/state'
import type { StepRule } from './types'

const SHORT_MINUTES = 1

/** No pump runs dry, nor for longer than a minute against what is shut. */
export const dryRun: StepRule = ({ train }, state, step, after) => {
  if (!train.nodes.some(({ kind }) => kind === 'pump')) return null
  const moves = MOVES_WATER.includes(step.verb)
  if (!moves && step.minutes <= SHORT_MINUTES) return null
  const before = starvedPumps(train, state, state.emptied)
  const dry = moves ? starvedPumps(train, after, after.emptied).find((id) => !before.includes(id)) : undefined
  if (dry !== undefined) return say`${dry} runs without water before it`
  const [dead] = step.minutes > SHORT_MINUTES ? pumpsAgainst(train, after) : []
  return dead === undefined ? null : say`${dead} runs against shut valves for ${step.minutes} minutes`
}
