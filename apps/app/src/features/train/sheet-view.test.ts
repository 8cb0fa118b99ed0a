import type { Schools } from '@evenround/contract/firm'
import { METRIC } from '@evenround/core/units'
import { type Fact, visitState } from '@evenround/core/visit'
import { doneKeys, inUnits, sheetOf, standingAt, standingOf } from '../../parts/visit/sheet'
import { stopWith } from '../../testing/stop'
import { countdown, ladder, leftWords, meanwhileOf, openTimers, stageOfStep } from './sheet-view'

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
const tick = (seq: number, stepKey: string): Fact =>
  ({ ...base(seq), kind: 'step-done', stepKey, verb: null, stageId: null, outcome: 'done', choice: null, note: null }) as Fact

function steps(facts: Fact[] = []) {
  const made = sheetOf(stop, standingOf(stop, visitState(facts)), SCHOOLS, METRIC)
  if (!made.ok) throw new Error(made.text)
  return made.steps
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

test('readings from before a stage was taken in are no readings of it: they are taken once more', () => {
  const after = (seq: number, water: string): Fact => ({ ...reading(seq, water), phase: 'after' }) as Fact
  const taken = { ...base(3), kind: 'work-changed', stageId: 'stage-3', action: 'change', why: null } as Fact
  const left = { ...base(3), kind: 'work-changed', stageId: 'stage-2', action: null, why: 'no part' } as Fact
  const read = (...facts: Fact[]) => [...doneKeys(steps(), visitState(facts))].some((key) => key.startsWith('close-out/measure'))
  const both = [after(1, 'untreated'), after(2, 'treated')]
  expect(read(...both)).toBe(true)
  expect(read(...both, taken)).toBe(false)
  expect(read(...both, left)).toBe(true)
  expect(read(...both, taken, after(4, 'untreated'), after(5, 'treated'))).toBe(true)
})

test('the present rung is the first that is not done, also when a later one was ticked elsewhere', () => {
  const all = steps()
  const keys = all.map(({ key }) => key)
  const rungs = ladder(all, new Set([keys[0] as string, keys[3] as string]))
  expect(rungs.present?.key).toBe(keys[1])
  expect(rungs.done.map(({ key }) => key)).toEqual([keys[0]])
  expect(ladder(all, new Set(keys)).present).toBeNull()
  expect(leftWords(rungs)).toMatch(/^about \d+ min left · 10 min of clocks$/)
})

test('timers run by their instants and stop counting when their step is ticked', () => {
  const timer = { ...base(1), kind: 'timer-started', stepKey: 'flush', seconds: 600 } as Fact
  const now = '2026-11-25T09:04:01.000Z'
  expect(openTimers(visitState([timer]), now)).toEqual([{ stepKey: 'flush', seconds: 360 }])
  expect(openTimers(visitState([timer, tick(2, 'flush')]), now)).toEqual([])
  expect([countdown(360), countdown(59.2), countdown(0)]).toEqual(['6:00', '1:00', '0:00'])
})

test('a step knows its stage', () => {
  const out = steps().find(({ verb }) => verb === 'take-out')
  expect(out && stageOfStep(out, stop)?.position).toBe(1)
})

test('figures are said in the firm’s units; metric steps stay as they are', () => {
  const flush = steps().find(({ verb }) => verb === 'flush')
  expect(flush && inUnits(flush, METRIC).text).toContain('8 L')
  expect(flush && inUnits(flush, { ...METRIC, volume: 'gal' }).text).toContain('2.1 gal')
})

test('while a clock runs only marks and monitors can be done meanwhile', () => {
  const all = steps()
  const flush = all.findIndex(({ verb }) => verb === 'flush')
  const done = new Set(all.slice(0, flush).map(({ key }) => key))
  const aside = meanwhileOf(all, done)
  expect(aside?.verb).toBe('mark')
  const rungs = ladder(all, done, aside)
  expect(rungs.present?.key).toBe(aside?.key)
  expect(rungs.coming[0]?.key).toBe(all[flush]?.key)
  expect(rungs.done).toHaveLength(flush)
})

test('a surprise changes what follows and unticks nothing; a note of a step left out changes nothing', () => {
  const plain = steps()
  const close = plain.find(({ verb }) => verb === 'close')?.key ?? ''
  const surprise = { ...base(3), kind: 'step-surprise', stepKey: close, surprise: 'will-not-close', stageId: null } as Fact
  const after = steps([tick(1, 'before/tell:tap'), surprise])
  expect(after.some(({ verb, at }) => verb === 'close' && at[0] === 'source')).toBe(true)
  expect(after.some(({ key }) => key === 'before/tell:tap')).toBe(true)
  const note = {
    ...base(4),
    kind: 'step-done',
    stepKey: close,
    verb: null,
    stageId: null,
    outcome: 'left-out',
    choice: null,
    note: 'no room',
  } as Fact
  expect(steps([note])).toEqual(plain)
})

test('a part that could not be put in is not in, whatever was ticked after it', () => {
  const all = steps()
  const fit = all.find(({ verb, at }) => verb === 'fit' && at[0] === 'stage-1')?.key ?? ''
  const facts = all.map(({ key }, index) => ({
    ...tick(index, key),
    id: `t${index}`,
    at: `2026-11-25T09:00:00.${String(index).padStart(3, '0')}Z`,
    ...(key === fit ? { outcome: 'left-out' as const, note: 'torn' } : {}),
  })) as Fact[]
  const stands = (told: Fact[]): string[] => {
    const state = visitState(told)
    return standingAt(state, sheetOf(stop, standingOf(stop, state), SCHOOLS, METRIC), stop.system.train)
  }
  expect(stands(facts)).toEqual(['Housing 1 is closed, with no part in it.'])
  expect(stands(facts.map((fact) => ({ ...fact, outcome: 'done' }) as Fact))).toEqual([])
})

test('a stop that follows a soak gets the second part of the sheet', () => {
  const tank = stopWith('carbon-tank', [2])
  const bed = { ...tank, tasks: tank.tasks.map((task) => ({ ...task, action: 'refill' as const })) }
  const verbsOf = (one: typeof bed) => {
    const made = sheetOf(one, standingOf(one, visitState([])), SCHOOLS, METRIC)
    return made.ok ? made.steps.map(({ verb }) => verb) : []
  }
  expect(verbsOf(bed)).toContain('soak')
  const second = verbsOf({ ...bed, follows: { visitId: 'v', why: 'soak', notBefore: null, notAfter: null } })
  expect([second.includes('soak'), second.includes('trickle'), second.includes('backwash')]).toEqual([false, true, true])
})

test('a second visit that is left in the middle says what stands otherwise', () => {
  const tank = stopWith('carbon-tank', [2])
  const bed = {
    ...tank,
    tasks: tank.tasks.map((task) => ({ ...task, action: 'refill' as const })),
    follows: { visitId: 'v', why: 'soak' as const, notBefore: null, notAfter: null, leftStanding: [] },
  }
  const made = sheetOf(bed, standingOf(bed, visitState([])), SCHOOLS, METRIC)
  if (!made.ok) throw new Error(made.text)
  const until = (verb: string): Fact[] =>
    made.steps
      .slice(0, made.steps.findLastIndex((step) => step.verb === verb) + 1)
      .map(({ key }, index) => ({ ...tick(index, key), id: `t${index}` }))
  const stands = (facts: Fact[]): string[] => standingAt(visitState(facts), made, bed.system.train)
  // It still soaks in its bypass, and nothing else is untouched.
  expect(stands([])).toEqual(['The bypass is on: the water goes round the set, untreated.'])
  expect(stands(until('tell'))).toEqual([])
})
