import fc from 'fast-check'
import { drawTrain, seeded } from '../simulate'
import { FAMILIES, type SheetSchools, sheet, type Train } from '.'
import { surpriseAnswer } from './surprises'
import { allDue, trainOf, USUAL } from './testing'

type Name = keyof typeof FAMILIES
const NAMES = Object.keys(FAMILIES) as Name[]

/** The blocks of each visit in the order they come, every stage of the train being due. */
function blocksOf(train: Train, schools: Partial<SheetSchools> = {}, from: { done?: string[]; answers?: Record<string, string> } = {}) {
  const tasks = allDue(train)
  const made = sheet({ train, tasks, schools: { ...USUAL, ...schools }, from })
  if (!made.ok) throw new Error(made.text)
  return made.visits.map(({ steps }) => steps.map(({ block }) => block).filter((block, index, all) => block !== all[index - 1]))
}
const isOnce = (blocks: readonly string[]): boolean => new Set(blocks).size === blocks.length && blocks.every((block) => block !== '')

test.each<[Name, Partial<SheetSchools>, string[][]]>([
  ['under-sink-2', {}, [['Prepare', 'Shut and relieve', 'Housing 1: sediment', 'Housing 2: carbon', 'Flush', 'Put back', 'Leave']]],
  ['under-sink-2', { order: 'all-out' }, [['Prepare', 'Shut and relieve', 'Take out', 'Put in', 'Flush', 'Put back', 'Leave']]],
  [
    'under-sink-2',
    { place: 'at-the-bench' },
    [['Prepare', 'Shut and relieve', 'Housing 1: sediment', 'Housing 2: carbon', 'Hang the set back', 'Flush', 'Put back', 'Leave']],
  ],
  [
    'reverse-osmosis-5',
    {},
    [
      [
        'Prepare',
        'Shut and relieve',
        'Housing 1: sediment',
        'Housing 2: carbon',
        'Housing 3: carbon',
        'Membrane vessel',
        'Post carbon body',
        'Flush',
        'Put back',
        'Leave',
      ],
    ],
  ],
  [
    'ultraviolet',
    {},
    [['Prepare', 'Shut and relieve', 'Housing 1: sediment', 'Housing 2: carbon', 'Lamp chamber', 'Flush', 'Put back', 'Leave']],
  ],
  [
    'carbon-tank',
    {},
    [
      [
        'Prepare',
        'Shut and relieve',
        'Housing 1: sediment',
        'Flush',
        'Put back',
        'Shut and relieve for the bed',
        'Carbon tank',
        'Fill and soak',
        'Leave',
      ],
      ['Prepare', 'Trickle and backwash', 'Put back', 'Leave'],
    ],
  ],
])('%s, %j: the blocks of each visit', (name, schools, blocks) => {
  expect(blocksOf(trainOf(name), schools)).toEqual(blocks)
})

const anySchools = fc.record({
  place: fc.constantFrom('in-place', 'at-the-bench'),
  order: fc.constantFrom('one-at-a-time', 'all-out'),
  tankWater: fc.constantFrom('keep', 'drain'),
}) as fc.Arbitrary<Partial<SheetSchools>>

test('steps of a block stand together, and a family has at most twelve a visit', () => {
  fc.assert(
    fc.property(fc.constantFrom(...NAMES), anySchools, (name, schools) => {
      const visits = blocksOf(trainOf(name), schools)
      expect(visits.every(isOnce)).toBe(true)
      expect(Math.max(...visits.map(({ length }) => length))).toBeLessThanOrEqual(12)
    }),
  )
})

test('on any train, whatever turned up on the way', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2 ** 31 - 1 }), anySchools, fc.nat(), (seed, schools, pick) => {
      const train = drawTrain(seeded(seed))
      expect(blocksOf(train, schools).every(isOnce)).toBe(true)
      const tasks = allDue(train)
      const made = sheet({ train, tasks, schools: { ...USUAL, ...schools } })
      if (!made.ok) throw new Error(made.text)
      const keys = made.visits.flatMap(({ steps }) => steps.map(({ key }) => key))
      const at = pick % keys.length
      const key = keys[at] as string
      const answer = key.includes('/close:')
        ? surpriseAnswer('will-not-close')
        : key.includes('leak-check')
          ? surpriseAnswer('still-leaking')
          : null
      if (answer === null) return
      expect(blocksOf(train, schools, { done: keys.slice(0, at), answers: { [key]: answer } }).every(isOnce)).toBe(true)
    }),
    { numRuns: 150 },
  )
})
