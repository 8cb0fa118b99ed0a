import fc from 'fast-check'
import { drawTrain, seeded } from '../simulate'
import { changeNode, FAMILIES, familyTrain, insertAfter, mergeTrains, moveStage, removeNode, stagesInFlow, type Train } from '.'

const SET = familyTrain(FAMILIES['reverse-osmosis-5'], ['s1', 's2', 's3', 's4', 's5'])
const field = (train: Train, id: string, name: string): unknown =>
  (train.nodes.find((node) => node.id === id) as Record<string, unknown> | undefined)?.[name]
const seen = (train: Train, id: string): Train => changeNode<'stage'>(train, id, { inletConfirmed: true })
const softened = (train: Train): Train =>
  insertAfter(train, 's2', { id: 'new', kind: 'stage', media: 'carbon-block', housing: 'sump-small', position: 0 })

test('who alone changed something has it as they say, whichever of the two it is', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), fc.integer({ min: 0, max: 1e6 }), (one, other) => {
      const [before, after] = [drawTrain(seeded(one)), drawTrain(seeded(other))]
      for (const [theirs, mine] of [
        [before, after],
        [after, before],
        [after, after],
      ] as const) {
        const merged = mergeTrains(before, theirs, mine)
        expect(merged.built).toBe(false)
        expect(merged.theirs).toEqual([])
        expect(new Set(merged.train.nodes.map((node) => JSON.stringify(Object.entries(node).sort())))).toEqual(
          new Set(after.nodes.map((node) => JSON.stringify(Object.entries(node).sort()))),
        )
        expect(merged.train.pipes).toEqual(after.pipes)
      }
    }),
    { numRuns: 60 },
  )
})

test('two things learned at two places of the set stand both', () => {
  const before = changeNode<'stage'>(changeNode<'stage'>(SET, 's1', { inletConfirmed: false }), 's2', { inletConfirmed: false })
  const merged = mergeTrains(before, seen(before, 's1'), seen(before, 's2'))
  expect([field(merged.train, 's1', 'inletConfirmed'), field(merged.train, 's2', 'inletConfirmed')]).toEqual([true, true])
  expect([merged.theirs, merged.built]).toEqual([[], false])
})

test('of the same thing theirs stands and is named; what else was said of it stands too', () => {
  const theirs = changeNode<'stage'>(SET, 's1', { drainCocks: 1 })
  const mine = changeNode<'stage'>(changeNode<'stage'>(SET, 's1', { drainCocks: 2 }), 's1', { reliefButton: true })
  const merged = mergeTrains(SET, theirs, mine)
  expect([field(merged.train, 's1', 'drainCocks'), field(merged.train, 's1', 'reliefButton')]).toEqual([1, true])
  expect(merged.theirs).toEqual(['s1'])
})

test('a stage put in by one and something known by the other stand both; the order is that of who built', () => {
  const theirs = changeNode<'stage'>(SET, 's3', { reliefButton: true })
  const merged = mergeTrains(SET, theirs, softened(SET))
  expect(stagesInFlow(merged.train).map(({ id, position }) => `${position} ${id}`)).toEqual([
    '1 s1',
    '2 s2',
    '3 new',
    '4 s3',
    '5 s4',
    '6 s5',
  ])
  expect(field(merged.train, 's3', 'reliefButton')).toBe(true)
  const other = mergeTrains(SET, softened(SET), changeNode<'stage'>(SET, 's3', { reliefButton: true }))
  expect(stagesInFlow(other.train)).toEqual(stagesInFlow(merged.train))
})

test('where both build it otherwise, theirs stands whole, and what I know of the rest stands in it', () => {
  const theirs = moveStage(SET, 's1', 1)
  const mine = changeNode<'stage'>(softened(SET), 's3', { reliefButton: true })
  const merged = mergeTrains(SET, theirs, mine)
  expect(merged.built).toBe(true)
  expect(stagesInFlow(merged.train).map(({ id }) => id)).toEqual(stagesInFlow(theirs).map(({ id }) => id))
  expect(merged.train.pipes).toEqual(theirs.pipes)
  expect(field(merged.train, 's3', 'reliefButton')).toBe(true)
})

test('what I took out while they said something new about it stays, and is told', () => {
  const theirs = changeNode<'stage'>(SET, 's2', { reliefButton: true })
  const merged = mergeTrains(SET, theirs, removeNode(SET, 's2'))
  expect(merged.built).toBe(true)
  expect(merged.train).toEqual(theirs)
})
