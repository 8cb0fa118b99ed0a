import type { TrainState } from '../machine/state'
import type { SheetHold, SheetSchools, SheetStep, SheetVisit, StageNode, Task, Train } from '../types'

export const RULES = [
  'pressure',
  'catch',
  'power',
  'one-open',
  'old-gasket',
  'seal',
  'direction',
  'refit',
  'alone',
  'onward',
  'first-water',
  'soak',
  'chlorine',
  'dry-heat',
  'continuity',
  'slow',
  'leak',
  'restore',
  'record',
  'amount',
  'vent',
  'dry-run',
  'dark-lamp',
  'scald',
  'follow',
] as const
export type RuleId = (typeof RULES)[number]

export interface Finding {
  rule: RuleId
  /** Key of the step it is about; null where the sheet as a whole lacks something. */
  step: string | null
  text: string
}

/** What the checker looks at of a step: the words are for people. */
export type CheckStep = Pick<SheetStep, 'key' | 'verb' | 'at' | 'to' | 'minutes' | 'litres' | 'hours'>
export interface CheckVisit extends Pick<SheetVisit, 'minGapHoursBefore'> {
  steps: readonly CheckStep[]
}

export type CheckHold = Pick<SheetHold, 'kind'> & Partial<Pick<SheetHold, 'hours'>>

export interface CheckInput {
  train: Train
  tasks: readonly Task[]
  schools: SheetSchools
  visits: readonly CheckVisit[]
  holds?: readonly CheckHold[]
}

/** What every rule looks at. */
export interface Checking {
  train: Train
  schools: SheetSchools
  due: readonly { stage: StageNode; task: Task }[]
  visits: readonly CheckVisit[]
  steps: readonly CheckStep[]
  holds: readonly CheckHold[]
}

/** Judges a step on the state before it and the one it leaves; says what is wrong. */
export type StepRule = (checking: Checking, state: TrainState, step: CheckStep, after: TrainState) => string | null
/** Judges the sheet as a whole and the state it leaves. */
export type EndRule = (checking: Checking, state: TrainState) => { text: string; step?: string }[]
