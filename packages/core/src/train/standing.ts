import { say } from '../words'
import { nodeById } from './graph'
import { lineLabel, stageLabel, tapLabel, valveLabel, withTwins } from './labels'
import { inService, play, type TrainState } from './machine/state'
import type { SheetStep, StageNode, Train } from './types'

const sentence = (text: string): string => `${text.replace(/^./, (first) => first.toUpperCase())}.`

const SWITCHED: Partial<Record<string, string>> = {
  get pump() {
    return say`the pump`
  },
  get heater() {
    return say`the heater`
  },
  get outlet() {
    return say`the appliance`
  },
  get stage() {
    return say`the lamp`
  },
}

function ofStage(stage: StageNode, state: TrainState): string[] {
  const now = state.stages.get(stage.id)
  if (!now) return []
  const name = stageLabel(stage)
  const empty = now.element === 'none'
  if (now.open) return [empty ? say`${name} is open, with no part in it` : say`${name} is open`]
  return empty ? [say`${name} is closed, with no part in it`] : []
}

/** What stands otherwise than in service, in words. */
function standing(train: Train, state: TrainState): string[] {
  const service = inService(train)
  const other = (now: ReadonlySet<string>, then: ReadonlySet<string>): string[] => [...now].filter((id) => !then.has(id))
  const shut = other(state.shut, service.shut)
  const switched = other(new Set([...state.off, ...state.still]), new Set([...service.off, ...service.still]))
  return [
    ...shut.map((id) => say`${valveLabel(train, id)} is shut`),
    ...[...state.half.keys()].filter((id) => !shut.includes(id)).map((id) => say`${valveLabel(train, id)} stands half open`),
    ...other(state.bypassed, service.bypassed).map(() => say`the bypass is on: the water goes round the set, untreated`),
    ...train.nodes.flatMap((node) => (node.kind === 'stage' ? ofStage(node, state) : [])),
    ...other(state.apart, service.apart).map((line) => say`${lineLabel(train, line)} is off`),
    ...switched.map((id) => say`${SWITCHED[nodeById(train, id)?.kind ?? ''] ?? say`the appliance`} is switched off`),
    ...other(state.taps, service.taps).map((id) => say`${tapLabel(train, id)} is open`),
  ].map(sentence)
}

/**
 * What stands otherwise once these steps are done than the whole sheet would leave it, in words for the slip and for who comes next; nothing
 * where all of it was done.
 */
export function leftStanding(drawn: Train, steps: readonly SheetStep[], done: ReadonlySet<string>): string[] {
  const train = withTwins(drawn)
  const [now, end] = [inService(train), inService(train)]
  for (const step of steps) {
    if (done.has(step.key)) play(train, now, step)
    play(train, end, step)
  }
  const meant = standing(train, end)
  return standing(train, now).filter((text) => !meant.includes(text))
}
