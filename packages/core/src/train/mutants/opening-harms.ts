import { CARBONS } from '../../catalogue/names'
import { comesTo, stagesInFlow } from '../graph'
import { isDry, isInline, shutsItself, stageOf } from '../machine/state'
import type { SheetStep, StageNode, Train } from '../types'
import { type HarmRow, instead, kindOf, moved, without } from './made'

const first = (step: SheetStep | undefined): string => step?.at[0] ?? ''
const wet = (train: Train, id: string): StageNode | null => {
  const stage = stageOf(train, id)
  return stage && !isDry(stage) && !shutsItself(stage) ? stage : null
}
const OPENS: readonly SheetStep['verb'][] = ['loosen', 'open-housing']

/** Harms at opening, fitting, closing and flushing. */
export const OPENING_HARMS: readonly HarmRow[] = [
  [
    'pressure',
    'with nothing let out before it',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const opened = step.verb === 'loosen' && wet(train, first(step)) !== null
      const before = steps.slice(0, index)
      if (!opened || before.some(({ verb }) => OPENS.includes(verb) || verb === 'disconnect')) return null
      const lets = (one: SheetStep, at: number): boolean => at < index && (one.verb === 'relieve' || one.verb === 'drain')
      return steps.some(lets) ? without(steps, lets) : null
    },
  ],
  [
    'pressure',
    'before its water is shut',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const shut = steps.findIndex(({ verb }) => verb === 'close' || verb === 'turn')
      return step.verb === 'loosen' && wet(train, first(step)) && shut >= 0 && shut < index ? moved(steps, index, shut) : null
    },
  ],
  [
    'power',
    'left on where it is opened',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const reactor = stageOf(train, first(step))?.housing === 'uv-reactor'
      const opens = steps.some(({ verb, at }) => verb === 'open-housing' && stageOf(train, at[0] ?? '')?.housing === 'uv-reactor')
      return step.verb === 'power-off' && reactor && opens ? without(steps, (_, at) => at === index) : null
    },
  ],
  [
    'one-open',
    'before the one before it is closed',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const closed = steps.findLastIndex(({ verb }, at) => verb === 'close-housing' && at < index)
      const [here, other] = [stageOf(train, first(step)), stageOf(train, first(steps[closed]))]
      const neighbours = step.verb === 'open-housing' && here && other && here.media !== other.media
      const reactor = here?.housing === 'uv-reactor' || other?.housing === 'uv-reactor'
      return neighbours && !reactor ? moved(steps, index, closed) : null
    },
  ],
  [
    'old-gasket',
    'and nobody looks into it',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const stage = stageOf(train, first(step))
      return step.verb === 'inspect' && stage && stage.media !== 'softener' && step.at[0] === stage.id && !isDry(stage)
        ? without(steps, (_, at) => at === index)
        : null
    },
  ],
  [
    'refit',
    'with its restrictor or check valve left off',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const guarded = train.pipes.some(({ from, to, restrictor, check }) => `${from}>${to}` === first(step) && (restrictor || check))
      return step.verb === 'connect' && guarded ? without(steps, (_, at) => at === index) : null
    },
  ],
  [
    'alone',
    'for half its minutes',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const alone = step.at.some((id) => stageOf(train, id)?.media === 'fluoride-media')
      const earlier = steps.slice(0, index).some(({ verb, at }) => verb === 'flush' && at.some((id) => step.at.includes(id)))
      return step.verb === 'flush' && alone && !earlier ? instead(steps, index, { minutes: 5 }) : null
    },
  ],
  [
    'onward',
    'through what stands behind it',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const sheds = step.verb === 'flush' && CARBONS.some((media) => step.at.some((id) => stageOf(train, id)?.media === media))
      const tap = train.nodes.find((node) => node.kind === 'outlet' && step.at.some((id) => comesTo(train, id, node.id)))
      return sheds && tap && step.to?.includes('>') ? instead(steps, index, { to: tap.id }) : null
    },
  ],
  [
    'soak',
    'in the way of the water',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      if (step.verb !== 'soak') return null
      const aside = (one: SheetStep, at: number): boolean =>
        at < index && (one.verb === 'turn' ? one.to === 'bypass' : one.verb === 'close' && kindOf(train, first(one)) !== 'outlet')
      const last = steps.findLastIndex(aside)
      return last >= 0 && steps[last]?.verb === 'turn' ? without(steps, (_, at) => at === last) : null
    },
  ],
  [
    'chlorine',
    'and chlorine poured in while the elements are in',
    (train, steps, index) => {
      const source = train.nodes.find(({ kind }) => kind === 'source')
      const spoiled = stagesInFlow(train).some(
        ({ media, id }) => (CARBONS.includes(media) || media === 'membrane') && comesTo(train, source?.id ?? '', id),
      )
      const step = steps[index] as SheetStep
      if (index !== 0 || !source || !spoiled) return null
      return [step, { ...step, key: 'added/dose', verb: 'dose', at: [source.id], text: 'Pour chlorine in', why: '-' }, ...steps.slice(1)]
    },
  ],
  [
    'dry-heat',
    'while no water comes to it',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      const shut = steps.findIndex(({ verb, at }) => verb === 'take-out' && !isInlineDry(train, at[0] ?? ''))
      return step.verb === 'power-on' && kindOf(train, first(step)) === 'heater' && shut >= 0 && shut < index
        ? moved(steps, index, shut)
        : null
    },
  ],
  [
    'continuity',
    'and nobody told that it stops',
    (train, steps, index) => {
      const stops = steps.findIndex(({ verb, at }) => verb === 'close' && kindOf(train, at[0]) === 'valve')
      const needing = train.nodes.some(
        (node) => node.kind === 'outlet' && node.mustGoOn === true && comesTo(train, first(steps[stops]), node.id),
      )
      const bypass = steps.some(({ verb }) => verb === 'turn')
      // A tank behind the valve goes on giving water.
      const stored = train.nodes.some(({ kind }) => kind === 'tank')
      return needing && !bypass && !stored && stops === index ? without(steps, ({ verb }, at) => verb === 'tell' && at < index) : null
    },
  ],
  [
    'leak',
    'and nobody looks for leaks',
    (_, steps, index) => {
      const last = steps.findLastIndex(({ verb }) => verb === 'leak-check')
      return index === last && last >= 0 ? without(steps, ({ verb }) => verb === 'leak-check') : null
    },
  ],
]

const isInlineDry = (train: Train, id: string): boolean => {
  const stage = stageOf(train, id)
  return stage === undefined || (isDry(stage) && !isInline(stage))
}
