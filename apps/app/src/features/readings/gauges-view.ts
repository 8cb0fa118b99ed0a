import type { StageDto, StopDto, StopPageDto } from '@evenround/contract/site'
import type { StageDueDto } from '@evenround/contract/wear'
import { DECHLORINATES, type Medium, type OwnCause } from '@evenround/core/catalogue'
import { type CounterCount, type CounterStep, countLitres } from '@evenround/core/readings'
import { type Dimension, daysBetween, parseQuantity, type ShownUnits, unitOf } from '@evenround/core/units'
import {
  type Cause,
  dueOf,
  forecast,
  ruleOf,
  type WearForecast,
  type WearInput,
  type WearReading,
  watersSeenBy,
} from '@evenround/core/wear'
import { numberText, say, sayFor } from '@evenround/core/words'
import { dueWords, spanWords, stageName } from '../../parts/wear/words'

/** What is read besides the two waters, in the order it is taken: before anything runs, then running, then at the lamp. */
export type GaugeName =
  | 'counterL'
  | 'inKpa'
  | 'outKpa'
  | 'chlorineAfterMgL'
  | 'jugL'
  | 'jugSeconds'
  | 'tapL'
  | 'tapSeconds'
  | 'lampHours'
  | 'intensityPercent'
  | 'hardnessInMgL'
  | 'hardnessOutMgL'

export interface Gauge {
  id: string
  stageId: string | null
  name: GaugeName
  label: string
  unit: string
  kind: 'number' | 'strip'
}

/** What was typed, by gauge id; `counterStartedOver` says that a new meter was put in. */
export type GaugeDraft = Record<string, string>
export const STARTED_OVER = 'counterStartedOver'

const gauge = (stage: StageDto | null, name: GaugeName, label: string, unit: string, kind: Gauge['kind'] = 'number'): Gauge => ({
  id: `${stage?.id ?? 'system'}/${name}`,
  stageId: stage?.id ?? null,
  name,
  label,
  unit,
  kind,
})

/** The gauges that say something at this system. */
export function gaugesOf({ system, site }: StopDto, units: ShownUnits): Gauge[] {
  const { stages } = system
  const volume = unitOf('volume', units).text
  const pressure = unitOf('pressure', units).text
  const sediment = stages.find(({ media }) => media === 'sediment')
  const named = (stage: StageDto, what: string): string => `${stage.position} ${stageName(stage)}: ${what}`
  const of = (media: readonly Medium[], make: (stage: StageDto) => Gauge[]): Gauge[] =>
    stages.filter((stage) => media.includes(stage.media)).flatMap(make)
  /** A kind of the firm's own is read by what ends it. */
  const endsBy = (cause: OwnCause): StageDto[] =>
    stages.filter(({ id }) =>
      system.train.nodes.some((node) => node.id === id && node.kind === 'stage' && node.own?.causes.includes(cause)),
    )
  const byChlorine = endsBy('breakthrough')
  const lastCarbon = stages.findLast((stage) => DECHLORINATES.includes(stage.media) || byChlorine.includes(stage))
  const pressures = (stage: StageDto): Gauge[] => [
    gauge(stage, 'inKpa', named(stage, sayFor('gauge')`in`), pressure),
    gauge(stage, 'outKpa', named(stage, sayFor('gauge')`out`), pressure),
  ]
  return [
    gauge(null, 'counterL', say`Counter`, volume),
    ...of(['sediment', 'sediment-carbon', 'ultrafiltration'], pressures),
    ...endsBy('pressure').flatMap(pressures),
    ...(sediment
      ? [gauge(sediment, 'tapL', say`Flow at a tap: jug`, volume), gauge(sediment, 'tapSeconds', say`Flow at a tap: time`, 's')]
      : []),
    ...(site.source === 'municipal' && lastCarbon
      ? [
          gauge(
            lastCarbon,
            'chlorineAfterMgL',
            named(lastCarbon, say`free chlorine after it`),
            unitOf('concentration', units).text,
            'strip',
          ),
        ]
      : []),
    ...of(['membrane'], (stage) => [
      gauge(stage, 'jugL', named(stage, sayFor('gauge')`jug`), volume),
      gauge(stage, 'jugSeconds', named(stage, sayFor('gauge')`time`), 's'),
    ]),
    ...of(['uv-lamp'], (stage) => [
      gauge(stage, 'lampHours', named(stage, say`hours lit`), 'h'),
      gauge(stage, 'intensityPercent', named(stage, say`intensity, sleeve wiped`), say`% of new`),
    ]),
    ...of(['chlorine-feed'], (stage) => [
      gauge(stage, 'chlorineAfterMgL', named(stage, say`free chlorine at the tap`), unitOf('concentration', units).text, 'strip'),
    ]),
    ...of(['softener'], (stage) => [
      gauge(stage, 'hardnessInMgL', named(stage, say`hardness before it`), unitOf('hardness', units).text),
      gauge(stage, 'hardnessOutMgL', named(stage, say`hardness after it`), unitOf('hardness', units).text),
    ]),
  ]
}

const DIMENSION: Record<GaugeName, Dimension> = {
  counterL: 'volume',
  inKpa: 'pressure',
  outKpa: 'pressure',
  chlorineAfterMgL: 'concentration',
  jugL: 'volume',
  jugSeconds: 'number',
  tapL: 'volume',
  tapSeconds: 'number',
  lampHours: 'number',
  intensityPercent: 'number',
  hardnessInMgL: 'hardness',
  hardnessOutMgL: 'hardness',
}
const MOST: Record<GaugeName, number> = {
  counterL: 1e9,
  inKpa: 3000,
  outKpa: 3000,
  chlorineAfterMgL: 50,
  jugL: 100,
  jugSeconds: 7200,
  tapL: 200,
  tapSeconds: 7200,
  lampHours: 500_000,
  intensityPercent: 200,
  hardnessInMgL: 5000,
  hardnessOutMgL: 5000,
}

export interface ReadGauges {
  /** Read values by gauge id. */
  values: Map<string, number>
  /** Problems by gauge id. */
  errors: Map<string, string>
  /** How the counter got here from when it was last seen; null where it was not read or never seen before. */
  counterStep: CounterStep | null
}

export const NOTHING_READ: ReadGauges = { values: new Map(), errors: new Map(), counterStep: null }

export interface GaugeContext {
  /** After the work a flow at the tap is the clean one. */
  phase: 'before' | 'after'
  /** The two waters as they were judged, mg/L at 25 °C; null while not read, or doubted. */
  tdsMgL: { untreated: number | null; treated: number | null }
  /** The clean flow of each stage as it was last measured, L/min. */
  cleanFlow: ReadonlyMap<string, number>
  units: ShownUnits
  decimal: '.' | ','
  counter: StopPageDto['counter']
  nowMs: number
}

function readOne({ name }: Gauge, text: string, { units, decimal }: GaugeContext): { value: number } | { error: string } {
  const dimension = DIMENSION[name]
  const unit =
    dimension === 'volume' || dimension === 'pressure' || dimension === 'hardness' ? { unit: unitOf(dimension, units).parse } : {}
  const parsed = parseQuantity(text, { dimension, gallon: units.gallon, decimal, ...unit })
  if (!parsed.ok)
    return {
      error:
        parsed.reason === 'unknown-unit'
          ? say`Type the number only, or one of: ${parsed.expected.join(', ')}`
          : say`Not a number. Type e.g. 412 or 1.2k`,
    }
  if (parsed.value < 0) return { error: say`No less than 0` }
  if (parsed.value > MOST[name]) return { error: say`No more than ${numberText(MOST[name])}` }
  return { value: parsed.value }
}

/** Reads everything typed, with each problem at its gauge; nothing is guessed. */
export function readGauges(gauges: readonly Gauge[], draft: GaugeDraft, context: GaugeContext): ReadGauges {
  const values = new Map<string, number>()
  const errors = new Map<string, string>()
  for (const one of gauges) {
    const text = (draft[one.id] ?? '').trim()
    if (text === '') continue
    const read = readOne(one, text, context)
    if ('error' in read) errors.set(one.id, read.error)
    else values.set(one.id, read.value)
  }
  for (const one of gauges) {
    const other = (name: GaugeName): number | undefined => values.get(`${one.stageId}/${name}`)
    const [before, after] = [other('inKpa'), other('outKpa')]
    if (one.name === 'outKpa' && before !== undefined && after !== undefined && after > before)
      errors.set(one.id, say`Higher than before it: are the two gauges swapped?`)
    if (one.name === 'jugSeconds' && other('jugL') !== undefined && other('jugSeconds') === undefined && !errors.has(one.id))
      errors.set(one.id, say`How many seconds did the jug take?`)
    if (one.name === 'tapSeconds' && other('tapL') !== undefined && other('tapSeconds') === undefined && !errors.has(one.id))
      errors.set(one.id, say`How many seconds did it take?`)
  }
  return { values, errors, counterStep: counterStep(values.get('system/counterL'), draft, context) }
}

/**
 * The last look and this one, counted; null where the counter was never seen before. This one comes after it whatever the clocks say: the
 * last may be another phone's, whose clock runs ahead.
 */
function sinceLast(displayL: number, draft: GaugeDraft, { counter, nowMs }: GaugeContext): CounterCount | null {
  if (counter === null) return null
  const lastMs = Date.parse(counter.at)
  const looks = [
    { atMs: lastMs, displayL: counter.displayL, startedOver: false },
    { atMs: Math.max(nowMs, lastMs + 1), displayL, startedOver: draft[STARTED_OVER] === 'yes' },
  ]
  return countLitres(looks)[1] ?? null
}

const counterStep = (displayL: number | undefined, draft: GaugeDraft, context: GaugeContext): CounterStep | null =>
  displayL === undefined ? null : (sinceLast(displayL, draft, context)?.step ?? null)

/** Litres between the last look and this one; null where they cannot be known. */
function litresSinceLast(displayL: number, draft: GaugeDraft, context: GaugeContext): number | null {
  const now = sinceLast(displayL, draft, context)
  return now === null || now.step === 'backward' ? null : now.totalL
}

/** Flow at a tap and the clean flow it is held against, L/min; without a clean one it tells nothing yet. */
function flowOf(
  stageId: string,
  { values }: ReadGauges,
  { phase, cleanFlow }: GaugeContext,
): { flowLMin: number; cleanFlowLMin: number | null } | null {
  const [litres, seconds] = [values.get(`${stageId}/tapL`), values.get(`${stageId}/tapSeconds`)]
  if (litres === undefined || !seconds || litres === 0) return null
  const flowLMin = (litres / seconds) * 60
  return { flowLMin, cleanFlowLMin: phase === 'after' ? flowLMin : (cleanFlow.get(stageId) ?? null) }
}

/** The last clean flow of each stage, from what its forecast is made of. */
export const cleanFlows = (page: StopPageDto): Map<string, number> =>
  new Map(
    page.wear.flatMap(({ stageId, input }) => {
      const last = input.readings.filter(({ cleanFlowLMin }) => cleanFlowLMin !== undefined).at(-1)
      return last?.cleanFlowLMin === undefined ? [] : [[stageId, last.cleanFlowLMin] as const]
    }),
  )

/** What was read of one stage, in the model's words. */
function readingFor(
  stageId: string,
  input: WearInput,
  behindMembrane: boolean,
  read: ReadGauges,
  draft: GaugeDraft,
  waterC: number | null,
  context: GaugeContext,
): WearReading | null {
  const { values } = read
  const of = (name: GaugeName): number | undefined => values.get(`${stageId}/${name}`)
  const reading: WearReading = { on: input.today }
  const [inKpa, outKpa, jugL, jugS] = [of('inKpa'), of('outKpa'), of('jugL'), of('jugSeconds')]
  if (inKpa !== undefined && outKpa !== undefined) Object.assign(reading, { inKpa, outKpa })
  const flow = flowOf(stageId, read, context)
  if (flow?.cleanFlowLMin) Object.assign(reading, flow)
  if (jugL !== undefined && jugS) Object.assign(reading, { productLMin: (jugL / jugS) * 60, ...(waterC === null ? {} : { waterC }) })
  for (const name of ['chlorineAfterMgL', 'lampHours', 'intensityPercent'] as const) {
    const value = of(name)
    if (value !== undefined) reading[name] = value
  }
  Object.assign(reading, watersSeenBy(input.stage.media, behindMembrane, context.tdsMgL))
  const counter = values.get('system/counterL')
  const since = counter === undefined ? null : litresSinceLast(counter, draft, context)
  if (since !== null) {
    const before = input.readings.reduce((most, { counterL }) => Math.max(most, counterL ?? 0), 0)
    reading.counterL = before + since
  }
  return Object.keys(reading).length > 1 ? reading : null
}

const windowOf = ({ p10, p90 }: WearForecast): number => Math.max(1, daysBetween(p10, p90))

const TAKEN_FOR_A_SLIP = say`window as before. One reading unlike all the others is taken for a slip until a second one agrees: dip once more.`
const UNLIKE = 1.3

/** Whether a pair lies well off the last one: then a forecast that does not move wants a word. */
function unlikeTheLast({ readings }: WearInput, { feedTdsMgL, productTdsMgL }: WearReading): boolean {
  const last = readings.findLast((one) => one.feedTdsMgL !== undefined && one.productTdsMgL !== undefined)
  if (!last?.feedTdsMgL || !last.productTdsMgL || !feedTdsMgL || productTdsMgL === undefined) return false
  const ratio = productTdsMgL / feedTdsMgL / (last.productTdsMgL / last.feedTdsMgL)
  return ratio > UNLIKE || ratio < 1 / UNLIKE
}

/** A stage's input with what was read of it now; null where these readings say nothing of it. */
function inputWith(
  page: StopPageDto,
  stageId: string,
  input: WearInput,
  read: ReadGauges,
  draft: GaugeDraft,
  waterC: number | null,
  context: GaugeContext,
): { input: WearInput; reading: WearReading } | null {
  const { stages } = page.stop.system
  const position = stages.find(({ id }) => id === stageId)?.position ?? 0
  const behindMembrane = stages.some((stage) => stage.media === 'membrane' && stage.position < position)
  const reading = readingFor(stageId, input, behindMembrane, read, draft, waterC, context)
  return reading === null ? null : { input: { ...input, readings: [...input.readings, reading] }, reading }
}

/** The day to change of every stage with what was read now: the verdict at the tap and the forecast speak from one survival curve. */
export function stageDues(
  page: StopPageDto,
  read: ReadGauges,
  draft: GaugeDraft,
  waterC: number | null,
  context: GaugeContext,
): { stage: StageDto; due: StageDueDto; governing: Cause }[] {
  return page.wear.flatMap(({ stageId, input: dto }) => {
    const before = dto as WearInput
    const stage = page.stop.system.stages.find(({ id }) => id === stageId)
    const input = inputWith(page, stageId, before, read, draft, waterC, context)?.input ?? before
    const told = forecast(input)
    const due = stage ? dueOf(input, ruleOf(stage.rule)) : null
    return stage && due && told.ok ? [{ stage, due: { ...due, rule: stage.rule }, governing: told.governing }] : []
  })
}

/** Whether the two waters, as they were read now, are held for a slip by the membrane's other readings. */
export function membraneDoubted(page: StopPageDto, feedTdsMgL: number | null, productTdsMgL: number | null): boolean {
  const stage = page.stop.system.stages.find(({ media }) => media === 'membrane')
  const input = page.wear.find(({ stageId }) => stageId === stage?.id)?.input as WearInput | undefined
  if (!input || feedTdsMgL === null || productTdsMgL === null) return false
  const told = forecast({ ...input, readings: [...input.readings, { on: input.today, feedTdsMgL, productTdsMgL }] })
  return told.ok && told.doubted.includes(input.readings.length)
}

/** What the readings did to each stage's forecast, said in one line each; stages they say nothing of are left out. */
export function effects(
  page: StopPageDto,
  read: ReadGauges,
  draft: GaugeDraft,
  waterC: number | null,
  context: GaugeContext,
): { stageId: string; text: string }[] {
  return page.wear.flatMap(({ stageId, input: dto }) => {
    const input = dto as WearInput
    const stage = page.stop.system.stages.find(({ id }) => id === stageId)
    const now = inputWith(page, stageId, input, read, draft, waterC, context)
    if (!stage || now === null) return []
    const { input: withReading, reading } = now
    const before = forecast(input)
    const after = forecast(withReading)
    if (!before.ok || !after.ok) return []
    if (before.p50 === after.p50 && windowOf(before) === windowOf(after))
      return unlikeTheLast(input, reading) ? [{ stageId, text: `${stageName(stage)}: ${TAKEN_FOR_A_SLIP}` }] : []
    const due = dueOf(withReading, ruleOf(stage.rule))
    const words = due === null ? '' : dueWords({ ...due, rule: stage.rule }, after.governing, input.today, context.units)
    const narrower = due?.state === 'spent' ? '' : say`window ${spanWords(windowOf(before))} → ${spanWords(windowOf(after))}. `
    return [{ stageId, text: `${stageName(stage)}: ${narrower}${words}` }]
  })
}

/** The values of one stage (or the system) as a fact's fields. */
export function factValues(stageId: string | null, read: ReadGauges, draft: GaugeDraft, waterC: number | null, context: GaugeContext) {
  const { values } = read
  const of = (name: GaugeName): number | null => values.get(`${stageId ?? 'system'}/${name}`) ?? null
  const [jugL, jugS] = [of('jugL'), of('jugSeconds')]
  const flow = stageId === null ? null : flowOf(stageId, read, context)
  const productLMin = jugL !== null && jugS ? (jugL / jugS) * 60 : null
  return {
    counterL: of('counterL'),
    counterStartedOver: stageId === null && draft[STARTED_OVER] === 'yes',
    inKpa: of('inKpa'),
    outKpa: of('outKpa'),
    flowLMin: flow?.flowLMin ?? null,
    cleanFlowLMin: flow?.cleanFlowLMin ?? null,
    chlorineAfterMgL: of('chlorineAfterMgL'),
    lampHours: of('lampHours'),
    intensityPercent: of('intensityPercent'),
    productLMin,
    waterC: productLMin === null ? null : waterC,
    hardnessInMgL: of('hardnessInMgL'),
    hardnessOutMgL: of('hardnessOutMgL'),
    saltKg: null,
  }
}
