import { SITE_FIELDS } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import {
  actionSchema,
  daySchema,
  holdKindSchema,
  housingSchema,
  idSchema,
  instantSchema,
  lineSchema,
  mediumSchema,
  textSchema,
  versionSchema,
} from './common'
import { shapeOf } from './fields'
import { photoSchema, systemPhotoSchema } from './photo'
import { MOST_CONTACTS } from './protocol'
import { trainSchema } from './train'
import { firstSystemSchema } from './train-edit'
import { ratedSchema } from './visit'
import { forecastSchema, ruleInForceSchema, schoolInForceSchema, stageDueSchema } from './wear'
import { wearInputFields } from './wear-input'

export const holdSchema = z.object({
  id: idSchema,
  holdKind: holdKindSchema,
  begunAt: instantSchema,
  until: instantSchema.nullable(),
  text: z.string(),
  /** The last who was told of it, or tried; older answers do not have it. */
  told: z
    .object({
      whom: z.string(),
      how: z.enum(['telephone', 'in-person', 'message', 'nobody-reached']),
      at: instantSchema,
      byName: z.string(),
    })
    .nullish(),
})
export type HoldDto = z.infer<typeof holdSchema>

const fittingSchema = z.object({ id: idSchema, partNumber: z.string(), rated: ratedSchema })
export const stageSchema = z.object({
  id: idSchema,
  position: z.int(),
  media: mediumSchema,
  housing: housingSchema,
  part: z.object({ partNumber: z.string(), fittedOn: daySchema, dateKnown: z.boolean(), rated: ratedSchema }).nullable(),
  /** Null when no part is known to be fitted, or nothing rates its life. */
  forecast: forecastSchema.nullable(),
  /** The day to change it; null where it has no forecast. */
  due: stageDueSchema.nullable(),
  /** By which rule the day to change is set, also for the next part. */
  rule: ruleInForceSchema,
  /** By which school, and who chose it. */
  school: schoolInForceSchema,
  /** Part the catalogue would fit next. */
  nextPart: fittingSchema.extend({ equivalents: z.array(fittingSchema) }).nullable(),
})
export type StageDto = z.infer<typeof stageSchema>

export const systemSchema = z.object({
  id: idSchema,
  siteId: idSchema,
  name: z.string(),
  /** On its plate; older answers do not have it. */
  serialNo: z.string().optional(),
  trainVersion: versionSchema,
  train: trainSchema,
  stages: z.array(stageSchema),
})
export type SystemDto = z.infer<typeof systemSchema>

const contactSchema = z.strictObject({ name: lineSchema(120), role: textSchema(60), phone: textSchema(40), email: textSchema(254) })
const siteFieldsSchema = z.object(shapeOf(SITE_FIELDS, { contacts: z.array(contactSchema).max(MOST_CONTACTS) }))
export const siteSchema = siteFieldsSchema.extend({ id: idSchema, version: versionSchema })
export type SiteDto = z.infer<typeof siteSchema>
const hasWhole = ({ lat, lon }: { lat: number | null; lon: number | null }): boolean => (lat === null) === (lon === null)
const WHOLE = {
  path: ['lat'],
  get message() {
    return say`expected latitude and longitude, both or neither`
  },
}
export const siteEditSchema = siteFieldsSchema.extend({ version: versionSchema }).strict().refine(hasWhole, WHOLE)
/** Some of the fields: what is left out stays as it is, and takes no default. */
const siteSomeSchema = z.strictObject(
  Object.fromEntries(
    Object.entries(siteFieldsSchema.shape).map(([field, schema]) => [
      field,
      z.optional(schema instanceof z.ZodDefault ? schema.unwrap() : schema),
    ]),
  ) as { [Field in keyof typeof siteFieldsSchema.shape]: z.ZodOptional<(typeof siteFieldsSchema.shape)[Field]> },
)
/** An edit made without a network: the fields it changes, as the device saw them and as they are to be. */
export const siteChangesSchema = z
  .strictObject({ before: siteSomeSchema, after: siteSomeSchema })
  .refine(({ before, after }) => Object.keys(after).every((field) => field in before), {
    path: ['before'],
    error: () => say`expected what stood in every field that is changed`,
  })
export type SiteChanges = z.infer<typeof siteChangesSchema>
export const siteNewSchema = siteFieldsSchema
  .extend({ id: idSchema, systems: z.array(firstSystemSchema).max(20).optional() })
  .strict()
  .refine(hasWhole, WHOLE)
export type SiteNew = z.infer<typeof siteNewSchema>

export const siteRowSchema = z.object({
  id: idSchema,
  name: z.string(),
  village: z.string(),
  island: z.string(),
  lat: z.number().nullable().optional(),
  lon: z.number().nullable().optional(),
  systems: z.int(),
  nextDue: daySchema.nullable(),
  /** Parts of it that are spent, and that are past their day to change. */
  spent: z.int(),
  overdue: z.int(),
  hold: holdKindSchema.nullable(),
})
export type SiteRowDto = z.infer<typeof siteRowSchema>

/** A site whose customer left. */
export const leftSiteSchema = z.object({ id: idSchema, name: z.string(), village: z.string(), leftAt: instantSchema })
export type LeftSiteDto = z.infer<typeof leftSiteSchema>
/** Typed once more by whoever erases a customer. */
export const eraseSchema = z.strictObject({ name: z.string().max(200) })

/** A site that turned out to be the same place as the one it is merged into. */
export const mergeSchema = z.strictObject({ from: idSchema })
/** Whether the system was always there and only filed wrongly: then its whole past goes along. */
export const moveSystemSchema = z.strictObject({ systemId: idSchema, wholePast: z.boolean() })

export const historySchema = z.object({
  untreatedMgL: z.array(z.number()),
  treatedMgL: z.array(z.number()),
  baselinePassage: z.number().nullable(),
})
export type HistoryDto = z.infer<typeof historySchema>

export const visitRowSchema = z.object({
  visitId: idSchema,
  siteId: idSchema,
  siteName: z.string(),
  systemName: z.string(),
  personName: z.string(),
  begunAt: instantSchema,
  finishedAt: instantSchema.nullable(),
  outcome: z.enum(['done', 'partly-done', 'not-right', 'nobody-home', 'part-missing']).nullable(),
  fitted: z.array(z.string()),
  /** Photos taken at it; older answers do not count them. */
  photos: z.int().optional(),
})
export type VisitRowDto = z.infer<typeof visitRowSchema>

const FAULTS = ['weeping-valve', 'cracked-body', 'missing-bypass', 'missing-shut-off', 'corroded', 'other'] as const
/** Something seen at a site and not mended yet: work to offer. */
export const faultSchema = z.object({
  id: idSchema,
  systemId: idSchema,
  stageId: idSchema.nullable(),
  what: z.enum(FAULTS),
  text: z.string(),
  notedAt: instantSchema,
  byName: z.string(),
  settled: z.object({ how: z.enum(['done', 'declined']), note: z.string(), at: instantSchema }).nullable(),
  photos: z.array(photoSchema),
})
export type FaultDto = z.infer<typeof faultSchema>
/** Who mended a line of the site's page at the door, and when. */
export const mendedSchema = z.object({ field: z.enum(['access', 'contact', 'phone']), at: instantSchema, byName: z.string() })
export type MendedDto = z.infer<typeof mendedSchema>

export const sitePageSchema = z.object({
  site: siteSchema,
  systems: z.array(systemSchema),
  holds: z.array(holdSchema),
  visits: z.array(visitRowSchema),
  /** Open ones first; older answers do not have them. */
  faults: z.array(faultSchema).optional(),
  mended: z.array(mendedSchema).optional(),
  /** Earlier readings of each system, to judge a new one by. */
  /** Other sites of the same customer, by telephone, e-mail or full name. */
  sameCustomer: z.array(z.object({ id: idSchema, name: z.string() })).optional(),
  /** Photos that stay with its systems; not yet there on a site made a moment ago. */
  photos: z.array(systemPhotoSchema).optional(),
  histories: z.array(z.object({ systemId: idSchema, history: historySchema })),
})
export type SitePageDto = z.infer<typeof sitePageSchema>

/** Why a stop goes on from an earlier visit. */
export const followsWhySchema = z.enum(['soak', 'partly-done', 'not-right', 'nobody-home', 'part-missing'])
export type FollowsWhy = z.infer<typeof followsWhySchema>

/** A visit that two publications have on different days or with different people. */
export const roundChangeSchema = z.object({
  visitId: idSchema,
  siteName: z.string(),
  was: z.object({ day: daySchema, technician: z.string() }).nullable(),
  now: z.object({ day: daySchema, technician: z.string() }).nullable(),
})
export type RoundChange = z.infer<typeof roundChangeSchema>

/** A day of a disinfection. */
export const jobDaySchema = z.enum(['dose', 'flush', 'sample'])
export type JobDay = z.infer<typeof jobDaySchema>

/** What a visit takes by its run sheet and by the firm's own visits like it, minutes. */
export const visitTimeSchema = z.object({
  handsOnMin: z.number(),
  /** What runs by itself: flushes, waits. */
  waitingMin: z.number(),
  /** Minutes of hands by the sheet alone: how much of them a step stands for. */
  sheetMin: z.number(),
  /** Visits of the firm that stand behind it. */
  learnedFrom: z.int(),
  /** By the visits of the one it is planned for alone, where there are any. */
  own: z.object({ handsOnMin: z.number(), from: z.int() }).nullable(),
})
export type VisitTime = z.infer<typeof visitTimeSchema>

export const stopTaskSchema = z.object({ stageId: idSchema, action: actionSchema })
export const stopSchema = z.object({
  id: idSchema,
  day: daySchema,
  order: z.int(),
  technicianId: idSchema,
  leaveMin: z.int(),
  arriveMin: z.int(),
  workMin: z.int(),
  travelMin: z.int(),
  /** Its way was estimated over land. */
  wayEstimated: z.boolean().optional(),
  ferryAt: z.string().nullable(),
  promised: z.boolean(),
  /** The customer's window, minutes after midnight, where one was promised. */
  promise: z.tuple([z.int(), z.int()]).nullable(),
  site: siteSchema,
  system: systemSchema,
  tasks: z.array(stopTaskSchema),
  /** Null for a day of a disinfection; older answers do not have it. */
  time: visitTimeSchema.nullable().optional(),
  holds: z.array(holdSchema),
  visit: z.object({ id: idSchema, finished: z.boolean() }).nullable(),
  /** The visit it goes on from; when it may begin at the earliest and should at the latest. */
  follows: z
    .object({
      visitId: idSchema,
      /** What that visit left otherwise than in service; older answers do not say. */
      leftStanding: z.array(z.string()).optional(),
      why: followsWhySchema,
      notBefore: instantSchema.nullable(),
      notAfter: instantSchema.nullable(),
    })
    .nullable(),
  /** The disinfection it is a day of, and when that day may begin; null for a stop of run sheets. */
  job: z.object({ id: idSchema, day: jobDaySchema, notBefore: instantSchema.nullable(), notAfter: instantSchema.nullable() }).nullable(),
})
export type StopDto = z.infer<typeof stopSchema>

export const todaySchema = z.object({
  day: daySchema,
  timeZone: z.string(),
  fromMin: z.int(),
  toMin: z.int(),
  homeMin: z.int().nullable(),
  stops: z.array(stopSchema),
  /** Parts of the whole firm that are spent, and that are past their day to change. */
  late: z.object({ spent: z.int(), overdue: z.int() }),
  /** The publication the road is by, with what it changed for this person; null where the round was never published. */
  publication: z.object({ number: z.int(), publishedAt: instantSchema, changes: z.array(roundChangeSchema) }).nullable(),
})
export type TodayDto = z.infer<typeof todaySchema>

export const weekSchema = z.object({
  from: daySchema,
  days: z.array(
    z.object({
      day: daySchema,
      homeMin: z.int().nullable(),
      stops: z.array(
        stopSchema
          .pick({ id: true, order: true, leaveMin: true, arriveMin: true, workMin: true, travelMin: true, ferryAt: true, promised: true })
          .extend({ siteName: z.string() }),
      ),
    }),
  ),
  fromMin: z.int(),
  toMin: z.int(),
})
export type WeekDto = z.infer<typeof weekSchema>

export const stopPageSchema = z.object({
  stop: stopSchema,
  history: historySchema,
  /** What each stage's forecast is made of, so that a reading shows at once what it does to it, with or without a signal. */
  wear: z.array(z.object({ stageId: idSchema, input: wearInputFields })),
  /** The system's counter as it was last seen; null where none was read. */
  counter: z.object({ displayL: z.number(), at: instantSchema }).nullable(),
})
export type StopPageDto = z.infer<typeof stopPageSchema>
