import { z } from 'zod'
import { daySchema, foundSchema, idSchema, instantSchema, mediumSchema, workDaySchema } from './common'
import { ratedSchema } from './visit'
import { causeSchema, changeSchoolSchema, forecastSchema, ruleLevelSchema, schoolInForceSchema, stageDueSchema, useSchema } from './wear'

export const DUE_SORTS = ['date', 'risk', 'place'] as const

/** What the list of due stages can be asked for; all of it can stand in an address. */
export const dueQuerySchema = z.object({
  sort: z.enum(DUE_SORTS).default('date'),
  /** Only stages due by this day. */
  until: workDaySchema.optional(),
  island: z.string().max(80).optional(),
  media: mediumSchema.optional(),
  school: changeSchoolSchema.optional(),
  /** Only where the chance of having ended is at least this, in per cent. */
  risk: z.coerce.number().min(0).max(100).optional(),
  /** Contracts that the survival curve would shorten or lengthen. */
  advice: z.enum(['shorten', 'lengthen']).optional(),
  /** Part of a site's or part's name. */
  text: z.string().trim().max(80).optional(),
  after: z.string().max(400).optional(),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
})
export type DueQuery = z.infer<typeof dueQuerySchema>

export const dueRowSchema = z.object({
  stageId: idSchema,
  systemId: idSchema,
  siteId: idSchema,
  siteName: z.string(),
  systemName: z.string(),
  village: z.string(),
  island: z.string(),
  media: mediumSchema,
  partNumber: z.string(),
  fittedOn: daySchema,
  dateKnown: z.boolean(),
  due: stageDueSchema,
  p10: daySchema,
  p50: daySchema,
  p90: daySchema,
  governing: causeSchema,
  school: changeSchoolSchema,
})
export type DueRow = z.infer<typeof dueRowSchema>

export const duePageSchema = z.object({
  today: daySchema,
  rows: z.array(dueRowSchema),
  /** Where the next page begins; null at the end. */
  next: z.string().nullable(),
  /** How many the filters let through, counted on the first page only. */
  total: z.int().nullable(),
  /** Forecasts that are being recomputed. */
  pending: z.int(),
})
export type DuePage = z.infer<typeof duePageSchema>

const point = z.object({ at: instantSchema, on: daySchema, value: z.number() })
export const seriesSchema = z.object({
  cause: causeSchema,
  /** What is drawn, by the words the screens know it by. */
  quantity: z.enum([
    'drop-kpa',
    'flow-share',
    'passage',
    'permeate',
    'chlorine',
    'intensity',
    'litres',
    'lamp-hours',
    'feed-tds',
    'product-tds',
  ]),
  points: z.array(point),
  /** Where the part is done; null where the quantity has no limit of its own. */
  limit: z.number().nullable(),
})
export type SeriesDto = z.infer<typeof seriesSchema>

export const stagePageSchema = z.object({
  stage: z.object({
    id: idSchema,
    siteId: idSchema,
    siteName: z.string(),
    systemId: idSchema,
    systemName: z.string(),
    position: z.int(),
    media: mediumSchema,
  }),
  today: daySchema,
  part: z.object({ partNumber: z.string(), fittedOn: daySchema, dateKnown: z.boolean(), rated: ratedSchema }).nullable(),
  forecast: forecastSchema.nullable(),
  due: stageDueSchema.nullable(),
  /** Levels at which a rule of the day to change was chosen, besides the firm's own. */
  ruledAt: z.array(ruleLevelSchema),
  /** How much it is taken to see: what was said at each level, what is expected before anything is counted, and what is believed now. */
  use: z
    .object({
      said: z.object({ stage: useSchema.nullable(), system: useSchema.nullable(), site: useSchema.nullable() }),
      expected: z.object({ litresPerDay: z.number(), from: z.enum(['stage', 'system', 'site', 'kind']) }),
      learned: z.object({ litresPerDay: z.number(), evidence: z.string(), counted: z.boolean() }),
    })
    .nullable(),
  school: schoolInForceSchema,
  /** What each wider place chose, for changing it. */
  chosen: z.object({ firm: changeSchoolSchema, site: changeSchoolSchema.nullable(), stage: changeSchoolSchema.nullable() }),
  history: z.array(
    z.object({
      partNumber: z.string(),
      fittedOn: daySchema,
      removedOn: daySchema.nullable(),
      found: foundSchema.nullable(),
      dirtPast: z.boolean().nullable(),
      /** Null for what came in by a list, without a visit. */
      visitId: idSchema.nullable(),
      dateKnown: z.boolean(),
    }),
  ),
  carriedOver: z.array(daySchema),
  washedOn: z.array(daySchema),
  series: z.array(seriesSchema),
})
export type StagePageDto = z.infer<typeof stagePageSchema>
