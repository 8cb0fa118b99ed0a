import fc from 'fast-check'
import { drawTrain, seeded } from '../simulate'
import {
  addOutlet,
  addTank,
  changeNode,
  FAMILIES,
  type Family,
  familyTrain,
  flowPath,
  insertAfter,
  moveStage,
  removeNode,
  type SheetSchools,
  sayKnown,
  setBypass,
  sheet,
  stagesInFlow,
  type Train,
  type TrainNode,
  trainWarnings,
} from '.'
import { check } from './check'

const trainOf = (name: keyof typeof FAMILIES): Train => {
  const family: Family = FAMILIES[name]
  return familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
}
const stage = (id: string, media: Extract<TrainNode, { kind: 'stage' }>['media'], more: object = {}): TrainNode =>
  ({ id, kind: 'stage', media, housing: 'sump-small', position: 0, ...more }) as TrainNode
const order = (train: Train): string[] => stagesInFlow(train).map(({ id }) => id)
const ids = (train: Train): string[] => flowPath(train).map(({ id }) => id)
const SCHOOLS: SheetSchools = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }

/** Lines name nodes that are there, ids differ, positions are 1 to n. */
function sound(train: Train): void {
  const known = new Set(train.nodes.map(({ id }) => id))
  expect(known.size).toBe(train.nodes.length)
  for (const { from, to } of train.pipes) expect([known.has(from), known.has(to)]).toEqual([true, true])
  for (const node of train.nodes) if (node.kind === 'bypass') expect([known.has(node.enters), known.has(node.leaves)]).toEqual([true, true])
  const stages = stagesInFlow(train)
  expect(stages.map(({ position }) => position)).toEqual(stages.map((_, index) => index + 1))
}

test('a stage goes in where it was put, positions follow', () => {
  const train = insertAfter(trainOf('under-sink-2'), 's1', stage('new', 'carbon-block'))
  expect(ids(train)).toEqual(['source', 'feed-valve', 's1', 'new', 's2', 'tap'])
  expect(order(train)).toEqual(['s1', 'new', 's2'])
  sound(train)
})

test('a membrane brings its drain, and takes it along when it goes', () => {
  const plain = trainOf('under-sink-2')
  const train = insertAfter(plain, 's2', stage('m', 'membrane', { housing: 'membrane-vessel' }))
  expect(train.nodes.some(({ id, kind }) => id === 'm-drain' && kind === 'drain')).toBe(true)
  expect(removeNode(train, 'm')).toEqual(plain)
})

test('a tank comes with its tee and its check valve, and goes with its tee', () => {
  const full = trainOf('reverse-osmosis-5')
  const bare = removeNode(full, 'tank')
  expect(bare.nodes.some(({ id }) => id === 'tank' || id === 'tank-tee')).toBe(false)
  expect(ids(bare)).toEqual(['source', 'feed-valve', 's1', 's2', 's3', 's4', 's5', 'tap'])
  const again = addTank(bare, 's4', { tee: 'tank-tee', tank: 'tank' }, 12)
  expect(again.pipes.find(({ to }) => to === 'tank-tee')?.check).toBe(true)
  expect(ids(again)).toEqual(ids(full))
})

test('a bypass follows what it goes round, and goes when nothing is left', () => {
  const train = setBypass(trainOf('under-sink-3'), 'b', { enters: 's1', leaves: 's3' })
  const bypass = (one: Train) => one.nodes.find(({ kind }) => kind === 'bypass')
  expect(bypass(removeNode(train, 's3'))).toMatchObject({ enters: 's1', leaves: 's2' })
  expect(bypass(moveStage(train, 's1', 1))).toMatchObject({ enters: 's2', leaves: 's3' })
  const one = setBypass(trainOf('under-sink-3'), 'b', { enters: 's2', leaves: 's2' })
  expect(bypass(removeNode(one, 's2'))).toBeUndefined()
})

test('another outlet hangs at a tee; the last one stays', () => {
  const train = addOutlet(trainOf('under-sink-2'), { tee: 't', outlet: 'ice' }, 'ice')
  expect(train.pipes.filter(({ from }) => from === 't').map(({ to }) => to)).toEqual(['tap', 'ice'])
  expect(removeNode(train, 'ice')).toEqual(trainOf('under-sink-2'))
  expect(removeNode(trainOf('under-sink-2'), 'tap')).toEqual(trainOf('under-sink-2'))
})

test('moving there and back, putting in and taking out, change nothing', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2 ** 31 - 1 }), fc.nat(), (seed, pick) => {
      const train = drawTrain(seeded(seed))
      const stages = order(train)
      const id = stages[pick % stages.length] as string
      const moved = moveStage(train, id, 1)
      sound(moved)
      if (moved !== train) expect(moveStage(moved, id, -1).pipes).toEqual(train.pipes)
      const path = flowPath(train).filter(({ kind }) => kind !== 'outlet')
      const after = (path[pick % path.length] as TrainNode).id
      const put = insertAfter(train, after, { id: 'fresh', kind: 'valve', turns: 'quarter' })
      sound(put)
      // A tee that parts nothing may go along.
      const things = (one: Train): string[] => one.nodes.flatMap((node) => (node.kind === 'tee' ? [] : [node.id])).sort()
      expect(things(removeNode(put, 'fresh'))).toEqual(things(train))
    }),
  )
})

test('whatever is taken out of a train somebody plumbed, what is left hangs together and its sheet is good', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2 ** 31 - 1 }), fc.nat(), (seed, pick) => {
      const train = drawTrain(seeded(seed))
      const stages = order(train)
      if (stages.length < 2) return
      const left = removeNode(train, stages[pick % stages.length] as string)
      sound(left)
      const [first] = stagesInFlow(left)
      if (!first || first.media === 'carbon-tank' || first.media === 'softener') return
      const tasks = [{ stage: first.id, action: first.media === 'uv-sleeve' ? ('clean' as const) : ('change' as const) }]
      const made = sheet({ train: left, tasks, schools: SCHOOLS })
      expect(made.ok).toBe(true)
      if (made.ok) expect(check({ train: left, tasks, schools: SCHOOLS, visits: made.visits, holds: made.holds }).findings).toEqual([])
    }),
    { numRuns: 150 },
  )
})

describe('warnings', () => {
  const warned = (train: Train): string[] => trainWarnings(train).map(({ id }) => id)
  test.each([
    'under-sink-2',
    'under-sink-3',
    'counter-fluoride',
    'reverse-osmosis-5',
    'reverse-osmosis-6',
    'two-large',
    'ultraviolet',
    'washable-prefilter',
    'carbon-tank',
  ] as const)('%s: nothing speaks against it', (name) => {
    expect(warned(trainOf(name))).toEqual([])
  })
  test('a membrane without prefilters, a remineraliser before it, a lamp before filters', () => {
    const full = trainOf('reverse-osmosis-6')
    expect(warned(removeNode(removeNode(removeNode(full, 's1'), 's2'), 's3'))).toEqual([
      'membrane-without-sediment',
      'membrane-without-carbon',
    ])
    const wrong = insertAfter(full, 's3', stage('r', 'remineraliser', { inletConfirmed: true }))
    expect(warned(wrong)).toEqual(['remineraliser-before-membrane'])
    const lit = insertAfter(trainOf('ultraviolet'), 's4', stage('late', 'carbon-block', { inletConfirmed: true }))
    expect(warned(lit)).toContain('lamp-before-filters')
  })
  test('no shut-off, no relief, water that must go on, a bed without a bypass, an inlet nobody saw', () => {
    const plain = trainOf('two-large')
    expect(warned(removeNode(plain, 'feed-valve'))).toEqual(['no-shut-off', 'no-shut-off'])
    const must = changeNode<'outlet'>(plain, 'tap', { mustGoOn: true })
    expect(warned(must)).toEqual(['must-go-on-without-bypass'])
    const around = setBypass(must, 'b', { enters: 's1', leaves: 's2' })
    expect(warned(around)).toEqual([])
    const buttonless = changeNode<'stage'>(changeNode<'stage'>(around, 's1', { reliefButton: false }), 's2', { reliefButton: false })
    expect(warned(buttonless)).toEqual(['no-relief', 'no-relief'])
    const house = trainOf('carbon-tank')
    expect(warned(setBypass(house, 'bypass', null))).toEqual(['bed-without-bypass'])
    expect(warned(changeNode<'stage'>(plain, 's1', { inletConfirmed: false }))).toEqual(['inlet-unknown'])
  })
})

test('what is known of a node is said, and taken back: then nobody knows it', () => {
  const plain = familyTrain(FAMILIES.ultraviolet, ['s1', 's2', 's3', 's4'])
  const said = sayKnown(sayKnown(plain, 's3', 'reactor', 'cellar'), 'tap', 'flowLMin', 8)
  expect(said.nodes.find(({ id }) => id === 's3')).toMatchObject({ reactor: 'cellar', media: 'uv-sleeve' })
  expect(said.nodes.find(({ id }) => id === 'tap')).toMatchObject({ flowLMin: 8 })
  expect(sayKnown(sayKnown(said, 's3', 'reactor', ''), 'tap', 'flowLMin', null)).toEqual(plain)
})
