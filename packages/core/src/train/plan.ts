import { ownKindOf, profileOf } from '../catalogue/own-kinds'
import { comesTo, stagesInFlow } from './graph'
import { isDry, shutsItself } from './machine/state'
import type { OutletNode, SheetSchools, StageNode, TankNode, Task, Train, TrainNode } from './types'

export interface Due {
  stage: StageNode
  task: Task
}

/** What every phase of the generator works from: the train read once, and what is due. */
export interface Plan {
  train: Train
  schools: Required<SheetSchools>
  /** In flow order. */
  due: Due[]
  /** Where readings are taken and people are told: the tap the work is for. */
  tap: string
  /** No chlorine in the water that comes, nor fed here. */
  unchlorinated: boolean
  /** Shut-offs that are not to be trusted: they would not close, or stand on the wrong side. */
  untrusted: ReadonlySet<string>
  /** Shut-offs that were shut and let water pass: shut as before, but something further up as well. */
  passing: ReadonlySet<string>
  /** Stages that came to the work when the rest was too far on: done in a closing of their own, after it. */
  later: ReadonlySet<string>
  /** These have readings and words of their own: the others' were given before. */
  closedOut: boolean
  /** Answers given so far, by step key. */
  answers: Readonly<Record<string, string>>
}

/** A plan on a train as it is in service, with nothing answered and nothing found; what differs is said. */
export const planOn = (train: Train, schools: SheetSchools, more: Partial<Plan> = {}): Plan => ({
  train,
  due: [],
  tap: '',
  unchlorinated: false,
  schools: { place: 'in-place', ...schools },
  later: new Set(),
  closedOut: false,
  untrusted: new Set(),
  passing: new Set(),
  answers: {},
  ...more,
})

export const nodesOf = <K extends TrainNode['kind']>(train: Train, kind: K): Extract<TrainNode, { kind: K }>[] =>
  train.nodes.filter((node): node is Extract<TrainNode, { kind: K }> => node.kind === kind)

export const outlets = (train: Train): OutletNode[] => nodesOf(train, 'outlet')
export const tanks = (train: Train): TankNode[] => nodesOf(train, 'tank')

/** The work on it opens water: not a lamp, an air filter or salt. */
export const isWet = ({ stage }: Due): boolean => !isDry(stage)
/** Water has to be stopped for it: wet, and its head does not shut itself. */
export const wantsIsolation = ({ stage }: Due): boolean => !isDry(stage) && !shutsItself(stage)
/** Hours a new carbon bed stands filled before it is run. */
export const CARBON_SOAK_HOURS = 48
/** Hours that what goes in new stands in water before it is flushed; 0 where it needs none. */
export const soakHoursOf = ({ stage, task }: Due): number =>
  stage.media === 'carbon-tank' ? (task.action === 'refill' ? CARBON_SOAK_HOURS : 0) : (ownKindOf(stage)?.soakHours ?? 0)
/** A bed that soaks in its tank, filled, until a second visit. */
export const soaks = (due: Due): boolean => due.stage.housing === 'media-tank' && soakHoursOf(due) > 0
/** What soaks in a vessel of its own before it goes in. */
export const soaksOutside = (due: Due): boolean => !soaks(due) && soakHoursOf(due) > 0
export const flushOf = (stage: StageNode) => profileOf(stage).flush
/** What is run to waste before service, other than a bed that soaks. */
export const isFlushed = (due: Due): boolean => isWet(due) && flushOf(due.stage) !== null && !soaks(due)

export function dueStages(train: Train, tasks: readonly Task[]): Due[] {
  return stagesInFlow(train).flatMap((stage) => {
    const task = tasks.find((one) => one.stage === stage.id)
    return task ? [{ stage, task }] : []
  })
}

/** Order in which taps are chosen for letting water out: an ice maker or an appliance only where there is nothing else. */
const USES: readonly OutletNode['use'][] = ['drinking', 'hose', 'house', 'appliance', 'ice']
/** Outlets in that order; of one use those behind a heater last. */
export function tapsByUse(train: Train): OutletNode[] {
  const hot = new Set(
    nodesOf(train, 'heater').flatMap(({ id }) => outlets(train).flatMap((tap) => (comesTo(train, id, tap.id) ? [tap.id] : []))),
  )
  return outlets(train).sort((a, b) => USES.indexOf(a.use) - USES.indexOf(b.use) || Number(hot.has(a.id)) - Number(hot.has(b.id)))
}

export const lineName = ({ from, to }: { from: string; to: string }): string => `${from}>${to}`
export const linesInto = (train: Train, id: string): string[] => train.pipes.filter(({ to }) => to === id).map(lineName)
export const linesOutOf = (train: Train, id: string): string[] => train.pipes.filter(({ from }) => from === id).map(lineName)
