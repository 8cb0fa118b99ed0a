import type { Medium } from '../../catalogue/names'
import { ownKindOf } from '../../catalogue/own-kinds'
import { say } from '../../words'
import { flowOf } from '../flow'
import { stageOf } from '../machine/state'
import type { HoldKind, OutletNode, StageNode } from '../types'
import type { Checking, CheckStep, EndRule, StepRule } from './types'

/**
 * The least that is run to waste before service, minutes and litres, whichever comes last; where the media table gives a range, its lower
 * end. What it gives no figure for wants more than nothing.
 */
const LEAST: Partial<Record<Medium, { minutes?: number; litres?: number }>> = {
  sediment: { litres: 5 },
  'carbon-block': { minutes: 10, litres: 4 },
  'sediment-carbon': { minutes: 10, litres: 5 },
  'fluoride-media': { minutes: 10 },
  membrane: { litres: 8 },
  'fridge-internal': { litres: 8 },
  'fridge-inline': { litres: 4 },
  ultrafiltration: {},
  'iron-bed': {},
  'ph-bed': {},
  'post-carbon': {},
  remineraliser: {},
  'deionising-resin': {},
}
const SOAK_HOURS = 48
const TRICKLE_MINUTES = 30
const BACKWASH_MINUTES = 3
const LEAST_HOLD_HOURS: Partial<Record<HoldKind, number>> = { 'low-flow': 72, ice: 24 }
/** A gauge, a watch and a bucket: what is short by less than this is not short. */
const NEARLY = 0.95

const sum = (steps: readonly CheckStep[], of: (step: CheckStep) => number | undefined): number =>
  steps.reduce((total, step) => total + (of(step) ?? 0), 0)

/** Hours that a stage soaks: those of its own kind, else a carbon bed's. */
export const soakHours = (stage: StageNode | undefined): number => (stage && ownKindOf(stage)?.soakHours) || SOAK_HOURS

/** What each part is flushed by after it went in, taken together. */
export const flushedEnough: EndRule = ({ due, steps }) =>
  due.flatMap(({ stage }) => {
    const least = ownKindOf(stage)?.flush ?? LEAST[stage.media]
    if (least === undefined) return []
    const fit = steps.findLastIndex(({ verb, at }) => verb === 'fit' && at[0] === stage.id)
    const own = steps.filter(({ verb, at }, index) => index > fit && verb === 'flush' && at.includes(stage.id))
    const last = own.at(-1)
    if (last === undefined) return []
    const short = (text: string) => [{ text: say`${stage.id} is flushed too little: ${text}`, step: last.key }]
    const minutes = sum(own, (step) => step.minutes)
    if (minutes <= 0 || minutes < (least.minutes ?? 0) * NEARLY) return short(say`${minutes} of ${least.minutes ?? say`some`} minutes`)
    const litres = own.every((step) => step.litres === undefined) ? null : sum(own, (step) => step.litres)
    if (litres !== null && (litres <= 0 || litres < (least.litres ?? 0) * NEARLY))
      return short(say`${litres} of ${least.litres ?? say`some`} L`)
    return []
  })

/** What runs out in a step comes out in its minutes: by the outlet's own flow, or by more than any of its use gives. */
export const flowsOut: StepRule = ({ train }, _, { verb, at, to, minutes, litres }) => {
  if (verb !== 'flush' && verb !== 'drain') return null
  const outlet = train.nodes.find((node): node is OutletNode => node.kind === 'outlet' && node.id === to)
  const flow = flowOf(outlet, 'most')
  const tank = verb === 'drain' ? train.nodes.find((node) => node.kind === 'tank' && node.id === at[0]) : undefined
  const out = tank?.kind === 'tank' ? tank.volumeL : (litres ?? 0)
  return minutes >= (out / flow) * NEARLY ? null : say`${out} L do not run out in ${minutes} minutes`
}

/** Whatever is flushed runs for some time; a bed has its hours, its trickle and its backwash; what people hold off from has its own. */
export const longEnough: StepRule = ({ train }, _, { verb, at, minutes, litres, hours }) => {
  if (verb === 'flush' && (minutes <= 0 || litres === 0)) return say`nothing runs: ${minutes} minutes, ${litres ?? say`no`} L`
  if (verb === 'soak' && hours !== undefined) {
    const least = soakHours(stageOf(train, at[0] ?? ''))
    if (hours < least) return say`it soaks ${hours} of ${least} hours`
  }
  if (verb === 'trickle' && minutes < TRICKLE_MINUTES * NEARLY) return say`it trickles ${minutes} of ${TRICKLE_MINUTES} minutes`
  if (verb === 'backwash' && minutes < BACKWASH_MINUTES * NEARLY) return say`it is backwashed ${minutes} of ${BACKWASH_MINUTES} minutes`
  return null
}

export const heldEnough: EndRule = ({ holds }: Checking) =>
  holds.flatMap(({ kind, hours }) => {
    const least = LEAST_HOLD_HOURS[kind] ?? 0
    return hours !== undefined && (hours <= 0 || hours < least) ? [{ text: say`the hold ${kind} ends after ${hours} hours` }] : []
  })
