import { FAMILIES, type Family, familyTrain, flowPath, stagesInFlow } from '@evenround/core/train'
import { type Addable, add, begin, change, nodeNote, nodeTitle, redo, rowsOf, undo } from './editor-state'

const family: Family = FAMILIES['under-sink-2']
const train = familyTrain(family, ['s1', 's2'])

test('undo and redo go through every step; a change that changes nothing is none; a new change forgets what was undone', () => {
  const one = add(train, 's1', 'carbon-block').train
  const two = add(one, 's1', 'valve').train
  let history = change(change(begin(train), one), two)
  expect(change(history, two)).toBe(history)
  history = undo(undo(history))
  expect(history.present).toBe(train)
  expect(undo(history).present).toBe(train)
  expect(redo(redo(redo(history))).present).toBe(two)
  expect(redo(change(undo(change(begin(train), one)), two)).present).toBe(two)
})

test('everything that can be added is added after the row, and is opened by its id', () => {
  for (const what of ['sediment', 'membrane', 'air-filter', 'valve', 'tank', 'outlet', 'ice', 'pump', 'heater'] as Addable[]) {
    const made = add(train, 's1', what)
    expect(made.train.nodes.some(({ id }) => id === made.id)).toBe(true)
    expect(train.nodes.some(({ id }) => id === made.id)).toBe(false)
  }
})

test('two valves get ids of their own', () => {
  const once = add(train, 's1', 'valve')
  const twice = add(once.train, 's1', 'valve')
  expect([once.id, twice.id]).toEqual(['valve', 'valve-2'])
})

test('a fresh stage is of an inlet nobody has seen', () => {
  const made = add(train, 's1', 'carbon-block')
  const stage = stagesInFlow(made.train).find(({ id }) => id === made.id)
  expect(stage && nodeNote(stage)).toBe('Housing 2 · inlet not confirmed')
  expect(stage && nodeTitle(made.train, stage)).toBe('2 · Carbon')
})

test('rows stand in the order of the water, tees and drains apart; what hangs beside comes last', () => {
  const osmosis: Family = FAMILIES['reverse-osmosis-5']
  const five = familyTrain(osmosis, ['a', 'b', 'c', 'd', 'e'])
  expect(rowsOf(five, flowPath(five)).map(({ id }) => id)).toEqual(['source', 'feed-valve', 'a', 'b', 'c', 'd', 'e', 'tap', 'tank'])
})
