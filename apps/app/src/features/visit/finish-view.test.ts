import type { Schools } from '@evenround/contract/firm'
import { type Fact, visitState } from '@evenround/core/visit'
import { stopWith, TODAY } from '../../testing/stop'
import { finishProblem, hasMonitor, notFitted, verbDone } from './finish-view'
import { nextDue } from './next-due'

const SCHOOLS: Schools = {
  change: 'calendar',
  membrane: 'fixed-floor',
  closing: 'hand-only',
  seals: 'reuse',
  order: 'one-at-a-time',
  tankWater: 'keep',
}
const stop = stopWith('under-sink-3', [1, 3])
const base = (seq: number) => ({
  id: `f${seq}`,
  at: '2026-11-25T09:00:00.000Z',
  seq,
  siteId: 'site',
  visitId: 'v',
  supersedes: null,
  voided: false,
})
const fitted = (seq: number, stageId: string): Fact =>
  ({
    ...base(seq),
    kind: 'part-fitted',
    stageId,
    partId: null,
    partNumber: 'P',
    position: seq,
    markText: 'm',
    dateKnown: true,
    rated: { days: 400, litres: null, milliequivalents: null, hours: null },
  }) as Fact
const hold = {
  ...base(9),
  kind: 'hold-begun',
  holdKind: 'first-tank',
  until: '2026-11-25T15:00:00.000Z',
  text: 'Pour the first tank away.',
} as Fact

test('“done” wants every due part in the record; “partly done” does not', () => {
  const half = visitState([fitted(1, 'stage-1')])
  expect(notFitted(stop, half).map(({ position }) => position)).toEqual([3])
  expect(finishProblem({ stop, state: half, outcome: 'done', customerTold: true })).toContain('position 3')
  expect(finishProblem({ stop, state: half, outcome: 'partly-done', customerTold: false })).toBeNull()
  expect(
    finishProblem({ stop, state: visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3')]), outcome: 'done', customerTold: false }),
  ).toBeNull()
})

test('a hold nobody was told of keeps the visit open', () => {
  const state = visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3'), hold])
  expect(finishProblem({ stop, state, outcome: 'done', customerTold: false })).toContain('tell the customer')
  expect(finishProblem({ stop, state, outcome: 'done', customerTold: true })).toBeNull()
})

test('the monitor is asked about where a due stage has one', () => {
  expect(hasMonitor(stop)).toBe(true)
  expect(hasMonitor(stopWith('under-sink-3', [1]))).toBe(false)
})

test('ticks of a phase and verb are found by their key', () => {
  const state = visitState([{ ...base(1), kind: 'step-done', stepKey: 'close-out/tell:tap', answer: null } as Fact])
  expect([verbDone(state, 'close-out', 'tell'), verbDone(state, 'before', 'tell')]).toEqual([true, false])
})

test('the next time here is the stage that ends first, new parts counted from today', () => {
  // Stages 1 and 3 are new with 400 days; stage 2 still stands at its forecast in January.
  const next = nextDue(stop, visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3')]), SCHOOLS, TODAY)
  expect(next?.stage.position).toBe(2)
  expect(next?.forecast.p50).toBe('2027-01-18')
  const all = nextDue(stop, visitState([fitted(1, 'stage-1'), fitted(2, 'stage-2'), fitted(3, 'stage-3')]), SCHOOLS, TODAY)
  // 400 days from 25 November 2026, two people: about 30 December 2027.
  expect(all?.forecast.p50.slice(0, 7)).toMatch(/2027-12|2028-01/)
})
