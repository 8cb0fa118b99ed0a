import { say } from '../../words'
import { forwardOf, inOf, spread } from '../machine/network'
import { MOVES_WATER, stageOf, type TrainState } from '../machine/state'
import type { StageNode, Train } from '../types'
import { SPOILED, shedsNew } from './flushing'
import type { Checking, StepRule } from './types'

/** Everything the water of a node goes on to, in service direction, as the joints are. */
const beyond = (next: ReadonlyMap<string, readonly string[]>, from: string): Set<string> => spread(next.get(from) ?? [], next)

/** Ends by which water runs away by itself now: taps that run, lines that hang open, drains, storage that takes it up. */
function isEnd(train: Train, state: TrainState, id: string): boolean {
  const node = train.nodes.find((one) => one.id === id)
  return node?.kind === 'drain' || node?.kind === 'tank' || state.taps.has(id) || [...state.apart].some((line) => line.startsWith(`${id}>`))
}

/** The first thing that the unflushed water of this stage runs into now; null where it harms nothing. */
function harmedBy(train: Train, state: TrainState, stage: StageNode): string | null {
  const next = forwardOf(train, state)
  const reached = beyond(next, stage.id)
  for (const id of reached) {
    const node = train.nodes.find((one) => one.id === id)
    if (node?.kind === 'tank' && node.valve && stage.media !== 'post-carbon') return id
    if (node?.kind === 'outlet' && state.taps.has(id) && (node.use === 'ice' || node.use === 'appliance')) return id
    const runs = (): boolean => [id, ...beyond(next, id)].some((one) => isEnd(train, state, one))
    if (node?.kind === 'heater' && [...beyond(next, id)].some((one) => state.taps.has(one))) return id
    if (node?.kind === 'stage' && SPOILED.includes(node.media) && state.stages.get(id)?.element !== 'none' && runs()) return id
  }
  return null
}

/** A membrane that is not flushed yet and whose water comes to this tank: it only seeps, so that it is judged where storage is opened to it. */
function preserved({ train, due }: Checking, state: TrainState, tank: string): string | null {
  if (!train.nodes.some(({ id, kind }) => id === tank && kind === 'tank')) return null
  const next = forwardOf(train, state)
  for (const [id, { element, flushed, fitted }] of state.stages)
    if (
      isDue(due, id) &&
      stageOf(train, id)?.media === 'membrane' &&
      fitted > 0 &&
      element !== 'none' &&
      !flushed &&
      beyond(next, id).has(tank)
    )
      return id
  return null
}

/** What is not of the work and was put back is the old part: it sheds nothing. */
const isDue = (due: Checking['due'], id: string): boolean => due.some(({ stage }) => stage.id === id)

/** What a part still sheds, with what it runs into. */
function carried({ train, due }: Checking, state: TrainState): Map<string, string> {
  const found = new Map<string, string>()
  for (const [id, { element, flushed }] of state.stages) {
    const stage = stageOf(train, id)
    // What sits inside an appliance cannot be kept from its ice; a membrane's preservative only seeps.
    if (!stage || !isDue(due, id) || !shedsNew(stage) || stage.media === 'membrane' || stage.housing === 'fridge-cartridge') continue
    if (element === 'old' || element === 'none' || flushed) continue
    if (!state.watered.has(inOf(train, id))) continue
    const harmed = harmedBy(train, state, stage)
    if (harmed !== null) found.set(id, harmed)
  }
  return found
}

/** Water is followed at every step that moves it: what a new part sheds reaches nothing that it harms before it was flushed. */
export const follow: StepRule = (checking, state, step, after) => {
  if (!MOVES_WATER.includes(step.verb)) return null
  const opened = step.verb === 'open' ? preserved(checking, after, step.at[0] ?? '') : null
  if (opened !== null) return say`the preservative of ${opened} runs into ${step.at[0] ?? ''}: it is not flushed yet`
  const now = carried(checking, after)
  if (now.size === 0) return null
  const before = carried(checking, state)
  const [first] = [...now].filter(([id, harmed]) => before.get(id) !== harmed)
  return first ? say`what ${first[0]} sheds runs into ${first[1]}: it is not flushed yet` : null
}

/** What a bed is backwashed of goes to a drain or hose of its own, or an outlet: not up the drain line of another stage. */
export const ownDrain: StepRule = ({ train }, _state, { verb, at, to }) => {
  if (verb !== 'backwash' || to === undefined) return null
  const others = train.pipes.filter((pipe) => pipe.to === to && stageOf(train, pipe.from) !== undefined)
  const drain = train.nodes.some(({ id, kind }) => id === to && kind === 'drain')
  if (!drain || others.length === 0 || others.some(({ from }) => at.includes(from))) return null
  return say`${at[0] ?? ''} is backwashed into ${to ?? ''}, the drain of ${others[0]?.from ?? ''}`
}
