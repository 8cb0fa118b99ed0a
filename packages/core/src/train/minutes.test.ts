import { FAMILIES, familyTrain } from './families'
import { minutesOf } from './minutes'
import { sheet } from './sheet'
import type { SheetStep } from './types'

const step = (verb: SheetStep['verb'], minutes: number) => ({ verb, minutes })

test('flushes, soaks, trickles, backwashes and waits run by themselves; all else is work of hands', () => {
  const by = (['flush', 'soak', 'trickle', 'backwash', 'wait'] as const).map((verb) => step(verb, 10))
  expect(minutesOf([...by, step('loosen', 1), step('drain', 2)])).toEqual({ handsOnMin: 3, waitingMin: 50 })
  expect(minutesOf([])).toEqual({ handsOnMin: 0, waitingMin: 0 })
})

// Hands-on minutes by `procedures.md`.
test.each([
  ['under-sink-2', 10, 20],
  ['under-sink-3', 15, 30],
  ['counter-fluoride', 15, 30],
  ['reverse-osmosis-5', 25, 50],
] as const)('%s, every stage changed, takes %i to %i minutes of hands', (family, least, most) => {
  const train = familyTrain(
    FAMILIES[family],
    FAMILIES[family].stages.map((_, index) => `s${index + 1}`),
  )
  const tasks = train.nodes.flatMap((node) => (node.kind === 'stage' ? [{ stage: node.id, action: 'change' as const }] : []))
  const made = sheet({ train, tasks, schools: { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' } })
  if (!made.ok) throw new Error(made.text)
  const { handsOnMin } = minutesOf(made.visits.flatMap(({ steps }) => steps))
  expect(handsOnMin).toBeGreaterThanOrEqual(least)
  expect(handsOnMin).toBeLessThanOrEqual(most)
})
