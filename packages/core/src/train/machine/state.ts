import type { SheetStep, StageNode, Train } from '../types'
import {
  type Chamber,
  chambersOf,
  edgesOf,
  emptiedBy,
  endsOf,
  forwardOf,
  inOf,
  type Joints,
  pressedBy,
  sources,
  wateredBy,
  wayOut,
} from './network'

export type Element = 'old' | 'none' | 'new' | 'washed'

export interface StageState {
  open: boolean
  element: Element
  inspected: boolean
  washed: boolean
  /** The seal was looked at and greased, or is new, since the housing was opened. */
  sealed: boolean
  asked: boolean
  takenOut: number
  fitted: number
  flushed: boolean
  /** Its lines are joined by a piece that stands in for an inline body. */
  bridged: boolean
  /** Water without air stands in it: since it was opened it was filled with a way out open behind it. */
  full: boolean
}

/** A train in the middle of its sheet. */
export interface TrainState extends Joints {
  shut: Set<string>
  still: Set<string>
  apart: Set<string>
  bypassed: Set<string>
  /** Taps that run, by id. */
  taps: Set<string>
  /** Ballasts, heaters and appliances without power, by id. */
  off: Set<string>
  /** Tanks with nothing in them. */
  emptied: Set<string>
  /** Valves that stand half open; true once they were looked at for leaks there. */
  half: Map<string, boolean>
  /** Bodies of water under pressure, fed or trapped. */
  pressed: Set<Chamber>
  fed: Set<Chamber>
  /** Bodies of water that fill from a source in time, through membranes too. */
  watered: Set<Chamber>
  /** Places that have something underneath; `ANYWHERE` where a step did not say which. */
  catching: Set<string>
  /** Large housings emptied by their cock, by id. */
  drained: Set<string>
  /** Stages whose drain cock stands open, by id. */
  cocks: Set<string>
  stages: Map<string, StageState>
  /** A joint was reopened to water and not looked at since. */
  leakWanted: boolean
  told: boolean
  /** Bypasses that were turned to bypass at some time. */
  wentRound: Set<string>
  /** Somebody was told since a bypass was last turned. */
  toldSinceTurn: boolean
  /** Where chlorine went in that was not seen to be out again. */
  dosedAt: ReadonlySet<string>
}

export const stageOf = (train: Train, id: string): StageNode | undefined =>
  train.nodes.find((node): node is StageNode => node.kind === 'stage' && node.id === id)

const ANYWHERE = 'anywhere'
/** Bodies that one tray stands under: small ones hang together, large ones and lamps in a row, a tank stands by itself. */
export function placeOf({ id, housing, media }: StageNode): string {
  if (housing === 'media-tank') return id
  if (housing === 'fridge-cartridge' || media === 'fridge-inline') return 'appliance'
  return housing === 'sump-large' || housing === 'uv-reactor' ? 'row' : 'set'
}
function placeAt(train: Train, id: string): string {
  const stage = stageOf(train, id)
  return stage ? placeOf(stage) : ANYWHERE
}
/** Whether something stands under this body. */
export const isCaught = (state: Pick<TrainState, 'catching'>, stage: StageNode): boolean =>
  state.catching.has(ANYWHERE) || state.catching.has(placeOf(stage))

/** Work on these needs no water stopped. */
export const isDry = ({ media }: StageNode): boolean =>
  media === 'uv-lamp' || media === 'air-filter' || media === 'softener' || media === 'chlorine-feed'
/** Shuts itself as it is turned out: quarter-turn heads unless they are known not to, a refrigerator's slot only where it is known to. */
export const shutsItself = ({ housing, selfSealing }: StageNode): boolean =>
  housing === 'quarter-turn' ? selfSealing !== false : housing === 'fridge-cartridge' && selfSealing === true
export const isInline = ({ housing }: StageNode): boolean => housing === 'push-fit' || housing === 'threaded'

/** Pressure finds its level: what is fed is pressed, and what is pressed presses on. */
export function settle(train: Train, state: TrainState): void {
  const joined = edgesOf(train, state)
  state.fed = pressedBy(joined, sources(train, state.emptied))
  // An empty tank that water comes to again fills, and presses from then on.
  const filled = [...state.emptied].filter((id) => state.fed.has(id))
  if (filled.length > 0) {
    for (const id of filled) state.emptied.delete(id)
    state.fed = pressedBy(joined, sources(train, state.emptied))
  }
  state.watered = wateredBy(train, joined, sources(train, state.emptied))
  state.pressed = pressedBy(joined, [...state.pressed, ...state.fed])
}

const lineToDrain = (train: Train, id: string): string | null => {
  const drains = new Set(train.nodes.flatMap((node) => (node.kind === 'drain' ? [node.id] : [])))
  const line = train.pipes.find(({ from, to }) => from === id && drains.has(to))
  return line ? `${line.from}>${line.to}` : null
}

/** What water comes to fills, where a tap that runs, an open line or its own drain lets the air out behind it. */
function fill(train: Train, state: TrainState): void {
  let open: ReturnType<typeof forwardOf> | undefined
  for (const [id, stage] of state.stages) {
    if (stage.full || stage.open || stage.element === 'none' || !state.watered.has(inOf(train, id))) continue
    const drain = lineToDrain(train, id)
    open ??= forwardOf(train, state)
    const lets = [...state.taps, ...state.apart].some((end) => wayOut(train, state, id, end, open) !== null)
    if (lets || (drain !== null && !state.apart.has(drain))) stage.full = true
  }
}

/** As it stands before anybody touches it: valves and tanks open, taps closed, bypass in service, power on. */
export function inService(train: Train): TrainState {
  const fresh = (): StageState => ({
    open: false,
    element: 'old',
    inspected: false,
    washed: false,
    sealed: false,
    asked: false,
    takenOut: 0,
    fitted: 0,
    flushed: false,
    bridged: false,
    full: true,
  })
  const state: TrainState = {
    shut: new Set(),
    still: new Set(),
    apart: new Set(),
    bypassed: new Set(),
    taps: new Set(),
    off: new Set(),
    emptied: new Set(),
    half: new Map(),
    pressed: new Set(),
    fed: new Set(),
    watered: new Set(),
    catching: new Set(),
    drained: new Set(),
    cocks: new Set(),
    stages: new Map(train.nodes.flatMap((node) => (node.kind === 'stage' ? [[node.id, fresh()] as const] : []))),
    leakWanted: false,
    told: false,
    wentRound: new Set(),
    toldSinceTurn: false,
    dosedAt: new Set(),
  }
  settle(train, state)
  return state
}

/** The bodies of water a relief lets out of, for what a step may name. */
export function reliefAt(train: Train, at: string, bypassed: ReadonlySet<string>): Chamber[] {
  const [id = at, part] = at.split('.')
  if (part !== undefined) return [inOf(train, id)]
  return at.includes('>') ? endsOf(train, at, bypassed) : chambersOf(train, at)
}

/** Lets the pressure out of everything that can leave by there; what is still fed goes on pressing. */
function relieve(train: Train, state: TrainState, at: string): void {
  if (train.nodes.find(({ id }) => id === at)?.kind === 'tank') state.emptied.add(at)
  settle(train, state)
  const joined = edgesOf(train, state)
  for (const chamber of reliefAt(train, at, state.bypassed)) {
    if (state.fed.has(chamber)) continue
    for (const freed of emptiedBy(joined, chamber)) if (!state.fed.has(freed)) state.pressed.delete(freed)
  }
  // A tank emptied by its tap lets go of the pipes it pressed on.
  if (state.emptied.has(at)) for (const chamber of chambersOf(train, at)) state.pressed.delete(chamber)
}

const isDryAt = (train: Train, id: string): boolean => {
  const stage = stageOf(train, id)
  return stage !== undefined && isDry(stage)
}

const isTap = (train: Train, id: string): boolean => train.nodes.find((node) => node.id === id)?.kind === 'outlet'

/** A strip that shows the chlorine gone again. */
export const CLEAR = 'clear'

/** Acts that join or part waters; the others leave the pressure where it is. */
export const MOVES_WATER: readonly SheetStep['verb'][] = [
  'close',
  'open',
  'turn',
  'power-off',
  'power-on',
  'relieve',
  'drain',
  'disconnect',
  'connect',
]

/** Plays one step. What it must not do is judged apart; here it just happens. */
export function play(train: Train, state: TrainState, { verb, at, to }: Pick<SheetStep, 'verb' | 'at' | 'to'>): void {
  const [first = ''] = at
  const [id = '', part] = first.split('.')
  const stage = state.stages.get(id)
  switch (verb) {
    case 'close':
      if (part === undefined) {
        if (isTap(train, first)) state.taps.delete(first)
        else state.shut.add(first)
        state.half.delete(first)
      } else if (part === 'cock') state.cocks.delete(id)
      break
    case 'open':
      if (part === 'cock') state.cocks.add(id)
      else if (isTap(train, first)) state.taps.add(first)
      else {
        state.shut.delete(first)
        if (to === 'half') state.half.set(first, false)
        else state.half.delete(first)
        state.leakWanted = true
      }
      break
    case 'turn':
      if (to === 'bypass') {
        state.bypassed.add(first)
        state.wentRound.add(first)
        state.toldSinceTurn = false
      } else {
        state.bypassed.delete(first)
        state.leakWanted = true
      }
      break
    case 'power-off':
    case 'power-on': {
      const pump = train.nodes.find((node) => node.id === first)?.kind === 'pump'
      const set = pump ? state.still : state.off
      for (const one of at) verb === 'power-off' ? set.add(one) : set.delete(one)
      break
    }
    case 'relieve':
      for (const one of at) relieve(train, state, one)
      if (isTap(train, first)) state.taps.add(first)
      break
    case 'drain':
      if (part === 'cock') {
        state.drained.add(id)
        state.cocks.add(id)
      }
      relieve(train, state, first)
      break
    case 'catch':
      state.catching.add(placeAt(train, id))
      break
    case 'open-housing':
      if (stage) Object.assign(stage, { open: true, sealed: false, full: false })
      break
    case 'close-housing':
      if (stage) stage.open = false
      if (!isDryAt(train, id)) state.leakWanted = true
      break
    case 'disconnect':
      for (const line of at) state.apart.add(line)
      break
    case 'connect':
      for (const line of at) state.apart.delete(line)
      state.leakWanted = true
      break
    case 'take-out':
      if (stage && part === undefined)
        Object.assign(stage, { element: 'none', takenOut: stage.takenOut + 1, inspected: false, full: false })
      if (stage && part === 'spacer') stage.bridged = false
      break
    case 'inspect':
      if (stage && part === undefined) stage.inspected = true
      break
    case 'wash':
      if (stage) stage.washed = true
      break
    case 'grease':
      if (stage) stage.sealed = true
      break
    case 'fit':
      if (stage && part === 'seal') stage.sealed = true
      else if (stage && part === 'spacer') stage.bridged = true
      else if (stage && part === undefined)
        Object.assign(stage, { element: stage.washed && stage.inspected ? 'washed' : 'new', fitted: stage.fitted + 1 })
      break
    case 'flush':
    case 'trickle':
    case 'backwash':
      for (const one of at) {
        const through = state.stages.get(one)
        if (through) Object.assign(through, { full: true, flushed: through.flushed || verb === 'flush' })
        for (const on of (to && verb !== 'backwash' ? wayOut(train, state, one, to) : null) ?? []) {
          const met = state.stages.get(on)
          if (met && met.element !== 'none' && !met.open) met.full = true
        }
      }
      break
    case 'leak-check':
      state.leakWanted = false
      for (const valve of state.half.keys()) state.half.set(valve, true)
      break
    case 'dose':
      state.dosedAt = new Set([...state.dosedAt, ...at])
      break
    case 'strip':
      if (to === CLEAR) state.dosedAt = new Set()
      break
    case 'ask':
      if (stage) stage.asked = true
      break
    case 'tell':
      state.told = true
      state.toldSinceTurn = true
      break
    default:
      break
  }
  if (!MOVES_WATER.includes(verb)) return
  settle(train, state)
  fill(train, state)
}

/** The same state apart, to try a step on. */
export const copyOf = (state: TrainState): TrainState => ({
  ...state,
  shut: new Set(state.shut),
  still: new Set(state.still),
  apart: new Set(state.apart),
  bypassed: new Set(state.bypassed),
  taps: new Set(state.taps),
  off: new Set(state.off),
  emptied: new Set(state.emptied),
  half: new Map(state.half),
  pressed: new Set(state.pressed),
  fed: new Set(state.fed),
  watered: new Set(state.watered),
  drained: new Set(state.drained),
  catching: new Set(state.catching),
  wentRound: new Set(state.wentRound),
  cocks: new Set(state.cocks),
  stages: new Map([...state.stages].map(([id, stage]) => [id, { ...stage }])),
})
