import type { Medium } from '../../catalogue/names'
import type { RuleId } from '../check'
import { comesTo, isHot } from '../graph'
import { isDry, shutsItself, stageOf } from '../machine/state'
import type { SheetStep, Train } from '../types'
import { type HarmRow, instead, kindOf, moved, without } from './made'
import { OPENING_HARMS } from './opening-harms'

/** A good sheet's steps with one harm in them, and the rule by which somebody in the trade would name it. */
export interface Harm {
  name: string
  rule: RuleId
  steps: SheetStep[]
}

const opens = (step: SheetStep | undefined, train: Train, kind: string): boolean =>
  step?.verb === 'open' && kindOf(train, step.at[0]) === kind

const RUNS: readonly SheetStep['verb'][] = ['flush', 'trickle', 'backwash']
/** Media whose flush has a figure in minutes or litres. */
const HAS_FIGURES: readonly Medium[] = ['sediment', 'carbon-block', 'fluoride-media', 'membrane', 'fridge-internal', 'fridge-inline']

/** One harm a rule, made wherever a sheet has what it takes; null where it has not. */
const HARMS: readonly HarmRow[] = [
  ...OPENING_HARMS,
  [
    'amount',
    'for no time at all',
    (_, steps, index) => (RUNS.includes(steps[index]?.verb ?? 'ask') ? instead(steps, index, { minutes: 0, litres: 0 }) : null),
  ],
  [
    'amount',
    'for half a minute',
    (train, steps, index) => {
      const { verb, at } = steps[index] as SheetStep
      // Of some media nobody gives a figure: half a minute until clear may do.
      const figures = at.some((id) => HAS_FIGURES.includes(stageOf(train, id)?.media ?? 'air-filter'))
      return verb === 'trickle' || verb === 'backwash' || (verb === 'flush' && figures)
        ? instead(steps, index, { minutes: 0.5, litres: 0.2 })
        : null
    },
  ],
  ['amount', 'for an hour', (_, steps, index) => (steps[index]?.verb === 'soak' ? instead(steps, index, { hours: 1 }) : null)],
  [
    'vent',
    'with every tap shut while it fills',
    (train, steps, index) => {
      if (steps[index]?.verb !== 'soak') return null
      const closed = steps.findLastIndex((step, at) => at < index && step.verb === 'close-housing' && step.at[0] === steps[index]?.at[0])
      const runs = (step: SheetStep, at: number): boolean => at > closed && at < index && opens(step, train, 'outlet')
      return steps.some(runs) ? without(steps, runs) : null
    },
  ],
  [
    'dry-run',
    'left on',
    (train, steps, index) => {
      const { verb, at } = steps[index] as SheetStep
      return verb === 'power-off' && kindOf(train, at[0]) === 'pump'
        ? without(steps, (step) => (step.verb === 'power-off' || step.verb === 'power-on') && step.at[0] === at[0])
        : null
    },
  ],
  [
    'dark-lamp',
    'and its warming up left out',
    (train, steps, index) => {
      const { verb, at } = steps[index] as SheetStep
      return verb === 'wait' && at.some((id) => stageOf(train, id)?.housing === 'uv-reactor')
        ? without(steps, (_, one) => one === index)
        : null
    },
  ],
  [
    'dark-lamp',
    'never lit again',
    (train, steps, index) => {
      const { verb, at } = steps[index] as SheetStep
      return verb === 'power-on' && at.some((id) => stageOf(train, id)?.housing === 'uv-reactor')
        ? without(steps, (_, one) => one === index)
        : null
    },
  ],
  [
    'scald',
    'at a hot tap',
    (train, steps, index) => {
      const { verb } = steps[index] as SheetStep
      const hot = train.nodes.find((node) => node.kind === 'outlet' && isHot(train, node.id))
      return verb === 'relieve' && hot ? instead(steps, index, { at: [hot.id] }) : null
    },
  ],
  [
    'follow',
    'after the tank is opened again',
    (train, steps, index) => {
      const step = steps[index] as SheetStep
      if (!opens(step, train, 'tank') || step.to !== 'half') return null
      const tank = step.at[0] as string
      const flush = steps.findLastIndex(
        (one, at) =>
          at < index && one.verb === 'flush' && one.at.some((id) => comesTo(train, id, tank) && stageOf(train, id)?.media === 'membrane'),
      )
      return flush < 0 ? null : moved(steps, index, flush)
    },
  ],
  [
    'catch',
    'eased, opened or freed with nothing underneath',
    (_, steps, index) => (steps[index]?.verb === 'catch' ? without(steps, (step) => step.verb === 'catch') : null),
  ],
  [
    'record',
    'and the readings after it before its flush',
    (_, steps, index) => {
      const step = steps[index] as SheetStep
      const flush = steps.findIndex(({ verb }) => verb === 'flush')
      return step.verb === 'measure' && step.key.endsWith(`close-out/measure:${step.at[0]}`) && flush >= 0 && index > flush
        ? moved(steps, index, flush)
        : null
    },
  ],
  [
    'restore',
    'left as it was turned',
    (_, steps, index) => {
      const step = steps[index] as SheetStep
      const last = steps.findLastIndex(({ verb, at }) => verb === 'turn' && at[0] === step.at[0])
      return step.verb === 'turn' && step.to === 'service' && index === last ? without(steps, (_one, at) => at === index) : null
    },
  ],
  [
    'direction',
    'without the question which side is the inlet',
    (_, steps, index) => (steps[index]?.verb === 'ask' ? without(steps, (_one, at) => at === index) : null),
  ],
  [
    'seal',
    'closed on a seal nobody looked at',
    (train, steps, index) => {
      const { verb, at } = steps[index] as SheetStep
      const stage = stageOf(train, at[0]?.split('.')[0] ?? '')
      // A new one was looked at before it was laid in.
      const renewed = steps.some((step) => step.verb === 'fit' && step.at[0] === at[0])
      return verb === 'grease' && stage && !renewed && !isDry(stage) && !shutsItself(stage)
        ? without(steps, (_one, one) => one === index)
        : null
    },
  ],
  [
    'slow',
    'thrown open',
    (_, steps, index) => (steps[index]?.verb === 'open' && steps[index]?.to === 'half' ? instead(steps, index, { to: 'full' }) : null),
  ],
]

/** Every harm that can be done to a visit's steps, by the rule it breaks. */
export const harmsOf = (train: Train, steps: readonly SheetStep[]): Harm[] =>
  steps.flatMap((step, index) =>
    HARMS.flatMap(([rule, how, make]) => {
      const made = make(train, steps, index)
      return made ? [{ name: `${step.key} ${how}`, rule, steps: made }] : []
    }),
  )
