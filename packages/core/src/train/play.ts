import type { MediaProfile } from '../catalogue/media-profiles'
import { profileOf } from '../catalogue/own-kinds'
import { say } from '../words'
import { chambersOf } from './machine/network'
import { inService, isDry, play, shutsItself, type TrainState } from './machine/state'
import type { SheetStep, StageNode, Train } from './types'

/** What the pipe map draws: the train as it stands after some steps of its sheet. */
export interface PlayedTrain {
  /** Valves, tanks, own shut-offs and outlets that are shut, by id. */
  shut: Set<string>
  /** Valves that stand half open, by id. */
  half: Set<string>
  /** Bypasses that are on, by id. */
  bypassed: Set<string>
  /** Pumps, lamps, heaters and appliances without power, by id. */
  off: Set<string>
  /** Stages whose housing is open, by id. */
  open: Set<string>
  /** Stages that hold no element, by id. */
  empty: Set<string>
  /** Lines taken off, as `"from>to"`. */
  apart: Set<string>
  /** Nodes with pressure in them, by id. */
  pressed: Set<string>
  /** What the water of a new part carries until it is flushed, by stage. */
  carries: Map<string, string>
  /** Of the bodies this sheet opens (of all of them where it opens none): `full` is fed (through a membrane too), `trapped` is shut but not relieved, `none` is safe to open. */
  pressure: 'full' | 'trapped' | 'none'
  catching: boolean
}

const CARRIES: Partial<Record<NonNullable<MediaProfile['flush']>['kind'], string>> = {
  get 'to-clear'() {
    return say`dirt`
  },
  get fines() {
    return say`fines`
  },
  get alone() {
    return say`fines`
  },
  get grey() {
    return say`fines`
  },
  get preservative() {
    return say`preservative`
  },
  get cloud() {
    return say`cloud`
  },
  get own() {
    return say`first water`
  },
}

function carried(stage: StageNode, state: TrainState): string | null {
  const now = state.stages.get(stage.id)
  const flush = profileOf(stage).flush
  return now && flush && now.fitted > 0 && now.element !== 'none' && !now.flushed ? (CARRIES[flush.kind] ?? null) : null
}

/** Plays the done steps in sheet order on a train in service, by the same machine that checks sheets. Pure: the input is not changed. */
export function playTrain(train: Train, steps: readonly SheetStep[], done: ReadonlySet<string>): PlayedTrain {
  const state = inService(train)
  for (const step of steps) if (done.has(step.key)) play(train, state, step)
  const opened = new Set(steps.flatMap(({ verb, at }) => (verb === 'take-out' ? at : [])))
  const stages = train.nodes.filter((node): node is StageNode => node.kind === 'stage')
  const withWater = stages.filter((stage) => !isDry(stage))
  // Heads that shut themselves may be opened under pressure: where a train has others, these alone are meant.
  const eased = withWater.filter((stage) => !shutsItself(stage))
  const wet = eased.length > 0 ? eased : withWater
  const worked = wet.filter(({ id }) => opened.has(id))
  const bodies = (worked.length > 0 ? worked : wet).flatMap(({ id }) => chambersOf(train, id))
  const any = (set: ReadonlySet<string>): boolean => bodies.some((chamber) => set.has(chamber))
  return {
    shut: new Set([...state.shut, ...train.nodes.flatMap(({ id, kind }) => (kind === 'outlet' && !state.taps.has(id) ? [id] : []))]),
    half: new Set(state.half.keys()),
    bypassed: state.bypassed,
    off: new Set([...state.off, ...state.still]),
    open: new Set([...state.stages].flatMap(([id, { open }]) => (open ? [id] : []))),
    empty: new Set([...state.stages].flatMap(([id, { element }]) => (element === 'none' ? [id] : []))),
    apart: state.apart,
    pressed: new Set(train.nodes.flatMap(({ id }) => (chambersOf(train, id).some((chamber) => state.pressed.has(chamber)) ? [id] : []))),
    carries: new Map(
      stages.flatMap((stage) => {
        const what = carried(stage, state)
        return what === null ? [] : [[stage.id, what] as const]
      }),
    ),
    pressure: any(state.watered) ? 'full' : any(state.pressed) ? 'trapped' : 'none',
    catching: state.catching.size > 0,
  }
}
