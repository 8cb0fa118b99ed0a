import type { Fact, FactKind } from '@evenround/core/visit'
import { z } from 'zod'
import {
  actionSchema,
  daySchema,
  foundSchema,
  holdKindSchema,
  idSchema,
  instantSchema,
  lineSchema,
  textSchema,
  versionSchema,
} from './common'
import { jobPlanSchema } from './job'

const base = {
  id: idSchema,
  at: instantSchema,
  seq: z.int().min(0).max(Number.MAX_SAFE_INTEGER),
  siteId: idSchema,
  visitId: idSchema,
  supersedes: idSchema.nullable(),
  voided: z.boolean(),
}
const count = z.number().gt(0).nullable()
export const ratedSchema = z.object({ days: count, litres: count, milliequivalents: count, hours: count })

export const visitBegunSchema = z.object({
  ...base,
  kind: z.literal('visit-begun'),
  stopId: idSchema.nullable(),
  systemId: idSchema,
  trainVersion: versionSchema,
  engineVersion: versionSchema,
  tasks: z.array(z.object({ stage: idSchema, action: actionSchema })).max(40),
})
export const tdsReadingSchema = z.object({
  ...base,
  kind: z.literal('tds-reading'),
  systemId: idSchema,
  phase: z.enum(['before', 'after']),
  water: z.enum(['untreated', 'treated']),
  display: z.number().min(0).max(200_000),
  multiplier: z.union([z.literal(1), z.literal(10)]),
  quantity: z.enum(['tds', 'ec']),
  scale: z.union([z.literal(0.5), z.literal(0.64), z.literal(0.7)]),
  compensated: z.boolean(),
  temperatureC: z.number().min(-2).max(100).nullable(),
  settled: z.boolean(),
  keptDespiteDoubt: z.boolean(),
})
const read = (most: number) => z.number().min(0).max(most).nullable()
export const stageReadingSchema = z.object({
  ...base,
  kind: z.literal('stage-reading'),
  systemId: idSchema,
  stageId: idSchema.nullable(),
  phase: z.enum(['before', 'after']),
  counterL: read(1e9),
  counterStartedOver: z.boolean(),
  inKpa: read(3000),
  outKpa: read(3000),
  flowLMin: read(2000),
  cleanFlowLMin: z.number().gt(0).max(2000).nullable(),
  chlorineAfterMgL: read(50),
  lampHours: read(500_000),
  intensityPercent: read(200),
  productLMin: read(500),
  waterC: z.number().min(-2).max(100).nullable(),
})
/** A key names every stage a step is about. */
const KEY_LENGTH = 1000

export const stepDoneSchema = z.object({
  ...base,
  kind: z.literal('step-done'),
  stepKey: lineSchema(KEY_LENGTH),
  answer: textSchema(500).nullable(),
})
export const stepSurpriseSchema = z.object({
  ...base,
  kind: z.literal('step-surprise'),
  stepKey: lineSchema(KEY_LENGTH),
  answer: lineSchema(120),
})
export const timerStartedSchema = z.object({
  ...base,
  kind: z.literal('timer-started'),
  stepKey: lineSchema(KEY_LENGTH),
  seconds: z
    .int()
    .min(1)
    .max(14 * 86_400),
})
export const partRemovedSchema = z.object({
  ...base,
  kind: z.literal('part-removed'),
  stageId: idSchema,
  found: foundSchema,
  dirtPast: z.boolean().nullable(),
})
export const partFittedSchema = z.object({
  ...base,
  kind: z.literal('part-fitted'),
  stageId: idSchema,
  partId: idSchema.nullable(),
  partNumber: lineSchema(60),
  position: z.int().min(1).max(40),
  markText: lineSchema(120),
  // Phones of before the question was asked knew the date.
  dateKnown: z.boolean().default(true),
  rated: ratedSchema,
})
export const holdBegunSchema = z.object({
  ...base,
  kind: z.literal('hold-begun'),
  holdKind: holdKindSchema,
  until: instantSchema.nullable(),
  text: lineSchema(300),
})
export const holdLiftedSchema = z.object({
  ...base,
  kind: z.literal('hold-lifted'),
  holdId: idSchema,
  proof: lineSchema(300),
})
export const visitFinishedSchema = z.object({
  ...base,
  kind: z.literal('visit-finished'),
  outcome: z.enum(['done', 'partly-done', 'nobody-home', 'part-missing']),
  monitorReset: z.boolean().nullable(),
  customerTold: z.boolean(),
  note: textSchema(2000),
})

export const jobPlannedSchema = z.object({ ...base, kind: z.literal('job-planned'), plan: jobPlanSchema })
export const chlorineDosedSchema = z.object({
  ...base,
  kind: z.literal('chlorine-dosed'),
  stepKey: lineSchema(KEY_LENGTH),
  amount: z.number().gt(0).max(1e7),
  unit: z.enum(['mL', 'g']),
})
export const stripReadSchema = z.object({
  ...base,
  kind: z.literal('strip-read'),
  place: lineSchema(60),
  purpose: z.enum(['jug', 'arrival', 'contact', 'flush', 'sample']),
  method: z.enum(['strip', 'smell']),
  range: z.enum(['low', 'high']),
  mgL: z.number().min(0).max(100_000).nullable(),
  dilution: z.number().min(1).max(100_000),
})
export const sampleTakenSchema = z.object({
  ...base,
  kind: z.literal('sample-taken'),
  bottle: lineSchema(60),
  laboratory: lineSchema(120),
  place: lineSchema(120),
  dechlorinating: z.boolean(),
  chlorineMgL: z.number().min(0).max(50),
})
const bacteriaSchema = z.enum(['absent', 'present'])
export const sampleResultSchema = z
  .object({
    ...base,
    kind: z.literal('sample-result'),
    sampleId: idSchema,
    totalColiform: bacteriaSchema,
    eColi: bacteriaSchema,
    others: z.array(z.object({ name: lineSchema(80), value: lineSchema(80) })).max(40),
    reportNumber: lineSchema(60),
    day: daySchema,
  })
  .refine(({ totalColiform, eColi }) => eColi === 'absent' || totalColiform === 'present', {
    path: ['totalColiform'],
    message: 'expected coliforms present where E. coli is: it is one of them',
  })
export const jobDayEndedSchema = z.object({
  ...base,
  kind: z.literal('job-day-ended'),
  day: z.enum(['dose', 'flush', 'sample', 'job']),
  outcome: z.enum(['done', 'nobody-home', 'stopped']),
  note: textSchema(2000),
})

export const factSchema = z.discriminatedUnion('kind', [
  visitBegunSchema,
  tdsReadingSchema,
  stageReadingSchema,
  stepDoneSchema,
  stepSurpriseSchema,
  timerStartedSchema,
  partRemovedSchema,
  partFittedSchema,
  holdBegunSchema,
  holdLiftedSchema,
  visitFinishedSchema,
  jobPlannedSchema,
  chlorineDosedSchema,
  stripReadSchema,
  sampleTakenSchema,
  sampleResultSchema,
  jobDayEndedSchema,
])
export const FACT_KINDS = factSchema.options.map((option) => option.shape.kind.value) as FactKind[]

/** Facts of one device, in its own order. Each is judged on its own, so entries are parsed one by one on the server. */
export const factBatchSchema = z.object({
  protocol: z.int().min(1),
  deviceId: idSchema,
  /** The device's clock when it sent the batch. */
  sentAt: instantSchema,
  facts: z.array(z.unknown()).min(1).max(200),
})

export const factResultSchema = z.object({
  id: z.string(),
  status: z.enum(['accepted', 'already-had', 'refused']),
  /** Why an accepted fact wants a look: the plan or the train moved on meanwhile, the device's clock is off. */
  flags: z.array(z.enum(['stop-changed', 'train-changed', 'clock-skew', 'visit-closed'])),
  reason: z
    .enum([
      'bad-form',
      'unknown-site',
      'unknown-reference',
      'no-right',
      'not-own',
      'depends-on-refused',
      'id-reused',
      'hold-needs-right',
      'not-stored',
    ])
    .optional(),
  problems: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
})
export type FactResult = z.infer<typeof factResultSchema>
export const factBatchResultSchema = z.object({ results: z.array(factResultSchema), skewMs: z.number() })

/** Response side of a fact: as sent, with who and when it arrived. */
export const storedFactSchema = z.object({
  fact: factSchema,
  arrivedAt: instantSchema,
  personId: idSchema,
  flags: z.array(z.string()),
})
export type StoredFact = z.infer<typeof storedFactSchema>

// The core is free of Zod: these lines do not compile when its types and these schemas part ways.
type Same<A, B> = [A] extends [B] ? ([B] extends [A] ? true : never) : never
export const factTypesAgree: Same<Fact, z.output<typeof factSchema>> = true
