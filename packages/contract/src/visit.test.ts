import { ERROR_CODES } from './errors'
import { FACT_KINDS, factSchema } from './visit'

const base = {
  id: '01a210be-51fe-72a1-83c2-5e99bc301c4f',
  at: '2026-11-25T09:00:00.000Z',
  seq: 1,
  siteId: '1b6815af-4a34-5722-a586-81e6589bcf4b',
  visitId: '7021bb24-1cb2-5184-a353-64e377879915',
  supersedes: null,
  voided: false,
}

test('the kinds of field work', () => {
  expect(FACT_KINDS).toEqual([
    'visit-begun',
    'tds-reading',
    'stage-reading',
    'step-done',
    'block-done',
    'step-surprise',
    'work-changed',
    'timer-started',
    'part-removed',
    'part-fitted',
    'hold-begun',
    'hold-lifted',
    'hold-told',
    'visit-finished',
    'fault-noted',
    'fault-settled',
    'site-mended',
    'job-planned',
    'chlorine-dosed',
    'strip-read',
    'sample-taken',
    'sample-result',
    'job-day-ended',
  ])
})

test('a block is accepted with its steps; without any, or with a step that names no act, it is not', () => {
  const block = {
    ...base,
    kind: 'block-done',
    block: 'Housing 1: sediment',
    steps: [{ stepKey: 'change-s1/loosen:s1', verb: 'loosen', stageId: null }],
  }
  expect(factSchema.safeParse(block).success).toBe(true)
  expect(factSchema.safeParse({ ...block, steps: [] }).success).toBe(false)
  expect(factSchema.safeParse({ ...block, steps: [{ stepKey: 'x', verb: 'shake', stageId: null }] }).success).toBe(false)
  expect(factSchema.safeParse({ ...block, block: ' ' }).success).toBe(false)
})

test('a tick is accepted; wall-clock times, wrong ids and blank keys are not', () => {
  const tick = {
    ...base,
    kind: 'step-done',
    stepKey: 'isolate/close:feed-valve',
    verb: 'close',
    stageId: null,
    outcome: 'done',
    choice: null,
    note: null,
  }
  expect(factSchema.safeParse(tick).success).toBe(true)
  expect(factSchema.safeParse({ ...tick, at: '2026-11-25T09:00:00+01:00' }).success).toBe(false)
  expect(factSchema.safeParse({ ...tick, id: 'seven' }).success).toBe(false)
  expect(factSchema.safeParse({ ...tick, stepKey: '  ' }).success).toBe(false)
  expect(factSchema.safeParse({ ...tick, seq: 1.5 }).success).toBe(false)
  // A choice belongs to an answer, a reason to what was left out.
  expect(factSchema.safeParse({ ...tick, outcome: 'answered', choice: 'yes' }).success).toBe(true)
  expect(factSchema.safeParse({ ...tick, choice: 'yes' }).success).toBe(false)
  expect(factSchema.safeParse({ ...tick, outcome: 'left-out' }).success).toBe(false)
})

test.each([
  ['a finding outside the five grades', { kind: 'part-removed', stageId: base.siteId, found: 'awful', dirtPast: null }],
  ['a timer of no length', { kind: 'timer-started', stepKey: 'k', seconds: 0 }],
  [
    'boiling over',
    {
      kind: 'tds-reading',
      systemId: base.siteId,
      phase: 'before',
      water: 'treated',
      display: 4,
      multiplier: 1,
      quantity: 'tds',
      scale: 0.5,
      compensated: true,
      temperatureC: 101,
      settled: true,
      keptDespiteDoubt: false,
    },
  ],
  ['a kind nobody knows', { kind: 'rumour' }],
])('%s is refused', (_, own) => {
  expect(factSchema.safeParse({ ...base, ...own }).success).toBe(false)
})

test('only passing trouble asks for another try', () => {
  const retryable = Object.entries(ERROR_CODES).flatMap(([code, { retryable: again }]) => (again ? [code] : []))
  expect(retryable).toEqual(['SLOW_DOWN', 'INTERNAL', 'SERVER_TOO_OLD', 'TIMED_OUT', 'BUSY', 'DATABASE_AWAY'])
})
