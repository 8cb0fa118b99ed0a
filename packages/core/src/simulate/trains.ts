import type { Housing, StandardMedium } from '../catalogue'
import type { Train } from '../train/types'
import type { Rng } from './rng'

type Node = Train['nodes'][number]
type StageNode = Extract<Node, { kind: 'stage' }>

/** Bodies each medium is really met in. */
const BODIES: Record<StandardMedium, readonly Housing[]> = {
  sediment: ['sump-small', 'sump-large', 'quarter-turn', 'push-fit'],
  'carbon-block': ['sump-small', 'sump-large', 'quarter-turn', 'push-fit', 'threaded'],
  'sediment-carbon': ['sump-small', 'sump-large'],
  'fluoride-media': ['sump-small', 'sump-large'],
  membrane: ['membrane-vessel'],
  ultrafiltration: ['push-fit', 'sump-small'],
  'post-carbon': ['push-fit', 'threaded', 'quarter-turn', 'sump-small'],
  remineraliser: ['push-fit', 'threaded', 'sump-small', 'sump-large'],
  'deionising-resin': ['sump-small', 'sump-large', 'media-tank'],
  'carbon-tank': ['media-tank'],
  'iron-bed': ['media-tank'],
  'ph-bed': ['media-tank'],
  'fridge-internal': ['fridge-cartridge'],
  'fridge-inline': ['push-fit', 'threaded'],
  'uv-lamp': ['uv-reactor'],
  'uv-sleeve': ['uv-reactor'],
  softener: ['media-tank'],
  'chlorine-feed': ['dry-slot'],
  'air-filter': ['dry-slot'],
}

interface Draft {
  nodes: Node[]
  pipes: Train['pipes']
  /** Where the next thing is joined on. */
  last: string
  stages: number
}

const join = (draft: Draft, node: Node, pipe: { check?: boolean } = {}): void => {
  draft.nodes.push(node)
  draft.pipes.push({ from: draft.last, to: node.id, ...pipe })
  draft.last = node.id
}

function stageOf(rng: Rng, media: StandardMedium, position: number): StageNode {
  const housing = rng.pick(BODIES[media])
  const sump = housing === 'sump-small' || housing === 'sump-large'
  return {
    id: `s${position}`,
    kind: 'stage',
    media,
    housing,
    position,
    endUp: rng.pick(['washer', 'arrow', 'either'] as const),
    ...(rng.chance(0.85) ? { inletConfirmed: true } : rng.chance(0.5) ? { inletConfirmed: false } : {}),
    ...(rng.chance(0.3) ? { monitored: true } : {}),
    ...(sump && rng.chance(0.5) ? { reliefButton: true } : {}),
    ...(sump && rng.chance(0.4) ? { drainCocks: rng.pick([0, 1, 2] as const) } : {}),
    ...(media === 'sediment' && sump && rng.chance(0.3) ? { washable: true } : {}),
    ...(housing === 'quarter-turn' && rng.chance(0.5) ? { selfSealing: rng.chance(0.6) } : {}),
    ...(housing === 'fridge-cartridge' ? { selfSealing: rng.chance(0.8) } : {}),
    ...(housing !== 'uv-reactor' && housing !== 'dry-slot' && rng.chance(0.12) ? { ownShutoff: true } : {}),
  }
}

function add(rng: Rng, draft: Draft, media: StandardMedium): string {
  draft.stages += 1
  const stage = stageOf(rng, media, draft.stages)
  join(draft, stage)
  return stage.id
}

/** Two carbons side by side between two tees. */
function pair(rng: Rng, draft: Draft): void {
  const [fork, meet] = [`fork${draft.stages}`, `meet${draft.stages}`]
  join(draft, { id: fork, kind: 'tee' })
  const ids = [0, 1].map(() => {
    draft.last = fork
    return add(rng, draft, 'carbon-block')
  })
  draft.nodes.push({ id: meet, kind: 'tee' })
  for (const id of ids) draft.pipes.push({ from: id, to: meet })
  draft.last = meet
}

function osmosis(rng: Rng, draft: Draft): void {
  const membrane = add(rng, draft, 'membrane')
  draft.nodes.push({ id: 'drain', kind: 'drain' })
  draft.pipes.push({ from: membrane, to: 'drain', restrictor: true })
  if (rng.chance(0.25)) add(rng, draft, 'remineraliser')
  if (!rng.chance(0.75)) return
  join(draft, { id: 'tank-tee', kind: 'tee' }, { check: rng.chance(0.8) })
  draft.nodes.push({ id: 'tank', kind: 'tank', volumeL: 12, valve: rng.chance(0.75) })
  draft.pipes.push({ from: 'tank-tee', to: 'tank' })
}

function reactor(rng: Rng, draft: Draft): void {
  add(rng, draft, 'uv-sleeve')
  add(rng, draft, 'uv-lamp')
}

/** What stands in the set, by the use it is built for. */
function fill(rng: Rng, draft: Draft, use: 'drinking' | 'house' | 'fridge' | 'pure', most: number): void {
  const room = (): boolean => draft.stages < most
  const maybe = (chance: number, put: () => void): void => {
    if (room() && rng.chance(chance)) put()
    if (rng.chance(0.08)) join(draft, { id: `v${draft.nodes.length}`, kind: 'valve', turns: rng.pick(['quarter', 'multi'] as const) })
  }
  const one = (chance: number, media: StandardMedium): void => maybe(chance, () => add(rng, draft, media))
  if (use === 'fridge') {
    add(rng, draft, rng.chance(0.5) ? 'fridge-inline' : 'fridge-internal')
    if (rng.chance(0.5)) {
      draft.stages += 1
      draft.nodes.push({ ...stageOf(rng, 'air-filter', draft.stages) })
    }
    return
  }
  one(0.85, 'sediment')
  one(0.2, 'sediment')
  if (use === 'house') {
    one(0.15, 'iron-bed')
    one(0.15, 'ph-bed')
    one(0.35, 'carbon-tank')
    // Two beds, of which both soak.
    one(0.08, 'carbon-tank')
    one(0.3, 'softener')
    one(0.5, 'carbon-block')
    maybe(0.4, () => reactor(rng, draft))
    if (room() && rng.chance(0.1)) {
      draft.stages += 1
      draft.nodes.push({ ...stageOf(rng, 'chlorine-feed', draft.stages) })
    }
  } else {
    one(0.25, 'fluoride-media')
    maybe(0.2, () => pair(rng, draft))
    one(0.8, 'carbon-block')
    one(0.15, 'sediment-carbon')
    one(0.5, 'carbon-block')
    maybe(use === 'drinking' ? 0.55 : 0.3, () => osmosis(rng, draft))
    one(0.5, use === 'pure' ? 'deionising-resin' : 'post-carbon')
    one(0.3, 'remineraliser')
    one(0.3, 'post-carbon')
    one(0.15, 'ultrafiltration')
  }
  if (draft.stages === 0) add(rng, draft, 'carbon-block')
}

/** The taps at the end, one or several behind a tee. */
function finish(rng: Rng, draft: Draft, use: 'drinking' | 'house' | 'fridge' | 'pure'): void {
  const must = rng.chance(0.2) ? { mustGoOn: true } : {}
  if (use === 'fridge') {
    join(draft, { id: 'cold-tee', kind: 'tee' })
    if (rng.chance(0.7)) {
      draft.nodes.push({ id: 'dispenser', kind: 'outlet', use: 'drinking' })
      draft.pipes.push({ from: 'cold-tee', to: 'dispenser' })
    }
    join(draft, { id: 'ice', kind: 'outlet', use: 'ice' })
    return
  }
  if (use === 'house' && rng.chance(0.4)) {
    join(draft, { id: 'hot-tee', kind: 'tee' })
    const at = draft.last
    join(draft, { id: 'heater', kind: 'heater' })
    join(draft, { id: 'hot-tap', kind: 'outlet', use: 'house' })
    draft.last = at
  }
  const kind = use === 'pure' ? 'hose' : use === 'house' ? 'house' : rng.chance(0.8) ? 'drinking' : 'appliance'
  if (use === 'drinking' && rng.chance(0.2)) {
    join(draft, { id: 'out-tee', kind: 'tee' })
    draft.nodes.push({ id: 'ice', kind: 'outlet', use: 'ice' })
    draft.pipes.push({ from: 'out-tee', to: 'ice' })
  }
  join(draft, { id: 'tap', kind: 'outlet', use: kind, ...must })
}

/**
 * A train somebody could really have plumbed, up to `most` stages: drinking-water sets, whole houses, refrigerators, pure-water carts,
 * with pumps, tanks with and without valves, bypasses, valves between, heaters, stages side by side, and things nobody confirmed.
 */
export function drawTrain(rng: Rng, most = 12): Train {
  const draft: Draft = { nodes: [{ id: 'source', kind: 'source' }], pipes: [], last: 'source', stages: 0 }
  const use = rng.pick(['drinking', 'drinking', 'house', 'house', 'fridge', 'pure'] as const)
  if (rng.chance(0.2)) join(draft, { id: 'pump', kind: 'pump' })
  if (draft.last === 'pump' && rng.chance(0.5)) {
    join(draft, { id: 'well-tee', kind: 'tee' })
    draft.nodes.push({ id: 'well-tank', kind: 'tank', volumeL: 80, valve: rng.chance(0.5) })
    draft.pipes.push({ from: 'well-tee', to: 'well-tank' })
  }
  if (rng.chance(0.3)) {
    join(draft, { id: 'main', kind: 'valve', turns: 'multi' })
    if (rng.chance(0.5)) {
      join(draft, { id: 'house-tee', kind: 'tee' })
      draft.nodes.push({ id: 'house-tap', kind: 'outlet', use: 'house', ...(rng.chance(0.2) ? { mustGoOn: true } : {}) })
      draft.pipes.push({ from: 'house-tee', to: 'house-tap' })
    }
  }
  join(draft, { id: 'feed', kind: 'valve', turns: rng.pick(['quarter', 'multi'] as const) })
  const before = draft.nodes.length
  fill(rng, draft, use, most)
  const inPipe = draft.nodes.slice(before).filter((node) => node.kind === 'stage' && node.housing !== 'dry-slot')
  const [enters, leaves] = [draft.pipes.find(({ from }) => from === 'feed')?.to, draft.last]
  if (use !== 'fridge' && inPipe.length > 0 && rng.chance(0.35) && enters !== undefined)
    draft.nodes.push({ id: 'bypass', kind: 'bypass', enters, leaves })
  else {
    const tank = inPipe.find((node) => node.kind === 'stage' && node.media === 'carbon-tank')
    if (tank && rng.chance(0.7)) draft.nodes.push({ id: 'bypass', kind: 'bypass', enters: tank.id, leaves: tank.id })
  }
  finish(rng, draft, use)
  return { nodes: draft.nodes, pipes: draft.pipes }
}
