import { drawTrain, seeded } from '../../simulate'
import { FAMILIES, type Family, familyTrain, type SheetSchools, sheet, stagesInFlow, type Train } from '..'
import { copyOf, inService, isDry, play, shutsItself, type TrainState } from './state'

const trainOf = (name: keyof typeof FAMILIES): Train => {
  const family: Family = FAMILIES[name]
  return familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
}
type Act = Parameters<typeof play>[2]
function after(train: Train, ...acts: Act[]): TrainState {
  const state = inService(train)
  for (const act of acts) play(train, state, act)
  return state
}
const act = (verb: Act['verb'], at: string, to?: string): Act => ({ verb, at: [at], ...(to === undefined ? {} : { to }) })

test('shut is not relieved: pressure stays trapped until something lets it out', () => {
  const train = trainOf('under-sink-2')
  const shut = after(train, act('close', 'feed-valve'))
  expect([shut.fed.has('s1'), shut.pressed.has('s1')]).toEqual([false, true])
  const relieved = after(train, act('close', 'feed-valve'), act('relieve', 'tap'))
  expect([relieved.pressed.has('s1'), relieved.taps.has('tap')]).toEqual([false, true])
})

test('a tap that is opened while the feed is on relieves nothing', () => {
  expect(after(trainOf('under-sink-2'), act('relieve', 'tap')).pressed.has('s1')).toBe(true)
})

test('the membrane holds what stands before it: the tap lets the product side out, the drain the feed side', () => {
  const train = trainOf('reverse-osmosis-5')
  const tap = after(train, act('close', 'feed-valve'), act('close', 'tank'), act('relieve', 'tap'))
  expect([tap.pressed.has('s5'), tap.pressed.has('s3'), tap.pressed.has('s4<')]).toEqual([false, true, true])
  const drain = after(train, act('close', 'feed-valve'), act('close', 'tank'), act('relieve', 'tap'), act('relieve', 'drain'))
  expect(drain.pressed.has('s3')).toBe(false)
})

test('an emptied tank presses on nothing, and again once water comes to it', () => {
  const train = trainOf('reverse-osmosis-5')
  const empty = after(train, act('close', 'feed-valve'), { verb: 'drain', at: ['tank'], to: 'tap' }, act('relieve', 'tap'))
  expect([empty.emptied.has('tank'), empty.pressed.has('s5')]).toEqual([true, false])
  const well: Train = {
    nodes: [
      { id: 'source', kind: 'source' },
      { id: 'v', kind: 'valve', turns: 'quarter' },
      { id: 't', kind: 'tank', volumeL: 80, valve: false },
      { id: 'tap', kind: 'outlet', use: 'house' },
    ],
    pipes: [
      { from: 'source', to: 'v' },
      { from: 'v', to: 't' },
      { from: 't', to: 'tap' },
    ],
  }
  const drained = after(well, act('close', 'v'), { verb: 'drain', at: ['t'], to: 'tap' })
  expect(drained.emptied.has('t')).toBe(true)
  const refilled = after(well, act('close', 'v'), { verb: 'drain', at: ['t'], to: 'tap' }, act('open', 'v', 'full'))
  expect(refilled.emptied.has('t')).toBe(false)
})

test('a bypass that is on cuts the set off and joins what lies beyond it', () => {
  const train = trainOf('washable-prefilter')
  const round = after(train, act('turn', 'bypass', 'bypass'))
  expect([round.fed.has('s1'), round.fed.has('tap')]).toEqual([false, true])
  expect(after(train, act('turn', 'bypass', 'bypass'), act('turn', 'bypass', 'service')).fed.has('s1')).toBe(true)
})

test('a pump that stands still stops pressure; a drained housing’s cock stays open until it is shut', () => {
  const train: Train = {
    nodes: [...trainOf('washable-prefilter').nodes, { id: 'pump', kind: 'pump' }],
    pipes: [
      { from: 'source', to: 'pump' },
      { from: 'pump', to: 'feed-valve' },
      ...trainOf('washable-prefilter').pipes.filter(({ from }) => from !== 'source'),
    ],
  }
  expect(after(train, act('power-off', 'pump')).fed.has('s1')).toBe(false)
  const drained = after(train, act('close', 'feed-valve'), { verb: 'drain', at: ['s1.cock'], to: 'vessel' })
  expect([drained.cocks.has('s1'), drained.drained.has('s1')]).toEqual([true, true])
  expect(after(train, { verb: 'drain', at: ['s1.cock'], to: 'vessel' }, act('close', 's1.cock')).cocks.size).toBe(0)
})

test('which heads shut themselves, and what is dry work', () => {
  const stage = (more: object) =>
    ({ id: 's', kind: 'stage', media: 'sediment', housing: 'sump-small', position: 1, ...more }) as Parameters<typeof isDry>[0]
  expect(shutsItself(stage({ housing: 'quarter-turn' }))).toBe(true)
  expect(shutsItself(stage({ housing: 'quarter-turn', selfSealing: false }))).toBe(false)
  expect(shutsItself(stage({ housing: 'fridge-cartridge' }))).toBe(false)
  expect(shutsItself(stage({ housing: 'fridge-cartridge', selfSealing: true }))).toBe(true)
  expect(['uv-lamp', 'air-filter', 'softener', 'uv-sleeve'].map((media) => isDry(stage({ media })))).toEqual([true, true, true, false])
})

test('a copy is apart from what it was copied of', () => {
  const train = trainOf('reverse-osmosis-5')
  const state = inService(train)
  const copy = copyOf(state)
  play(train, copy, act('close', 'feed-valve'))
  play(train, copy, act('take-out', 's1'))
  expect([state.shut.size, state.stages.get('s1')?.element]).toEqual([0, 'old'])
})

test('whatever is played, what is fed is pressed, and the seal of a part is not the part', () => {
  const schools: SheetSchools = { closing: 'hand-only', seals: 'new', order: 'all-out', tankWater: 'drain' }
  for (let seed = 1; seed <= 60; seed++) {
    const train = drawTrain(seeded(seed))
    const [first] = stagesInFlow(train)
    if (!first) continue
    const action = first.media === 'carbon-tank' || first.media === 'softener' ? 'refill' : 'change'
    const made = sheet({ train, tasks: [{ stage: first.id, action }], schools })
    if (!made.ok) throw new Error(made.text)
    const state = inService(train)
    for (const step of made.visits.flatMap(({ steps }) => steps)) {
      play(train, state, step)
      expect([...state.fed].filter((chamber) => !state.pressed.has(chamber))).toEqual([])
      expect(state.stages.get(first.id)?.fitted ?? 0).toBeLessThanOrEqual(1)
    }
  }
})
