import type { StopPageDto } from '@evenround/contract/site'
import { METRIC } from '@evenround/core/units'
import { stopWith, TODAY } from '../../testing/stop'
import { effects, factValues, type GaugeContext, type GaugeDraft, gaugesOf, readGauges } from './gauges-view'

const stop = stopWith('reverse-osmosis-5', [1])
const sediment = stop.system.stages.find(({ media }) => media === 'sediment')?.id ?? ''
const membrane = stop.system.stages.find(({ media }) => media === 'membrane')?.id ?? ''
const gauges = gaugesOf(stop, METRIC)
const NOW = Date.parse(`${TODAY}T10:00:00Z`)
const counter = { displayL: 9200, at: new Date(NOW - 60 * 86_400_000).toISOString() }
const context: GaugeContext = {
  units: METRIC,
  phase: 'before',
  tdsMgL: { untreated: null, treated: null },
  cleanFlow: new Map([[sediment, 8]]),
  decimal: '.',
  counter,
  nowMs: NOW,
}
const read = (draft: GaugeDraft) => readGauges(gauges, draft, context)

test('gauges in the order they are taken, only those that say something here', () => {
  expect(gauges.map(({ name }) => name)).toEqual([
    'counterL',
    'inKpa',
    'outKpa',
    'tapL',
    'tapSeconds',
    'chlorineAfterMgL',
    'jugL',
    'jugSeconds',
  ])
})

test('numbers as people say them, problems at their gauge', () => {
  const typed = { 'system/counterL': '9.5k', [`${sediment}/inKpa`]: '45 psi', [`${sediment}/outKpa`]: 'forty', [`${membrane}/jugL`]: '1' }
  const { values, errors } = read(typed)
  expect(values.get('system/counterL')).toBe(9500)
  // 45 psi × 6.894757 kPa
  expect(values.get(`${sediment}/inKpa`)).toBeCloseTo(310.264, 3)
  expect([...errors.keys()].sort()).toEqual([`${sediment}/outKpa`, `${membrane}/jugSeconds`].sort())
})

test('a drop the wrong way round is asked about', () => {
  expect(read({ [`${sediment}/inKpa`]: '280', [`${sediment}/outKpa`]: '300' }).errors.get(`${sediment}/outKpa`)).toMatch('swapped')
})

test.each([
  ['9400', '', 'forward'],
  ['100', '', 'rolled-over'],
  ['9100', '', 'backward'],
  ['120', 'yes', 'started-over'],
])('a counter at %s (new meter: %s) came there %s', (text, startedOver, step) => {
  expect(read({ 'system/counterL': text, counterStartedOver: startedOver }).counterStep).toBe(step)
})

test('a jug by the watch becomes litres a minute, with the water’s temperature', () => {
  const draft = { [`${membrane}/jugL`]: '1', [`${membrane}/jugSeconds`]: '300' }
  expect(factValues(membrane, read(draft), draft, 12, context)).toMatchObject({ productLMin: 0.2, waterC: 12, counterL: null })
  expect(factValues(null, read(draft), draft, 12, context)).toMatchObject({ productLMin: null, waterC: null })
})

test('a jug and a watch at the tap: held against the clean flow before the work, the clean flow itself after it', () => {
  const draft = { [`${sediment}/tapL`]: '2', [`${sediment}/tapSeconds`]: '24' }
  expect(factValues(sediment, read(draft), draft, null, context)).toMatchObject({ flowLMin: 5, cleanFlowLMin: 8 })
  expect(factValues(sediment, read(draft), draft, null, { ...context, phase: 'after' })).toMatchObject({ flowLMin: 5, cleanFlowLMin: 5 })
  expect(factValues(sediment, read(draft), draft, null, { ...context, cleanFlow: new Map() })).toMatchObject({
    flowLMin: 5,
    cleanFlowLMin: null,
  })
  expect(read({ [`${sediment}/tapL`]: '2' }).errors.get(`${sediment}/tapSeconds`)).toMatch('seconds')
})

test('the firm’s units stand beside the gauges and are meant by a bare number', () => {
  const units = { volume: 'gal', pressure: 'psi', temperature: 'F', gallon: 'us' } as const
  const own = gaugesOf(stop, units)
  expect(own.slice(0, 3).map(({ unit }) => unit)).toEqual(['gal', 'psi', 'psi'])
  const { values } = readGauges(
    own,
    { 'system/counterL': '100', [`${sediment}/inKpa`]: '45', [`${sediment}/outKpa`]: '200 kPa' },
    { ...context, units },
  )
  expect(values.get('system/counterL')).toBeCloseTo(378.5411784, 7)
  expect(values.get(`${sediment}/inKpa`)).toBeCloseTo(310.264, 3)
  expect(values.get(`${sediment}/outKpa`)).toBe(200)
})

test('each reading says at once what it did to the forecast', () => {
  const input = {
    today: TODAY,
    stage: { media: 'sediment' as const, fittedOn: '2026-07-01', rated: { days: 183 }, site: { people: 2, source: 'municipal' as const } },
    readings: [{ on: '2026-07-01', inKpa: 300, outKpa: 291 }],
    past: [],
    school: 'condition' as const,
  }
  const page: StopPageDto = {
    stop,
    history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null },
    wear: [{ stageId: sediment, input }],
    counter,
  }
  const draft = { [`${sediment}/inKpa`]: '300', [`${sediment}/outKpa`]: '255' }
  const [told] = effects(page, read(draft), draft, null, context)
  expect(told?.text).toMatch(/^Sediment: window \d+ (weeks|months) → \d+ (days|weeks)\. (Change by|Overdue since) /)
  expect(effects(page, read({}), {}, null, context)).toEqual([])
})

test('the two waters tell of the membrane at once; a doubted one tells nothing', () => {
  const input = {
    today: TODAY,
    stage: { media: 'membrane' as const, fittedOn: '2025-01-01', rated: { days: 913 }, site: { people: 3, source: 'municipal' as const } },
    readings: [{ on: '2025-01-02', feedTdsMgL: 400, productTdsMgL: 20 }],
    past: [],
    school: 'earliest' as const,
  }
  const page: StopPageDto = {
    stop,
    history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null },
    wear: [{ stageId: membrane, input }],
    counter: null,
  }
  const told = (treated: number | null) =>
    effects(page, read({}), {}, null, { ...context, tdsMgL: { untreated: 400, treated } }).map(({ text }) => text)
  // Passage has gone from 5 to 9 %, near twice its first: it ends sooner than anybody thought.
  expect(told(36)).toEqual([expect.stringMatching(/^Membrane: window .+ → .+\. (Change by|Overdue since) /)])
  expect(told(null)).toEqual([])
})

test('one reading unlike many others moves nothing, and that is said', () => {
  const pair = (on: string, productTdsMgL: number) => ({ on, feedTdsMgL: 400, productTdsMgL })
  const input = {
    today: TODAY,
    stage: { media: 'membrane' as const, fittedOn: '2024-07-06', rated: { days: 913 }, site: { people: 3, source: 'municipal' as const } },
    readings: [pair('2024-07-06', 25), pair('2025-03-25', 25.5), pair('2025-10-19', 26), pair('2026-04-13', 26.5), pair('2026-06-13', 27)],
    past: [],
    school: 'earliest' as const,
  }
  const page: StopPageDto = {
    stop,
    history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null },
    wear: [{ stageId: membrane, input }],
    counter: null,
  }
  const told = (treated: number) => effects(page, read({}), {}, null, { ...context, tdsMgL: { untreated: 400, treated } })[0]?.text
  expect(told(200)).toMatch(/taken for a slip until a second one agrees/)
})

test('a clock behind the one that last read the counter: this look still comes after it', () => {
  const behind = { ...context, nowMs: Date.parse(counter.at) - 60_000 }
  expect(readGauges(gauges, { 'system/counterL': '9100' }, behind).counterStep).toBe('backward')
  expect(readGauges(gauges, { 'system/counterL': '9300' }, behind).counterStep).toBe('forward')
})
