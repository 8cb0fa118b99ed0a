import type { SheetStep, Train } from './types'

/** What the pipe map draws: the train as it stands after some steps of its sheet. */
export interface PlayedTrain {
  /** Valves, tanks and outlets that are shut, by id. */
  shut: Set<string>
  /** Stages whose housing is open, by id. */
  open: Set<string>
  /** Stages that hold no element, by id. */
  empty: Set<string>
  /** Lines taken off, as `"from>to"`. */
  apart: Set<string>
  /** `full`: the feed is on. `trapped`: shut but not relieved. `none`: safe to open. */
  pressure: 'full' | 'trapped' | 'none'
  catching: boolean
}

const inService = (train: Train): PlayedTrain => ({
  shut: new Set(train.nodes.filter(({ kind }) => kind === 'outlet').map(({ id }) => id)),
  open: new Set(),
  empty: new Set(),
  apart: new Set(),
  pressure: 'full',
  catching: false,
})

function apply(state: PlayedTrain, step: SheetStep, kindOf: (id: string) => string | undefined, moreRelief: boolean): void {
  const at = step.at[0] ?? ''
  switch (step.verb) {
    case 'close':
      state.shut.add(at)
      if (kindOf(at) === 'valve') state.pressure = 'trapped'
      break
    case 'open':
      state.shut.delete(at)
      if (kindOf(at) === 'valve') state.pressure = 'full'
      break
    case 'relieve':
      if (kindOf(at) === 'outlet') state.shut.delete(at)
      // Safe only once the last relief of this isolation is done: the membrane's drain side lags behind the tap.
      if (state.pressure === 'trapped' && !moreRelief) state.pressure = 'none'
      break
    case 'catch':
      state.catching = true
      break
    case 'open-housing':
      state.open.add(at)
      break
    case 'close-housing':
      state.open.delete(at)
      break
    case 'take-out':
      state.empty.add(at)
      break
    case 'fit':
      state.empty.delete(at)
      break
    case 'disconnect':
      state.apart.add(at)
      break
    case 'connect':
      state.apart.delete(at)
      break
    default:
      break
  }
}

/** Plays the done steps in sheet order on a train in service. Pure: the input is not changed. */
export function playTrain(train: Train, steps: readonly SheetStep[], done: ReadonlySet<string>): PlayedTrain {
  const state = inService(train)
  const kinds = new Map(train.nodes.map(({ id, kind }) => [id, kind]))
  steps.forEach((step, index) => {
    if (done.has(step.key)) apply(state, step, (id) => kinds.get(id), steps[index + 1]?.verb === 'relieve')
  })
  return state
}
