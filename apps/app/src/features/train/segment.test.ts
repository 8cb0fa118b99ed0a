import { type SheetStep, sheet } from '@evenround/core/train'
import { stopWith } from '../../testing/stop'
import { askedAt, blocksOf, minutesWords, segmentOf } from './segment'

const stop = stopWith('reverse-osmosis-5', [1, 2, 4])
const TASKS = [1, 2, 4].map((position) => ({ stage: `stage-${position}`, action: 'change' as const }))
const made = sheet({
  train: stop.system.train,
  tasks: TASKS,
  schools: { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' },
})
if (!made.ok) throw new Error(made.text)
const { holds } = made
const steps = made.visits[0]?.steps ?? []
const asked = (step: SheetStep) => askedAt(step, stop, TASKS, holds)
const NONE: ReadonlySet<string> = new Set()

/** What each tap would tick, from the first to the last. */
function taps(): SheetStep[][] {
  const done = new Set<string>()
  const all: SheetStep[][] = []
  for (;;) {
    const present = steps.find(({ key }) => !done.has(key))
    if (!present) return all
    const block = blocksOf(steps, done).find(({ name }) => name === present.block)
    const segment = segmentOf(block?.left ?? [], present, asked, NONE)
    all.push(segment)
    for (const { key } of segment) done.add(key)
  }
}

test('at most a dozen blocks, each step in one of them, in the order of the sheet', () => {
  const blocks = blocksOf(steps, NONE)
  expect(blocks.length).toBeLessThanOrEqual(12)
  expect(blocks.flatMap((block) => block.steps)).toEqual(steps)
  expect(blocks.map(({ n }) => n)).toEqual(blocks.map((_, index) => index + 1))
})

test('taps tick every step once, in order, never over the end of a block, and far fewer than there are steps', () => {
  const all = taps()
  expect(all.flat()).toEqual(steps)
  for (const segment of all) expect(new Set(segment.map(({ block }) => block)).size).toBe(1)
  expect(all.length).toBeLessThan(steps.length / 2)
})

test('nothing is ticked past a reading, a clock, an answer or a hold', () => {
  for (const segment of taps())
    for (const step of segment.slice(0, -1)) expect(['reading', 'clock', 'answer', 'hold']).not.toContain(asked(step))
})

test('what was found and the part that went in are asked within their block', () => {
  const out = steps.find(({ verb, at }) => verb === 'take-out' && at[0] === 'stage-1') as SheetStep
  const housing = taps().find((segment) => segment.includes(out)) as SheetStep[]
  expect(housing.map(asked).filter((one) => one !== null)).toEqual(['finding', 'part'])
})

test('a clock that was started meanwhile is not started again with what stands before it', () => {
  const clock = steps.findIndex((step) => asked(step) === 'clock' && step.block === steps[steps.indexOf(step) - 1]?.block)
  const [before, timed] = [steps[clock - 1] as SheetStep, steps[clock] as SheetStep]
  const left = steps.slice(clock - 1).filter(({ block }) => block === timed.block)
  expect(segmentOf(left, before, asked, NONE).at(-1)).toBe(timed)
  expect(segmentOf(left, before, asked, new Set([timed.key]))).toEqual([before])
  expect(segmentOf(left.slice(1), timed, asked, new Set([timed.key]))).toEqual([timed])
})

test('minutes of hands and of clocks stand apart', () => {
  expect(minutesWords({ handsOnMin: 4.4, waitingMin: 0 })).toBe('about 4 min')
  expect(minutesWords({ handsOnMin: 0.25, waitingMin: 10 })).toBe('about 1 min, and 10 of clocks')
  expect(minutesWords({ handsOnMin: 0, waitingMin: 10 })).toBe('10 min of clocks')
  expect(minutesWords({ handsOnMin: 0, waitingMin: 0 })).toBe('')
})
