import { type SheetStep, sheet, type Task, type Train, type TrainNode } from '.'
import { check } from './check'
import { inService, play } from './machine/state'
import { allDue, USUAL } from './testing'

const source: TrainNode = { id: 'source', kind: 'source' }
const feed: TrainNode = { id: 'feed', kind: 'valve', turns: 'quarter' }
const tap: TrainNode = { id: 'tap', kind: 'outlet', use: 'house' }
const housing = (id: string, position: number, media: 'sediment' | 'carbon-block'): TrainNode => ({
  id,
  kind: 'stage',
  media,
  housing: 'sump-large',
  position,
  reliefButton: true,
  endUp: 'either',
  inletConfirmed: true,
})
const line = (...ids: string[]) => ids.slice(1).map((to, index) => ({ from: ids[index] as string, to }))

/** Two housings in a row, each in a bypass of its own. */
const EACH_ITS_BYPASS: Train = {
  nodes: [
    source,
    feed,
    { id: 'in1', kind: 'tee' },
    housing('s1', 1, 'sediment'),
    { id: 'out1', kind: 'tee' },
    { id: 'in2', kind: 'tee' },
    housing('s2', 2, 'carbon-block'),
    { id: 'out2', kind: 'tee' },
    tap,
    { id: 'round1', kind: 'bypass', enters: 'in1', leaves: 'out1' },
    { id: 'round2', kind: 'bypass', enters: 'in2', leaves: 'out2' },
  ],
  pipes: line('source', 'feed', 'in1', 's1', 'out1', 'in2', 's2', 'out2', 'tap'),
}
const valve = (id: string): TrainNode => ({ id, kind: 'valve', turns: 'quarter' })
/** Two carbons side by side, each between valves of its own. */
const SIDE_BY_SIDE: Train = {
  nodes: [
    source,
    feed,
    { id: 'fork', kind: 'tee' },
    valve('a1'),
    housing('s1', 1, 'carbon-block'),
    valve('a2'),
    valve('b1'),
    housing('s2', 2, 'carbon-block'),
    valve('b2'),
    { id: 'meet', kind: 'tee' },
    tap,
  ],
  pipes: [...line('source', 'feed', 'fork', 'a1', 's1', 'a2', 'meet', 'tap'), ...line('fork', 'b1', 's2', 'b2', 'meet')],
}

function visit(train: Train, tasks: Task[] = allDue(train)): SheetStep[] {
  const made = sheet({ train, tasks, schools: USUAL })
  if (!made.ok) throw new Error(made.text)
  expect(check({ train, tasks, schools: USUAL, visits: made.visits, holds: made.holds }).findings).toEqual([])
  return made.visits[0]?.steps ?? []
}
/** Steps that leave the house without water. */
function stops(train: Train, steps: readonly SheetStep[]): string[] {
  const state = inService(train)
  return steps.flatMap((step) => {
    play(train, state, step)
    return state.watered.has('tap') ? [] : [step.key]
  })
}
const told = (steps: readonly SheetStep[]): string => steps.find(({ verb }) => verb === 'tell')?.text ?? ''

test('two parts with a bypass each are done one after the other, and the house never stops', () => {
  const steps = visit(EACH_ITS_BYPASS)
  expect(stops(EACH_ITS_BYPASS, steps)).toEqual([])
  expect(steps.filter(({ verb }) => verb === 'close').map(({ at }) => at[0])).not.toContain('feed')
  expect(steps.filter(({ verb, to }) => verb === 'turn' && to === 'bypass').map(({ at }) => at[0])).toEqual(['round1', 'round2'])
  expect(told(steps)).toMatch(/^Say that the water goes round the set, untreated, for about \d+ minutes$/)
  expect([...new Set(steps.map(({ block }) => block))]).toEqual([
    'Prepare',
    'Shut and relieve',
    'Housing 1: sediment',
    'Flush',
    'Put back',
    'Shut and relieve, part 2',
    'Housing 2: carbon',
    'Flush, part 2',
    'Put back, part 2',
    'Leave',
  ])
})

test('lines side by side are done one after the other: the other one carries the house on, and nobody is told that it stops', () => {
  const steps = visit(SIDE_BY_SIDE)
  const opened = steps.findLastIndex(({ verb }) => verb === 'close-housing')
  expect(stops(SIDE_BY_SIDE, steps.slice(0, opened + 1))).toEqual([])
  const [first, second] = ['s1', 's2'].map((id) => steps.findIndex(({ verb, at }) => verb === 'open-housing' && at[0] === id)) as [
    number,
    number,
  ]
  // The first runs again before the second is shut.
  expect(steps.slice(first, second).map(({ verb }) => verb)).toContain('flush')
  expect(told(steps)).not.toMatch(/untreated/)
})

test('one of two in a row is done by its own bypass alone', () => {
  const steps = visit(EACH_ITS_BYPASS, [{ stage: 's2', action: 'change' }])
  expect(stops(EACH_ITS_BYPASS, steps)).toEqual([])
  expect(steps.filter(({ verb, to }) => verb === 'turn' && to === 'bypass').map(({ at }) => at[0])).toEqual(['round2'])
})
