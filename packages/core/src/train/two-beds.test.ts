import { type StageNode, sheet, type Task, type Train } from '.'
import { check } from './check'
import { inService, play } from './machine/state'
import { USUAL } from './testing'

const bed = (id: string, position: number): StageNode => ({
  id,
  kind: 'stage',
  media: 'carbon-tank',
  housing: 'media-tank',
  position,
  inletConfirmed: true,
})
const valve = (id: string): Train['nodes'][number] => ({ id, kind: 'valve', turns: 'quarter' })
const bypass = (id: string, enters: string, leaves: string): Train['nodes'][number] => ({ id, kind: 'bypass', enters, leaves })
const line = (...nodes: string[]): Train['pipes'] => nodes.slice(1).map((to, index) => ({ from: nodes[index] as string, to }))

const BOTH: Train['nodes'] = [
  { id: 'source', kind: 'source' },
  valve('feed'),
  bed('s1', 1),
  bed('s2', 2),
  { id: 'tap', kind: 'outlet', use: 'house' },
]
const ROW = line('source', 'feed', 's1', 's2', 'tap')
const TEES: Train['nodes'] = [
  { id: 't1', kind: 'tee' },
  { id: 't2', kind: 'tee' },
]
const SIDE_BY_SIDE = [...line('source', 'feed', 't1', 's1', 't2', 'tap'), ...line('t1', 's2', 't2')]

const TRAINS: [string, Train][] = [
  ['each with a bypass', { nodes: [...BOTH, bypass('b1', 's1', 's1'), bypass('b2', 's2', 's2')], pipes: ROW }],
  ['one bypass round both', { nodes: [...BOTH, bypass('b', 's1', 's2')], pipes: ROW }],
  ['a bypass round the first alone', { nodes: [...BOTH, bypass('b', 's1', 's1')], pipes: ROW }],
  ['no bypass', { nodes: BOTH, pipes: ROW }],
  ['side by side in one bypass', { nodes: [...BOTH, ...TEES, bypass('b', 't1', 't2')], pipes: SIDE_BY_SIDE }],
  [
    'side by side, each behind a valve',
    {
      nodes: [...BOTH, ...TEES, valve('v1'), valve('v2')],
      pipes: [...line('source', 'feed', 't1', 'v1', 's1', 't2', 'tap'), ...line('t1', 'v2', 's2', 't2')],
    },
  ],
]
const TASKS: Task[] = [
  { stage: 's1', action: 'refill' },
  { stage: 's2', action: 'refill' },
]

describe.each(TRAINS)('two carbon beds, %s', (_, train) => {
  const made = sheet({ train, tasks: TASKS, schools: USUAL })
  if (!made.ok) throw new Error(made.text)
  const [first, second] = made.visits.map(({ steps }) => steps)
  const order = (steps: typeof first, verb: string): string[] =>
    (steps ?? []).flatMap((step) => (step.verb === verb ? [step.at[0] ?? ''] : []))

  test('the checker finds nothing', () => {
    expect(check({ train, tasks: TASKS, schools: USUAL, visits: made.visits, holds: made.holds }).findings).toEqual([])
  })
  test('both soak for 48 hours, the last in the water first', () => {
    expect(order(first, 'soak')).toEqual(['s2', 's1'])
    expect(made.visits.map(({ minGapHoursBefore }) => minGapHoursBefore)).toEqual([0, 48])
  })
  test('at the second visit each is trickled, backwashed and run, as the water runs', () => {
    expect(order(second, 'trickle')).toEqual(['s1', 's2'])
    expect(order(second, 'backwash')).toEqual(['s1', 's2'])
    expect(order(second, 'flush')).toEqual(['s1', 's2'])
  })
  test('no more than twelve blocks a visit', () => {
    for (const { steps } of made.visits) expect(new Set(steps.map(({ block }) => block)).size).toBeLessThanOrEqual(12)
  })
})

describe('two carbon beds side by side, each between two valves and with a cock of its own', () => {
  const cocked = (id: string, position: number): StageNode => ({ ...bed(id, position), drainCocks: 1 })
  const train: Train = {
    nodes: [
      ...BOTH.filter(({ kind }) => kind !== 'stage'),
      ...TEES,
      ...[cocked('s1', 1), cocked('s2', 2)],
      ...['v1', 'v2', 'w1', 'w2'].map(valve),
    ],
    pipes: [...line('source', 'feed', 't1', 'v1', 's1', 'w1', 't2', 'tap'), ...line('t1', 'v2', 's2', 'w2', 't2')],
  }
  const made = sheet({ train, tasks: TASKS, schools: USUAL })
  if (!made.ok) throw new Error(made.text)
  const verbs = (visit: number, verb: string): string[] =>
    (made.visits[visit]?.steps ?? []).flatMap((step) => (step.verb === verb ? step.at : []))

  test('take turns: the one soaks while the house runs on the other, three visits in all', () => {
    expect(made.visits.map(({ minGapHoursBefore }) => minGapHoursBefore)).toEqual([0, 48, 48])
    expect([0, 1, 2].map((visit) => verbs(visit, 'soak'))).toEqual([['s1'], ['s2'], []])
    expect([0, 1, 2].map((visit) => verbs(visit, 'trickle'))).toEqual([[], ['s1'], ['s2']])
    expect(check({ train, tasks: TASKS, schools: USUAL, visits: made.visits, holds: made.holds }).findings).toEqual([])
  })
  test('the house has water at every step of every visit', () => {
    const state = inService(train)
    for (const step of made.visits.flatMap(({ steps }) => steps)) {
      play(train, state, step)
      expect([step.key, state.watered.has('tap')]).toEqual([step.key, true])
    }
    expect(made.holds.map(({ kind }) => kind)).toEqual(['low-flow'])
  })
  test('each is told by its position, each valve by the tank it stands before or after', () => {
    const said = made.visits.flatMap(({ steps }) => steps.map(({ text }) => text))
    expect(said.filter((text) => /carbon tank(?! \d)/.test(text))).toEqual([])
    expect(said).toContain('Shut the valve after carbon tank 1: the bed stands full')
    expect(said).toContain('Say that the water goes on meanwhile, with less flow')
  })
  test('what is read off after the first has run is read off at its own visit', () => {
    expect(made.visits.map(({ steps }) => steps.filter(({ verb }) => verb === 'measure').length)).toEqual([1, 2, 2])
  })
  test('one alone takes two visits', () => {
    const one = sheet({ train, tasks: TASKS.slice(1), schools: USUAL })
    expect(one).toMatchObject({ ok: true, visits: [{}, { minGapHoursBefore: 48 }], holds: [{ kind: 'low-flow' }] })
  })
})

test('twins that nothing but the tap lets out stop the house while each is refilled, and not for the days it soaks', () => {
  const train: Train = {
    nodes: [...BOTH, ...TEES, ...['v1', 'v2', 'w1', 'w2'].map(valve)],
    pipes: [...line('source', 'feed', 't1', 'v1', 's1', 'w1', 't2', 'tap'), ...line('t1', 'v2', 's2', 'w2', 't2')],
  }
  const made = sheet({ train, tasks: TASKS, schools: USUAL })
  if (!made.ok) throw new Error(made.text)
  expect(check({ train, tasks: TASKS, schools: USUAL, visits: made.visits, holds: made.holds }).findings).toEqual([])
  expect(made.holds.map(({ kind }) => kind)).toEqual(['low-flow'])
  const state = inService(train)
  const afterEach = made.visits.map(({ steps }) => {
    for (const step of steps) play(train, state, step)
    return state.watered.has('tap')
  })
  expect(afterEach).toEqual([true, true, true])
})
