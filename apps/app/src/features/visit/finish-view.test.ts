import type { Schools } from '@evenround/contract/firm'
import type { StopDto, StopPageDto } from '@evenround/contract/site'
import { addDays, METRIC } from '@evenround/core/units'
import { type Fact, visitState } from '@evenround/core/visit'
import { sheetOf, standingOf } from '../../parts/visit/sheet'
import { dueWith } from '../../testing/due'
import { stopWith, TODAY } from '../../testing/stop'
import { finishProblem, hasMonitor, notFitted, verbDone } from './finish-view'
import { nextDue } from './next-due'

const stop = stopWith('under-sink-3', [1, 3])
const NOTHING_RATED = { days: null, litres: null, milliequivalents: null, hours: null }
/** What the server's forecasts of this stop are made of: two people, by the calendar. */
const WEAR: StopPageDto['wear'] = stop.system.stages.map(({ id, media }) => ({
  stageId: id,
  input: {
    today: TODAY,
    stage: { media, fittedOn: addDays(TODAY, -200), rated: { days: 183 }, site: { people: 2, source: 'municipal' } },
    readings: [],
    past: [],
    school: 'calendar',
  },
}))
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

type Finish = Parameters<typeof finishProblem>[0]
const SCHOOLS = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep', place: 'in-place' } as Schools
const sheetAt = (one: StopDto) => sheetOf(one, standingOf(one, visitState([])), SCHOOLS, METRIC)
const finish = (input: Omit<Finish, 'sheet' | 'leftStanding' | 'standsKnown' | 'doubts' | 'kept'> & Partial<Finish>) =>
  finishProblem({ sheet: sheetAt(input.stop), leftStanding: [], standsKnown: false, doubts: [], kept: '', ...input })

test('what stays shut or open is never “done”, and nobody leaves it without a word', () => {
  const state = visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3')])
  const left = { stop, state, customerTold: true, leftStanding: ['The feed valve is shut.'] }
  expect(finish({ ...left, outcome: 'done' })).toContain('say “Partly done”')
  expect(finish({ ...left, outcome: 'partly-done' })).toContain('tell the customer')
  expect(finish({ ...left, outcome: 'partly-done', standsKnown: true })).toBeNull()
})

test('a new part whose water is not right is not closed as done; a doubt wants its reason; both may end as not right yet', () => {
  const state = visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3')])
  const doubt = { why: 'membrane-passes' as const, stageId: 'stage-3', measured: 0.4, expected: 0.1, looks: [], notDone: true }
  const at = { stop, state, customerTold: true }
  expect(finish({ ...at, outcome: 'done', doubts: [doubt], kept: 'it is fine' })).toContain('“Not right yet”')
  expect(finish({ ...at, outcome: 'not-right', doubts: [doubt] })).toBeNull()
  const flow = { ...doubt, why: 'flow-low' as const, notDone: false }
  expect(finish({ ...at, outcome: 'done', doubts: [flow] })).toContain('say why')
  expect(finish({ ...at, outcome: 'done', doubts: [flow], kept: 'another tap was open' })).toBeNull()
})

test('“done” wants every due part in the record; “partly done” does not', () => {
  const half = visitState([fitted(1, 'stage-1')])
  expect(notFitted(stop, half, sheetAt(stop)).map(({ position }) => position)).toEqual([3])
  expect(finish({ stop, state: half, outcome: 'done', customerTold: true })).toContain('position 3')
  expect(finish({ stop, state: half, outcome: 'partly-done', customerTold: false })).toBeNull()
  expect(finish({ stop, state: visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3')]), outcome: 'done', customerTold: false })).toBeNull()
})

test('a bed that soaks is fitted at the first visit, and not asked for again at the one that runs it', () => {
  const tank = stopWith('carbon-tank', [2])
  const bed = { ...tank, tasks: tank.tasks.map((task) => ({ ...task, action: 'refill' as const })) }
  const running = { ...bed, follows: { visitId: 'v', why: 'soak' as const, notBefore: null, notAfter: null, leftStanding: [] } }
  const missing = (one: StopDto) => notFitted(one, { work: null, fitted: new Map() }, sheetAt(one)).map(({ position }) => position)
  expect([missing(bed), missing(running)]).toEqual([[2], []])
})

test('a hold nobody was told of keeps the visit open', () => {
  const state = visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3'), hold])
  expect(finish({ stop, state, outcome: 'done', customerTold: false })).toContain('tell the customer')
  expect(finish({ stop, state, outcome: 'done', customerTold: true })).toBeNull()
})

test('the monitor is asked about where a due stage has one', () => {
  expect(hasMonitor(stop, { work: null })).toBe(true)
  expect(hasMonitor(stopWith('under-sink-3', [1]), { work: null })).toBe(false)
  // Taken into the work since.
  expect(hasMonitor(stopWith('under-sink-3', [1]), { work: [{ stage: 'stage-3', action: 'change' }] })).toBe(true)
})

test('ticks of a phase and verb are found by their key', () => {
  const state = visitState([
    {
      ...base(1),
      kind: 'step-done',
      stepKey: 'close-out/tell:tap',
      verb: null,
      stageId: null,
      outcome: 'done',
      choice: null,
      note: null,
    } as Fact,
  ])
  expect([verbDone(state, 'close-out', 'tell'), verbDone(state, 'before', 'tell')]).toEqual([true, false])
})

test('the next time here is the stage that is to be changed first, new parts counted from today', () => {
  // Stages 1 and 3 are new with 400 days; stage 2 still stands at its day in January.
  const page = { stop, wear: WEAR }
  const next = nextDue(page, visitState([fitted(1, 'stage-1'), fitted(3, 'stage-3')]), TODAY)
  expect(next?.stage.position).toBe(2)
  expect(next?.due.due).toBe('2027-01-18')
  const all = nextDue(page, visitState([fitted(1, 'stage-1'), fitted(2, 'stage-2'), fitted(3, 'stage-3')]), TODAY)
  // By the evidence never after the label's 400 days, 30 December 2027; of two people not much before.
  expect(all?.due.due.slice(0, 7)).toBe('2027-12')
})

test('a place whose parts came out spent has its next date earlier; a part the server knows of has the server’s', () => {
  const removed = (found: string): Fact => ({ ...base(20), kind: 'part-removed', stageId: 'stage-1', found, dirtPast: null }) as Fact
  const onlyFirst = { ...stop, system: { ...stop.system, stages: stop.system.stages.slice(0, 1) } }
  const next = (found: string) =>
    nextDue({ stop: onlyFirst, wear: WEAR }, visitState([removed(found), fitted(1, 'stage-1')]), TODAY)?.due.due ?? ''
  expect(next('spent') < next('light')).toBe(true)
  const [first] = onlyFirst.system.stages as [(typeof stop.system.stages)[number]]
  const sent = {
    ...first,
    due: dueWith({ due: '2027-11-29' }),
    part: { partNumber: 'P', fittedOn: TODAY, dateKnown: true, rated: NOTHING_RATED },
  }
  const stopAfter = { ...onlyFirst, system: { ...onlyFirst.system, stages: [sent] } }
  expect(nextDue({ stop: stopAfter, wear: WEAR }, visitState([fitted(1, 'stage-1')]), TODAY)?.due.due).toBe('2027-11-29')
})
