import type { Train, TrainNode, TrainPipe } from '../train/types'
import type { Housing, Medium } from './names'

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
}
export interface Family {
  name: string
  stages: readonly FamilyStage[]
  /** Storage behind the membrane, with the post carbon after its tee. */
  tankL?: number
  outlet: 'drinking' | 'house' | 'ice' | 'appliance' | 'hose'
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
  'under-sink-2': { name: 'under-sink, two stages', stages: [sump('sediment'), sump('carbon-block')], outlet: 'drinking' },
  'under-sink-3': {
    name: 'under-sink, three stages',
    stages: [sump('sediment'), sump('carbon-block', { endUp: 'arrow' }), sump('carbon-block', { endUp: 'arrow', monitored: true })],
    outlet: 'drinking',
  },
  'counter-fluoride': {
    name: 'counter-top, fluoride set',
    stages: [sump('sediment'), sump('fluoride-media', { endUp: 'washer' }), sump('carbon-block', { endUp: 'arrow' })],
    outlet: 'drinking',
  },
  'reverse-osmosis-5': {
    name: 'reverse osmosis, five stages',
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
  'two-large': { name: 'two large housings', stages: [large('sediment'), large('carbon-block', { endUp: 'arrow' })], outlet: 'house' },
  'pure-water': {
    name: 'pure-water set',
    stages: [sump('sediment'), sump('carbon-block', { endUp: 'arrow' }), sump('deionising-resin', { endUp: 'arrow' })],
    outlet: 'hose',
  },
  ultraviolet: {
    name: 'prefilters and ultraviolet',
    stages: [
      large('sediment'),
      large('carbon-block', { endUp: 'arrow' }),
      { media: 'uv-sleeve', housing: 'uv-reactor' },
      { media: 'uv-lamp', housing: 'uv-reactor', monitored: true },
    ],
    outlet: 'house',
  },
  'washable-prefilter': { name: 'washable prefilter', stages: [large('sediment', { washable: true, drainCocks: 2 })], outlet: 'house' },
  'carbon-tank': {
    name: 'whole-house carbon tank',
    stages: [large('sediment'), { media: 'carbon-tank', housing: 'media-tank' }],
    outlet: 'house',
  },
  'fridge-inline': {
    name: 'refrigerator, external inline',
    stages: [{ media: 'fridge-inline', housing: 'push-fit', endUp: 'arrow', ownShutoff: true }],
    outlet: 'ice',
  },
  'quarter-turn-3': {
    name: 'sanitary quarter-turn, three stages',
    stages: [sanitary('sediment'), sanitary('carbon-block'), sanitary('carbon-block', { monitored: true })],
    outlet: 'drinking',
  },
  'reverse-osmosis-6': {
    name: 'reverse osmosis with remineraliser, six stages',
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
    name: 'commercial reverse osmosis with remineraliser',
    stages: [
      large('sediment'),
      large('carbon-block', { endUp: 'arrow' }),
      { media: 'membrane', housing: 'membrane-vessel', monitored: true },
      large('remineraliser', { endUp: 'arrow' }),
    ],
    outlet: 'appliance',
    mustGoOn: true,
  },
  'fridge-internal': {
    name: 'refrigerator, internal cartridge',
    stages: [
      { media: 'fridge-internal', housing: 'fridge-cartridge', selfSealing: true, endUp: 'either', monitored: true },
      { media: 'air-filter', housing: 'dry-slot', monitored: true },
    ],
    outlet: 'ice',
  },
  softener: { name: 'prefilter and softener', stages: [large('sediment'), { media: 'softener', housing: 'media-tank' }], outlet: 'house' },
} as const satisfies Record<string, Family>

/**
 * The train of a family, in service direction, with the given stage ids (one a stage, in flow order).
 * Throws `RangeError` when the count of ids is not the count of stages.
 */
export function familyTrain(family: Family, stageIds: readonly string[]): Train {
  if (stageIds.length !== family.stages.length) {
    throw new RangeError(`${family.name} has ${family.stages.length} stages, got ${stageIds.length} ids`)
  }
  const nodes: TrainNode[] = [
    { id: 'source', kind: 'source' },
    { id: 'feed-valve', kind: 'valve', turns: 'quarter' },
  ]
  const pipes: TrainPipe[] = [{ from: 'source', to: 'feed-valve' }]
  let last = 'feed-valve'
  family.stages.forEach((stage, index) => {
    const id = stageIds[index] as string
    nodes.push({ id, kind: 'stage', position: index + 1, inletConfirmed: true, ...stage })
    // A dry slot hangs in no pipe.
    if (stage.housing === 'dry-slot') return
    pipes.push({ from: last, to: id })
    last = id
    if (stage.media === 'membrane') {
      nodes.push({ id: 'drain', kind: 'drain' })
      pipes.push({ from: id, to: 'drain', restrictor: true })
      if (family.tankL !== undefined) {
        nodes.push({ id: 'tank-tee', kind: 'tee' }, { id: 'tank', kind: 'tank', volumeL: family.tankL, valve: true })
        pipes.push({ from: id, to: 'tank-tee', check: true }, { from: 'tank-tee', to: 'tank' })
        last = 'tank-tee'
      }
    }
  })
  nodes.push({ id: 'tap', kind: 'outlet', use: family.outlet, ...(family.mustGoOn ? { mustGoOn: true } : {}) })
  pipes.push({ from: last, to: 'tap' })
  return { nodes, pipes }
}
