import type { Housing, Medium } from '../catalogue/names'
import type { OwnKind } from '../catalogue/own-kinds'
import type { MessageTemplate } from './say'

/** One system's plumbing as a graph, in the spelling of the scriptable core. */
export type TrainNode =
  | { id: string; kind: 'source' }
  | ValveNode
  | { id: string; kind: 'bypass'; enters: string; leaves: string }
  | StageNode
  | TankNode
  | { id: string; kind: 'tee' }
  | OutletNode
  | { id: string; kind: 'drain' }
  | { id: string; kind: 'heater' }
  | PumpNode

export interface PumpNode {
  id: string
  kind: 'pump'
  type?: 'well' | 'booster' | 'delivery'
}

export interface ValveNode {
  id: string
  kind: 'valve'
  turns: 'quarter' | 'multi'
}

export interface TankNode {
  id: string
  kind: 'tank'
  volumeL: number
  /** False when the tank has no valve of its own and must be emptied instead. */
  valve: boolean
}

export interface OutletNode {
  id: string
  kind: 'outlet'
  use: 'drinking' | 'house' | 'ice' | 'appliance' | 'hose'
  mustGoOn?: boolean
  /** The same word: on one plug. */
  appliance?: string
  flowLMin?: number
}

export interface StageNode {
  id: string
  kind: 'stage'
  media: Medium
  /** What the firm says of its own kind; only where `media` is one. */
  own?: OwnKind | undefined
  housing: Housing
  /** Whole number from 1 in flow order. */
  position: number
  reliefButton?: boolean
  drainCocks?: 0 | 1 | 2
  ownShutoff?: boolean
  selfSealing?: boolean
  endUp?: 'washer' | 'arrow' | 'either'
  inletConfirmed?: boolean
  /** Another body here is called the same: it is told by its position. Set by the sheet, never stored. */
  twin?: boolean
  monitored?: boolean
  washable?: boolean
  /** The same word on lamp and sleeve: one reactor, with a ballast of its own. Where it is not said neighbours in series share one. */
  reactor?: string
  /** Litres of medium in a tank. */
  bedL?: number
}

export interface TrainPipe {
  from: string
  to: string
  restrictor?: boolean
  check?: boolean
}

export interface Train {
  nodes: TrainNode[]
  /** In service direction. */
  pipes: TrainPipe[]
}

export type Action = 'change' | 'wash' | 'refill' | 'clean'
export interface Task {
  stage: string
  action: Action
}

export interface SheetSchools {
  closing: 'hand-only' | 'hand-and-quarter-turn'
  place?: 'in-place' | 'at-the-bench'
  seals: 'reuse' | 'new'
  order: 'one-at-a-time' | 'all-out'
  tankWater: 'keep' | 'drain'
}

/** Every verb a sheet is made of; the last three are of disinfection. */
export const VERBS = [
  'measure',
  'tell',
  'ask',
  'power-off',
  'power-on',
  'close',
  'open',
  'turn',
  'relieve',
  'catch',
  'drain',
  'loosen',
  'open-housing',
  'take-out',
  'inspect',
  'wash',
  'grease',
  'fit',
  'close-housing',
  'disconnect',
  'connect',
  'flush',
  'soak',
  'trickle',
  'backwash',
  'wait',
  'leak-check',
  'reset',
  'mark',
  'record',
  'hold',
  'dose',
  'strip',
  'sample',
] as const
export type Verb = (typeof VERBS)[number]

export interface SheetStep {
  /** Rises within a visit, from 1. */
  n: number
  /** Stable: the same act on the same thing keeps its key when the sheet is generated again. */
  key: string
  verb: Verb
  at: string[]
  to?: string
  text: string
  why: string
  /** Where text or why hold figures: the templates and the figures in SI, for the firm's units. */
  said?: MessageTemplate
  caution?: string
  /** What the step wants as proof beside a tick. */
  evidence?: 'reading' | 'finding' | 'timer' | 'answer'
  minutes: number
  litres?: number
  hours?: number
  tools: string[]
  consumables: string[]
  /** The part of the visit it stands in, which somebody who knows the work ticks at once. */
  block: string
}

export const HOLD_KINDS = ['low-flow', 'ice', 'first-tank', 'boil-or-bottled', 'do-not-drink', 'do-not-use'] as const
export type HoldKind = (typeof HOLD_KINDS)[number]
export interface SheetHold {
  kind: HoldKind
  hours: number
  text: string
}
export interface SheetVisit {
  minGapHoursBefore: number
  maxGapHoursBefore?: number
  steps: SheetStep[]
}
export interface Sheet {
  visits: SheetVisit[]
  holds: SheetHold[]
}

/** Why no sheet could be made; said to the person, never guessed over. */
export type SheetRefusal = {
  ok: false
  reason: 'unknown-stage' | 'no-tasks' | 'no-outlet' | 'no-isolation'
  text: string
}
export type SheetResult = ({ ok: true } & Sheet) | SheetRefusal
