import { TARGETS } from '@evenround/core/disinfection'
import { CHLORINE_FIELDS } from '@evenround/core/firm'
import { CERTIFICATE_FORMAT, JOB_STANDS } from '@evenround/core/job'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { daySchema, idSchema, instantSchema, versionSchema } from './common'
import { shapeOf } from './fields'
import { holdSchema, siteSchema, systemSchema } from './site'
import { storedFactSchema } from './visit'

export const disinfectionRowSchema = z.object({
  id: idSchema,
  siteId: idSchema,
  siteName: z.string(),
  village: z.string(),
  targets: z.array(z.enum(TARGETS)),
  stand: z.enum(JOB_STANDS),
  act: z.enum(['dose', 'strip', 'flush', 'sample', 'result', 'cause']).nullable(),
  from: instantSchema.nullable(),
  to: instantSchema.nullable(),
  technicianName: z.string(),
  doseDay: daySchema,
  againOn: daySchema.nullable(),
  afterJob: idSchema.nullable(),
})
export type DisinfectionRow = z.infer<typeof disinfectionRowSchema>
export const disinfectionsSchema = z.object({ today: daySchema, rows: z.array(disinfectionRowSchema) })

const productFields = shapeOf(CHLORINE_FIELDS)
export const chlorineSchema = z.object({
  id: idSchema,
  version: versionSchema,
  ...productFields,
  /** What is left of it today, per cent of its label's basis; null for granules, and where nobody knows the day. */
  percentNow: z.number().nullable(),
})
export type ChlorineDto = z.infer<typeof chlorineSchema>
/** A version of 0 is a new one. */
export const chlorineEditSchema = z
  .strictObject({ version: z.int().min(0), ...productFields })
  .refine(({ form, basis }) => form === 'solid' || basis !== null, {
    path: ['basis'],
    error: () => say`expected "w/w" or "w/v" for a liquid`,
  })
  .refine(({ basis, densityKgL }) => basis !== 'w/w' || densityKgL !== null, {
    path: ['densityKgL'],
    error: () => say`expected a density in kg/L for a strength by weight`,
  })

/** What a plan is made from: the site's plumbing, who may do it, the firm's jugs, days with acid, and the jobs before it. */
export const disinfectionSetupSchema = z.object({
  today: daySchema,
  site: siteSchema,
  systems: z.array(systemSchema),
  people: z.array(z.object({ id: idSchema, name: z.string(), wells: z.boolean() })),
  products: z.array(chlorineSchema),
  /** Days on which somebody's van carries descaler: a sleeve is cleaned. */
  acid: z.array(z.object({ technicianId: idSchema, day: daySchema, siteName: z.string() })),
  jobs: z.array(disinfectionRowSchema),
})
export type DisinfectionSetup = z.infer<typeof disinfectionSetupSchema>

export const disinfectionPageSchema = z.object({
  id: idSchema,
  site: siteSchema,
  systems: z.array(systemSchema),
  holds: z.array(holdSchema),
  /** Of these, the ones that a job before this one in its chain began: what proves this job lifts them too. */
  earlierHolds: z.array(idSchema),
  facts: z.array(storedFactSchema),
  people: z.array(z.object({ id: idSchema, name: z.string(), wells: z.boolean() })),
  /** Jobs before this one, in its chain, that ended positive. */
  earlierPositives: z.int(),
  /** Acid in the technician's van on dose day: sites where a sleeve is cleaned. */
  acid: z.array(z.string()),
})
export type DisinfectionPage = z.infer<typeof disinfectionPageSchema>

const found = z.enum(['absent', 'present'])
/** The record of a proved job, as it is handed on. */
export const certificateSchema = z.object({
  format: z.literal(CERTIFICATE_FORMAT),
  jobId: idSchema,
  firm: z.string(),
  site: z.object({ name: z.string(), address: z.string() }),
  systems: z.array(z.string()),
  targets: z.array(z.string()),
  reason: z.string(),
  verdict: z.enum(['clean', 'flushed-not-sampled']),
  product: z.object({ name: z.string(), availableMgPer: z.number(), unit: z.enum(['mL', 'g']) }),
  volumeL: z.number(),
  computed: z.boolean(),
  doses: z.array(z.object({ at: instantSchema, by: z.string(), amount: z.number(), unit: z.enum(['mL', 'g']) })),
  targetMgL: z.number(),
  contact: z.object({
    from: instantSchema,
    hours: z.number(),
    achievedMgMinL: z.number().nullable(),
    requiredMgMinL: z.number(),
    slowWater: z.boolean(),
    lastMgL: z.number().nullable(),
    passed: z.boolean(),
    note: z.string().nullable(),
    lessReason: z.string().nullable(),
  }),
  outlets: z.array(
    z.object({
      name: z.string(),
      side: z.enum(['cold', 'hot']),
      arrivalMgL: z.number().nullable(),
      clearMgL: z.number().nullable(),
      note: z.string().nullable(),
    }),
  ),
  flushedAt: instantSchema,
  sample: z
    .object({
      takenAt: instantSchema,
      by: z.string(),
      bottle: z.string(),
      laboratory: z.string(),
      place: z.string(),
      chlorineMgL: z.number(),
    })
    .nullable(),
  result: z
    .object({
      reportNumber: z.string(),
      day: daySchema,
      totalColiform: found,
      eColi: found,
      others: z.array(z.object({ name: z.string(), value: z.string() })),
    })
    .nullable(),
  note: z.string(),
})

/** A laboratory's file, as text, and what stands in it: its lines, or every problem with its line. */
export const laboratoryFileSchema = z.strictObject({ text: z.string().max(1_000_000) })
const laboratoryLineSchema = z.object({
  bottle: z.string(),
  reportNumber: z.string(),
  day: daySchema,
  totalColiform: found,
  eColi: found,
  others: z.array(z.object({ name: z.string(), value: z.string() })),
})
export type LaboratoryLineDto = z.infer<typeof laboratoryLineSchema>
export const laboratoryReadSchema = z.object({
  lines: z.array(laboratoryLineSchema),
  problems: z.array(z.object({ line: z.int(), text: z.string() })),
})
