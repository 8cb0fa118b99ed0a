import { z } from 'zod'
import { daySchema, idSchema, instantSchema } from './common'
import { holdSchema } from './site'

/** A hold for safety that somebody has to be told of, or that the laboratory's findings keep on. */
export const alarmSchema = z.object({
  siteId: idSchema,
  siteName: z.string(),
  contact: z.string(),
  phone: z.string(),
  hold: holdSchema,
  /** The disinfection it belongs to; null where it is none's. */
  jobId: idSchema.nullable(),
  /** What the laboratory found after it, and when that was known; null where it found nothing, or nothing is known yet. */
  found: z.object({ what: z.enum(['positive', 'e-coli']), at: instantSchema }).nullable(),
})
export type AlarmDto = z.infer<typeof alarmSchema>

/** A stop of somebody's day, as the office sees it. */
export const roadStopSchema = z.object({
  id: idSchema,
  siteName: z.string(),
  leaveMin: z.int(),
  arriveMin: z.int(),
  workMin: z.int(),
  travelMin: z.int(),
  promise: z.tuple([z.int(), z.int()]).nullable(),
  state: z.enum(['planned', 'begun', 'done']),
})
export type RoadStopDto = z.infer<typeof roadStopSchema>
export const roadDaySchema = z.object({
  personId: idSchema,
  name: z.string(),
  fromMin: z.int(),
  toMin: z.int(),
  /** Home by the plan, minutes after midnight. */
  homeMin: z.int().nullable(),
  stops: z.array(roadStopSchema),
  /** When anything last came from them; null where nothing came yet. */
  heardAt: instantSchema.nullable(),
})
export type RoadDayDto = z.infer<typeof roadDaySchema>

/** What the firm can say of itself from its own past; each part null where there is too little to say. */
export const scoreSchema = z.object({
  /** Parts taken out in the last year of which a forecast was stored: how many were spent, and how many were forecast to be. */
  forecasts: z.object({ parts: z.int(), spent: z.int(), foretold: z.number() }),
  /**
   * Of those rated in days: parts used and days past the end, as it was done, and as changing by the label alone would have come to over
   * the same time. Days past the end are expected ones, by the forecast that was stored.
   */
  fixed: z.object({ parts: z.int(), byLabel: z.number(), pastDays: z.number(), labelPastDays: z.number() }),
  /** Visits of the last half year, minutes as planned and as taken. */
  minutes: z.object({ visits: z.int(), planned: z.int(), taken: z.int() }),
  /** Whole weeks behind us: how far the worst lies from their mean, as a share. */
  weeks: z.object({ weeks: z.int(), meanMin: z.int(), worst: z.number().nullable() }),
})
export type ScoreDto = z.infer<typeof scoreSchema>

/** What wants somebody in the office today, the most pressing first, and who is where. */
export const officeSchema = z.object({
  day: daySchema,
  alarms: z.array(alarmSchema),
  road: z.array(roadDaySchema),
  late: z.object({ spent: z.int(), overdue: z.int(), lamps: z.int(), unscheduled: z.int() }),
  /** Work that was seen and not offered or settled yet. */
  offers: z.array(z.object({ siteId: idSchema, siteName: z.string(), faults: z.int() })),
  /** Counters of sites that fell silent. */
  silent: z.array(z.object({ siteId: idSchema, siteName: z.string(), name: z.string(), heardAt: instantSchema.nullable() })),
  contracts: z.object({ shorten: z.int(), lengthen: z.int() }),
  score: scoreSchema,
})
export type OfficeDto = z.infer<typeof officeSchema>
