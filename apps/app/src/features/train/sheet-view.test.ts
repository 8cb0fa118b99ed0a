import type { Schools } from '@evenround/contract/firm'
import { type Fact, visitState } from '@evenround/core/visit'
import { stopWith } from '../../testing/stop'
import { countdown, doneKeys, ladder, leftWords, runningTimers, sheetOf, stageOfStep } from './sheet-view'

const SCHOOLS: Schools = {
  change: 'earliest',
  membrane: 'fixed-floor',
  closing: 'hand-only',
  seals: 'reuse',
  order: 'one-at-a-time',
  tankWater: 'keep',
}
const stop = stopWith('under-sink-3', [1, 2])
const base = (seq: number) => ({
  id: `f${seq}`,
  at: `2026-11-25T09:00:0${seq}.000Z`,
  seq,
  siteId: 'site',
  visitId: 'v',
  supersedes: null,
  voided: false,
})
const reading = (seq: number, water: string): Fact =>
  ({
    ...base(seq),
    kind: 'tds-reading',
    systemId: 'system',
    phase: 'before',
    water,
    display: 400,
    multiplier: 1,
    quantity: 'tds',
    scale: 0.5,
    compensated: true,
    temperatureC: null,
    settled: true,
    keptDespiteDoubt: false,
  }) as Fact
const tick = (seq: number, stepKey: string): Fact => ({ ...base(seq), kind: 'step-done', stepKey, answer: null }) as Fact

function steps(facts: Fact[] = []) {
  const made = sheetOf(stop, visitState(facts), SCHOOLS)
  if (!made.ok) throw new Error(made.text)
  return made.visits.flatMap((visit) => visit.steps)
}

test('the sheet is of the stop’s tasks until the visit pins its own', () => {
  const outs = (facts: Fact[]) =>
    steps(facts)
      .filter(({ verb }) => verb === 'take-out')
      .map(({ at }) => at[0])
  expect(outs([])).toEqual(['stage-1', 'stage-2'])
  const pinned = {
    ...base(1),
    kind: 'visit-begun',
    stopId: 'stop',
    systemId: 'system',
    trainVersion: 1,
    engineVersion: 1,
    tasks: [{ stage: 'stage-3', action: 'change' }],
  } as Fact
  expect(outs([pinned])).toEqual(['stage-3'])
})

test('measuring counts as done when both waters are there', () => {
  const one = doneKeys(steps(), visitState([reading(1, 'untreated')]))
  const both = doneKeys(steps(), visitState([reading(1, 'untreated'), reading(2, 'treated')]))
  expect([one.size, [...both]]).toEqual([0, ['before/measure:tap']])
})

test('the present rung is the first that is not done, also when a later one was ticked elsewhere', () => {
  const all = steps()
  const keys = all.map(({ key }) => key)
  const rungs = ladder(all, new Set([keys[0] as string, keys[3] as string]))
  expect(rungs.present?.key).toBe(keys[1])
  expect(rungs.done.map(({ key }) => key)).toEqual([keys[0]])
  expect(ladder(all, new Set(keys)).present).toBeNull()
  expect(leftWords(rungs)).toMatch(/^about \d+ min left$/)
})

test('timers run by their instants and stop counting when their step is ticked', () => {
  const timer = { ...base(1), kind: 'timer-started', stepKey: 'flush', seconds: 600 } as Fact
  const now = '2026-11-25T09:04:01.000Z'
  expect(runningTimers(visitState([timer]), now)).toEqual([{ stepKey: 'flush', seconds: 360 }])
  expect(runningTimers(visitState([timer, tick(2, 'flush')]), now)).toEqual([])
  expect([countdown(360), countdown(59.2), countdown(0)]).toEqual(['6:00', '1:00', '0:00'])
})

test('a step knows its stage', () => {
  const out = steps().find(({ verb }) => verb === 'take-out')
  expect(out && stageOfStep(out, stop)?.position).toBe(1)
})
