import { type Fact, visitState } from '@evenround/core/visit'
import { stopWith } from '../../testing/stop'
import { type SlipInput, slipText } from './slip'

const base = (seq: number) => ({
  id: `f${seq}`,
  at: `2026-11-25T09:0${seq}:00.000Z`,
  seq,
  siteId: 'site',
  visitId: 'v',
  supersedes: null,
  voided: false,
})
const NONE = { days: null, litres: null, milliequivalents: null, hours: null }
const reading = (seq: number, phase: string, water: string, display: number): Fact =>
  ({
    ...base(seq),
    kind: 'tds-reading',
    systemId: 'system',
    phase,
    water,
    display,
    multiplier: 1,
    quantity: 'tds',
    scale: 0.5,
    compensated: true,
    temperatureC: null,
    settled: true,
    keptDespiteDoubt: false,
  }) as Fact
const begun = {
  ...base(0),
  kind: 'visit-begun',
  stopId: 'stop',
  systemId: 'system',
  trainVersion: 1,
  engineVersion: 1,
  tasks: [{ stage: 'stage-1', action: 'change' }],
} as Fact
const fitted = {
  ...base(5),
  kind: 'part-fitted',
  stageId: 'stage-1',
  partId: null,
  partNumber: 'BRK-SED-10',
  position: 1,
  markText: 'm',
  dateKnown: true,
  rated: NONE,
} as Fact
const hold = {
  ...base(6),
  kind: 'hold-begun',
  holdKind: 'first-tank',
  until: '2026-11-25T15:00:00.000Z',
  text: 'Pour the first tank away.',
} as Fact

const ME = {
  today: '2026-11-25',
  person: { name: 'Tam Orrin' },
  firm: { name: 'Fennick & Daughter', timeZone: 'Atlantic/Azores' },
} as unknown as SlipInput['me']
const slip = (facts: Fact[], more: Partial<SlipInput> = {}): string =>
  slipText({ me: ME, stop: stopWith('under-sink-2', [1]), state: visitState(facts), next: null, again: null, ...more })

test('says who did what, the readings before and after, what to hold off from and until when', () => {
  const text = slip([
    begun,
    reading(1, 'before', 'untreated', 412),
    reading(2, 'before', 'treated', 40),
    reading(3, 'after', 'untreated', 410),
    reading(4, 'after', 'treated', 12),
    fitted,
    hold,
  ])
  expect(text).toContain('Wednesday 25 November 2026, Net loft cottage, Kitchen')
  expect(text).toContain('Done by Tam Orrin')
  expect(text).toContain('Position 1, sediment: BRK-SED-10 fitted')
  expect(text).toContain('Before: untreated 412 mg/L, treated 40 mg/L')
  expect(text).toContain('After: untreated 410 mg/L, treated 12 mg/L')
  // An hour behind Greenwich in winter.
  expect(text).toContain('Pour the first tank away. Until 25 Nov 2026, 14:00.')
})

test('nothing changed is said; the second visit and its reason too; no empty line where nothing is known', () => {
  const text = slip([begun], { again: { day: '2026-11-27', why: 'to finish the work' } })
  expect(text).toContain('No part was changed at this visit.')
  expect(text).toContain('We come again on Friday 27 November: to finish the work.')
  expect(text).not.toMatch(/\n{3}/)
  expect(text).not.toContain('Before')
})

test('a washed element is named as washed', () => {
  const wash = { ...begun, tasks: [{ stage: 'stage-1', action: 'wash' }] } as Fact
  const removed = { ...base(3), kind: 'part-removed', stageId: 'stage-1', found: 'heavy', dirtPast: false } as Fact
  expect(slip([wash, removed])).toContain('Position 1, sediment: washed and put back')
})

test('what holds for the site’s water from before stands on the slip too, until it is lifted', () => {
  const boil = {
    id: 'h',
    holdKind: 'boil-or-bottled' as const,
    begunAt: '2026-11-20T08:00:00.000Z',
    until: null,
    text: 'Boil it until the result.',
  }
  const stop = stopWith('under-sink-2', [1], { holds: [boil] })
  expect(slip([begun], { stop })).toContain('PLEASE HOLD OFF\nBoil it until the result.')
  const lifted = { ...base(8), kind: 'hold-lifted', holdId: 'h', proof: 'R1' } as Fact
  expect(slip([begun, lifted], { stop })).not.toContain('HOLD OFF')
})

test('salt that was filled in is said', () => {
  const salt = { ...begun, tasks: [{ stage: 'stage-2', action: 'refill' }] } as Fact
  const filled = {
    ...base(4),
    kind: 'step-done',
    stepKey: 'change-stage-2/measure:stage-2',
    verb: null,
    stageId: null,
    outcome: 'done',
    choice: null,
    note: null,
  } as Fact
  expect(slip([salt, filled], { stop: stopWith('softener', [2]) })).toContain('Position 2, softener: looked into and filled up with salt')
})
