import { say } from '../../words'
import { goesRound } from '../graph'
import { isDry, MOVES_WATER } from '../machine/state'
import type { SheetStep } from '../types'
import type { Checking, EndRule, StepRule } from './types'

const TOUCHES: readonly SheetStep['verb'][] = [
  'close',
  'turn',
  'relieve',
  'drain',
  'loosen',
  'open-housing',
  'disconnect',
  'take-out',
  'power-off',
]

const wetWork = ({ due }: Checking): boolean => due.some(({ stage }) => !isDry(stage))

/** What a sheet lacks that touches the water unmeasured: those who know better for their work leave it out by these words. */
export const unmeasuredBefore = (): string => say`nothing is measured before the water is touched`

/** Measured before the water is touched and after; each part marked, each monitor reset, all of it written down and told. */
export const record: EndRule = (checking) => {
  const { due, steps, holds } = checking
  const found: { text: string }[] = []
  const touched = steps.findIndex(({ verb }) => TOUCHES.includes(verb))
  const lastFit = steps.findLastIndex(({ verb, at }) => verb === 'fit' && !(at[0] ?? '').includes('.'))
  const before = steps.findIndex(({ verb }) => verb === 'measure')
  if (before < 0 || (touched >= 0 && before > touched)) found.push({ text: unmeasuredBefore() })
  const lastFlush = steps.findLastIndex(({ verb }) => verb === 'flush')
  // What a new part sheds is no reading of it: afterwards is after its flush.
  if (!steps.some(({ verb }, index) => verb === 'measure' && index > Math.max(lastFit, touched, lastFlush)))
    found.push({ text: lastFlush > lastFit ? say`nothing is measured after the last flush` : say`nothing is measured afterwards` })
  for (const { stage, task } of due) {
    const own = (verb: SheetStep['verb'], from = -1): boolean =>
      steps.some((step, index) => index > from && step.verb === verb && step.at.includes(stage.id))
    const fit = steps.findIndex((step) => step.verb === 'fit' && step.at[0] === stage.id)
    if (task.action === 'change' && !own('mark')) found.push({ text: say`${stage.id} gets no mark` })
    if (stage.monitored && !own('reset', fit)) found.push({ text: say`the monitor of ${stage.id} is not reset` })
    if (stage.media !== 'softener') {
      const count = (verb: SheetStep['verb']): number =>
        steps.filter((step) => step.verb === verb && step.at[0] === stage.id && step.at.length === 1).length
      if (count('take-out') !== 1) found.push({ text: say`${stage.id} is taken out ${count('take-out')} times` })
      if (count('fit') !== 1) found.push({ text: say`${stage.id} is fitted ${count('fit')} times` })
    }
  }
  if (!steps.some(({ verb }, index) => verb === 'record' && index > lastFit))
    found.push({ text: say`nothing is written down after the last part` })
  for (const hold of holds) {
    const told = steps.some(({ verb, to }, index) => index > lastFit && (verb === 'tell' || (verb === 'hold' && to === hold.kind)))
    if (!told) found.push({ text: say`the customer is not told of the hold: ${hold.kind}` })
  }
  return found
}

/** At the end everything stands as service needs it. */
export const restore: EndRule = ({ train }, state) => {
  const found: { text: string }[] = []
  for (const id of state.shut) found.push({ text: say`${id} is left shut` })
  for (const id of state.half.keys()) found.push({ text: say`${id} is left half open` })
  for (const id of state.taps) found.push({ text: say`${id} is left running` })
  for (const id of state.bypassed) found.push({ text: say`${id} is left in bypass` })
  for (const id of [...state.still, ...state.off]) found.push({ text: say`${id} is left without power` })
  for (const id of state.cocks) found.push({ text: say`the cock of ${id} is left open` })
  for (const line of state.apart) if (!guarded(train.pipes, line)) found.push({ text: say`${line} is left off` })
  for (const [id, { open, element }] of state.stages) {
    if (open) found.push({ text: say`${id} is left open` })
    if (element === 'none') found.push({ text: say`${id} is left without an element` })
  }
  return found
}

const guarded = (pipes: Checking['train']['pipes'], line: string): boolean =>
  pipes.some(({ from, to, restrictor, check }) => `${from}>${to}` === line && (restrictor === true || check === true))

/** A restrictor or a check valve goes back with its line. */
export const refit: EndRule = ({ train }, state) =>
  [...state.apart]
    .filter((line) => guarded(train.pipes, line))
    .map((line) => ({ text: say`${line}, with its restrictor or check valve, is left off` }))

/** Joints that were reopened are looked at, at rest and with flow, once the last of them is back. */
export const leak: EndRule = (checking, state) =>
  wetWork(checking) && state.leakWanted ? [{ text: say`nobody looks for leaks after the last joint` }] : []

/** Whoever must have water keeps it by the bypass, or is told before it stops. */
export const continuity: StepRule = ({ train, due }, state, step, after) => {
  const needing = train.nodes.filter((node) => node.kind === 'outlet' && node.mustGoOn === true)
  if (needing.length === 0 || !MOVES_WATER.includes(step.verb)) return null
  const stops = needing.find(({ id }) => state.watered.has(id) && !after.watered.has(id))
  if (!stops) return null
  const wet = due.filter(({ stage }) => !isDry(stage)).map(({ stage }) => stage)
  const bypass = train.nodes.find((node) => node.kind === 'bypass' && wet.every((stage) => goesRound(train, node, stage.id)))
  if (!bypass) return state.told ? null : say`the water of ${stops.id} stops before anybody was told`
  if (!state.wentRound.has(bypass.id)) return say`${bypass.id} goes round the work and was not turned first`
  return state.toldSinceTurn ? null : say`the water of ${stops.id} stops again and nobody was told`
}
