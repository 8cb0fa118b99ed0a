import type { Housing, Medium } from '../catalogue/names'
import { say } from '../words'
import type { Train, TrainNode, TrainPipe } from './types'

/** A usual way systems are put together; a customer's train starts from one and is then edited. */
export interface FamilyStage {
  media: Medium
  housing: Housing
  ownShutoff?: boolean
  selfSealing?: boolean
  monitored?: boolean
  drainCocks?: 0 | 1 | 2
  reliefButton?: boolean
  washable?: boolean
  endUp?: 'washer' | 'arrow' | 'either'
  /** Litres of medium in a tank. */
  bedL?: number
  /** The same word on lamp and sleeve: one reactor. */
  reactor?: string
  /** Stands side by side with the stage before it, between two tees. */
  beside?: boolean
}
export interface Family {
  name: string
  stages: readonly FamilyStage[]
  /** Storage, with what follows after its tee. */
  tankL?: number
  /** The medium that storage stands behind; the membrane where it is left out. */
  tankBehind?: Medium
  /** Stages a bypass goes round, by position from and to. */
  bypass?: readonly [from: number, to: number]
  outlet: 'drinking' | 'house' | 'ice' | 'appliance' | 'hose'
  /** What drives the water where no mains does; its switch is at its pressure tank. */
  pump?: 'well' | 'booster' | 'delivery'
  /** An ice maker on the same line. */
  ice?: boolean
  /** What else draws behind it, on the same line. */
  more?: readonly ('drinking' | 'house' | 'appliance' | 'hose')[]
  /** Whoever draws here cannot be switched off. */
  mustGoOn?: boolean
}

const sump = (media: Medium, more: Partial<FamilyStage> = {}): FamilyStage => ({ media, housing: 'sump-small', endUp: 'either', ...more })
const large = (media: Medium, more: Partial<FamilyStage> = {}): FamilyStage => ({
  media,
  housing: 'sump-large',
  reliefButton: true,
  endUp: 'either',
  ...more,
})

const sanitary = (media: Medium, more: Partial<FamilyStage> = {}): FamilyStage => ({
  media,
  housing: 'quarter-turn',
  selfSealing: true,
  endUp: 'either',
  ...more,
})

export const FAMILIES = {
  'under-sink-2': {
    get name() {
      return say`under-sink, two stages`
    },
    stages: [sump('sediment'), sump('carbon-block', { monitored: true })],
    outlet: 'drinking',
  },
  'under-sink-3': {
    get name() {
      return say`under-sink, three stages`
    },
    stages: [sump('sediment'), sump('carbon-block', { endUp: 'arrow' }), sump('carbon-block', { endUp: 'arrow', monitored: true })],
    outlet: 'drinking',
  },
  'counter-fluoride': {
    get name() {
      return say`counter-top, fluoride set`
    },
    stages: [sump('sediment'), sump('fluoride-media', { endUp: 'washer' }), sump('carbon-block', { endUp: 'arrow' })],
    outlet: 'drinking',
  },
  'reverse-osmosis-5': {
    get name() {
      return say`reverse osmosis, five stages`
    },
    stages: [
      sump('sediment'),
      sump('carbon-block', { endUp: 'arrow' }),
      sump('carbon-block', { endUp: 'arrow' }),
      { media: 'membrane', housing: 'membrane-vessel', monitored: true },
      { media: 'post-carbon', housing: 'push-fit', endUp: 'arrow' },
    ],
    tankL: 12,
    outlet: 'drinking',
  },
  'two-large': {
    get name() {
      return say`two large housings after a well pump`
    },
    stages: [large('sediment'), large('carbon-block', { endUp: 'arrow' })],
    pump: 'well',
    outlet: 'house',
  },
  'pure-water': {
    get name() {
      return say`pure-water set`
    },
    stages: [sump('sediment'), sump('carbon-block', { endUp: 'arrow' }), sump('deionising-resin', { endUp: 'arrow' })],
    outlet: 'hose',
  },
  ultraviolet: {
    get name() {
      return say`prefilters and ultraviolet`
    },
    stages: [
      large('sediment'),
      large('carbon-block', { endUp: 'arrow' }),
      { media: 'uv-sleeve', housing: 'uv-reactor' },
      { media: 'uv-lamp', housing: 'uv-reactor', monitored: true },
    ],
    outlet: 'house',
  },
  'washable-prefilter': {
    get name() {
      return say`washable prefilter`
    },
    stages: [large('sediment', { washable: true, drainCocks: 2 })],
    bypass: [1, 1],
    outlet: 'house',
  },
  'carbon-tank': {
    get name() {
      return say`whole-house carbon tank`
    },
    stages: [large('sediment'), { media: 'carbon-tank', housing: 'media-tank' }],
    bypass: [2, 2],
    outlet: 'house',
  },
  'fridge-inline': {
    get name() {
      return say`refrigerator, external inline`
    },
    stages: [{ media: 'fridge-inline', housing: 'push-fit', endUp: 'arrow' }],
    outlet: 'drinking',
    ice: true,
  },
  'quarter-turn-3': {
    get name() {
      return say`sanitary quarter-turn, three stages`
    },
    stages: [sanitary('sediment'), sanitary('carbon-block'), sanitary('carbon-block', { monitored: true })],
    outlet: 'drinking',
  },
  'reverse-osmosis-6': {
    get name() {
      return say`reverse osmosis with remineraliser, six stages`
    },
    stages: [
      sump('sediment'),
      sump('carbon-block', { endUp: 'arrow' }),
      sump('carbon-block', { endUp: 'arrow' }),
      { media: 'membrane', housing: 'membrane-vessel', monitored: true },
      { media: 'post-carbon', housing: 'threaded', endUp: 'arrow' },
      { media: 'remineraliser', housing: 'threaded', endUp: 'arrow' },
    ],
    tankL: 12,
    outlet: 'drinking',
  },
  'commercial-remineral': {
    get name() {
      return say`commercial reverse osmosis with remineraliser`
    },
    stages: [
      large('sediment'),
      large('carbon-block', { endUp: 'arrow' }),
      large('carbon-block', { endUp: 'arrow', beside: true }),
      { media: 'membrane', housing: 'membrane-vessel', monitored: true },
      large('remineraliser', { endUp: 'arrow' }),
      { media: 'post-carbon', housing: 'push-fit', endUp: 'arrow' },
    ],
    tankL: 80,
    tankBehind: 'remineraliser',
    bypass: [1, 6],
    outlet: 'appliance',
    mustGoOn: true,
  },
  'fridge-internal': {
    get name() {
      return say`refrigerator, internal cartridge`
    },
    stages: [
      { media: 'fridge-internal', housing: 'fridge-cartridge', selfSealing: true, endUp: 'either', monitored: true },
      { media: 'air-filter', housing: 'dry-slot', monitored: true },
    ],
    outlet: 'drinking',
    ice: true,
  },
  softener: {
    get name() {
      return say`prefilter and softener`
    },
    stages: [large('sediment'), { media: 'softener', housing: 'media-tank' }],
    bypass: [2, 2],
    outlet: 'house',
  },
} as const satisfies Record<string, Family>

/** Where the next thing is joined on, while a family's train is put together. */
interface Building {
  nodes: TrainNode[]
  pipes: TrainPipe[]
  last: string
}

const join = (train: Building, node: TrainNode, check = false): void => {
  train.nodes.push(node)
  train.pipes.push({ from: train.last, to: node.id, ...(check ? { check: true } : {}) })
  train.last = node.id
}

const stageNode = ({ beside: _, ...stage }: FamilyStage, id: string, position: number, seen: boolean): TrainNode => ({
  id,
  kind: 'stage',
  position,
  ...(seen ? { inletConfirmed: true } : {}),
  ...stage,
})

/** Storage behind a tee: what is stored does not press back on the membrane. */
function putTank(train: Building, volumeL: number): void {
  join(train, { id: 'tank-tee', kind: 'tee' }, true)
  train.nodes.push({ id: 'tank', kind: 'tank', volumeL, valve: true })
  train.pipes.push({ from: 'tank-tee', to: 'tank' })
}

/**
 * The train of a family, in service direction, with the given stage ids (one a stage, in flow order). Where nobody has `seen` it, no inlet is
 * confirmed: the run sheet asks.
 * Throws `RangeError` when the count of ids is not the count of stages.
 */
export function familyTrain(family: Family, stageIds: readonly string[], seen = true): Train {
  if (stageIds.length !== family.stages.length) {
    throw new RangeError(`${family.name} has ${family.stages.length} stages, got ${stageIds.length} ids`)
  }
  const train: Building = { nodes: [{ id: 'source', kind: 'source' }], pipes: [], last: 'source' }
  if (family.pump) join(train, { id: 'pump', kind: 'pump', type: family.pump })
  join(train, { id: 'feed-valve', kind: 'valve', turns: 'quarter' })
  family.stages.forEach((stage, index) => {
    const id = stageIds[index] as string
    const node = stageNode(stage, id, index + 1, seen)
    // A dry slot hangs in no pipe; one beside another was joined with it.
    if (stage.housing === 'dry-slot') {
      train.nodes.push(node)
      return
    }
    if (stage.beside) return
    const twin = family.stages[index + 1]
    if (twin?.beside) putBeside(train, node, stageNode(twin, stageIds[index + 1] as string, index + 2, seen), index + 1)
    else join(train, node)
    if (stage.media === 'membrane') {
      train.nodes.push({ id: 'drain', kind: 'drain' })
      train.pipes.push({ from: id, to: 'drain', restrictor: true })
    }
    if (family.tankL !== undefined && stage.media === (family.tankBehind ?? 'membrane')) putTank(train, family.tankL)
  })
  return withOutlets(train, family, stageIds)
}

function putBeside(train: Building, one: TrainNode, other: TrainNode, position: number): void {
  const [fork, meet] = [`fork-${position}`, `meet-${position}`]
  join(train, { id: fork, kind: 'tee' })
  join(train, one)
  join(train, { id: meet, kind: 'tee' })
  train.nodes.push(other)
  train.pipes.push({ from: fork, to: other.id }, { from: other.id, to: meet })
}

function withOutlets(train: Building, family: Family, stageIds: readonly string[]): Train {
  const bypass = family.bypass
  if (bypass) {
    const [enters, leaves] = bypass.map((position) => stageIds[position - 1] as string) as [string, string]
    train.nodes.push({ id: 'bypass', kind: 'bypass', enters, leaves })
  }
  const more = family.more ?? []
  if (family.ice || more.length > 0) join(train, { id: 'cold-tee', kind: 'tee' })
  join(train, { id: 'tap', kind: 'outlet', use: family.outlet, ...(family.mustGoOn ? { mustGoOn: true } : {}) })
  if (family.ice) {
    train.nodes.push({ id: 'ice', kind: 'outlet', use: 'ice' })
    train.pipes.push({ from: 'cold-tee', to: 'ice' })
  }
  more.forEach((use, index) => {
    train.nodes.push({ id: `${use}-${index + 2}`, kind: 'outlet', use })
    train.pipes.push({ from: 'cold-tee', to: `${use}-${index + 2}` })
  })
  return { nodes: train.nodes, pipes: train.pipes }
}
