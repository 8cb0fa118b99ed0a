import type { OutletNode, SheetSchools, SheetStep, StageNode, TankNode, Task, Train, TrainNode, ValveNode, Verb } from './types'

/** What every phase of the generator works from: the train read once, and what is due. */
export interface Plan {
  train: Train
  path: TrainNode[]
  due: { stage: StageNode; task: Task }[]
  /** The valve that stops water reaching the first due stage. */
  feed: ValveNode
  tank: TankNode | null
  outlet: OutletNode
  pump: string | null
  schools: SheetSchools
}

export interface StepDraft {
  text: string
  why: string
  to?: string
  caution?: string
  evidence?: SheetStep['evidence']
  minutes?: number
  litres?: number
  tools?: string[]
  consumables?: string[]
}

/** A phase adds its steps in order; keys are stable because they name the phase, the verb and the thing. */
export class StepList {
  readonly steps: SheetStep[] = []

  add(phase: string, verb: Verb, at: string[], draft: StepDraft): void {
    const { minutes = 1, tools = [], consumables = [], ...rest } = draft
    const target = draft.to === undefined ? '' : `>${draft.to}`
    const key = `${phase}/${verb}:${at.join('+')}${target}`
    if (this.steps.some((step) => step.key === key)) throw new RangeError(`step key must be new, got ${key} twice`)
    this.steps.push({ n: this.steps.length + 1, key, verb, at, minutes, tools, consumables, ...rest })
  }
}

/** Stages the water meets after this one on its way to the outlet. */
export function laterStages(plan: Plan, stage: StageNode): StageNode[] {
  const index = plan.path.findIndex(({ id }) => id === stage.id)
  return plan.path.slice(index + 1).filter((node): node is StageNode => node.kind === 'stage')
}

/** The line that leaves a stage towards the outlet, as `"from>to"`. */
export function lineAfter(plan: Plan, stage: StageNode): string {
  const index = plan.path.findIndex(({ id }) => id === stage.id)
  return `${stage.id}>${(plan.path[index + 1] as TrainNode).id}`
}

/** The line that enters a stage, as `"from>to"`. */
export function lineBefore(plan: Plan, stage: StageNode): string {
  const index = plan.path.findIndex(({ id }) => id === stage.id)
  return `${(plan.path[index - 1] as TrainNode).id}>${stage.id}`
}
