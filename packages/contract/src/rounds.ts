import type { UnplannedReason } from '@evenround/core/round'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { actionSchema, daySchema, idSchema, instantSchema, lineSchema, mediumSchema, versionSchema, workDaySchema } from './common'
import { crossingSchema } from './crossing'
import { skillSchema } from './firm'
import { jobDaySchema, roundChangeSchema } from './site'

/** Minutes after midnight. */
const minuteSchema = z
  .int()
  .min(0)
  .max(24 * 60)
const spanSchema = z
  .tuple([minuteSchema, minuteSchema])
  .refine(([from, to]) => from < to, { path: [1], error: () => say`expected an end after the beginning` })
export const placeIdSchema = z.string().min(1).max(120)

export const placeSchema = z.object({ id: placeIdSchema, name: z.string(), island: z.string(), lon: z.number(), lat: z.number() })
export type PlaceDto = z.infer<typeof placeSchema>

/** What a visit does at one stage, and what going that day means for it. */
export const visitTaskSchema = z.object({
  stageId: idSchema,
  position: z.int(),
  action: actionSchema,
  media: mediumSchema,
  partNumber: z.string().nullable(),
  dueOn: daySchema.nullable(),
  /** Days before its own due day at which the visit's due day takes it, and the life thrown away by that, minutes. */
  pulledDays: z.int(),
  lostMin: z.number(),
})
export const VISIT_KINDS = ['due', 'stands', 'follow', 'job', 'extra', 'first'] as const
export const roundVisitSchema = z.object({
  id: idSchema,
  kind: z.enum(VISIT_KINDS),
  siteId: idSchema,
  siteName: z.string(),
  village: z.string(),
  island: z.string(),
  /** As the core takes it. */
  place: placeIdSchema,
  serviceMin: z.number(),
  dueDay: z.int(),
  windowDays: z.tuple([z.int(), z.int()]),
  latePerDay: z.number(),
  earlyPerDay: z.number(),
  open: z.array(z.tuple([z.number(), z.number()])).nullable(),
  closedDays: z.array(z.int()),
  skills: z.array(z.string()),
  loadKg: z.number(),
  pinnedDay: z.int().nullable(),
  promisedDay: z.int().nullable(),
  /** The customer was given this day. */
  promised: z.boolean(),
  /** And this window of it. */
  promise: spanSchema.nullable(),
  /** One stop on the road for each system. */
  stops: z.array(
    z.object({
      stopId: idSchema,
      systemId: idSchema,
      systemName: z.string(),
      workMin: z.number(),
      tasks: z.array(visitTaskSchema),
      jobDay: jobDaySchema.nullable(),
    }),
  ),
})
export type RoundVisitDto = z.infer<typeof roundVisitSchema>

const matrixSchema = z.array(z.array(z.number()))
export const travelSchema = z.object({
  places: z.array(z.string()),
  travelMin: matrixSchema,
  travelByHour: z.array(z.object({ fromMin: z.number(), travelMin: matrixSchema })),
  sails: z.array(z.object({ fromMin: z.number(), sailsMin: matrixSchema })),
  /** Ways estimated when asked for, over land and by the firm's own crossings; the tables are then empty. */
  land: z
    .object({
      lat: z.array(z.number()),
      lon: z.array(z.number()),
      winding: z.number(),
      water: z
        .object({
          island: z.array(z.string()),
          crossings: z.array(crossingSchema.omit({ name: true, version: true })),
          ends: z.object({ out: matrixSchema, back: matrixSchema }).optional(),
        })
        .optional(),
      /** Minutes by road as far as they are known; −1 is estimated. */
      road: matrixSchema.optional(),
      /** What drives that were made say, by area and time of leaving. */
      pace: z.object({ fromMin: z.array(z.number()), factor: matrixSchema, area: z.array(z.int()) }).optional(),
    })
    .optional(),
  /** Ways are estimated over land, all or some. */
  estimated: z.boolean().optional(),
})

export const roundTermsSchema = z.object({
  /** What an hour of a technician is worth, minor units of the firm's currency. */
  hourMinor: z.int().min(1).max(1_000_000),
  /** Minutes once a visit: getting in, greeting, the slip. */
  accessMin: z.int().min(0).max(240),
  /** Minutes once a system: measuring, closing, relieving, flushing. */
  setupMin: z.int().min(0).max(240),
  /** How dear it is that a day is off the level. */
  unevenness: z.number().min(0).max(100),
  /** What moving a visit that stands in the published round costs, minutes. */
  change: z.number().min(0).max(1000),
  /** How much longer roads are than the line through the air; ours where it was never said. */
  winding: z.number().min(1).max(3).optional(),
})
export type RoundTerms = z.infer<typeof roundTermsSchema>

export const roundSetSchema = z.object({
  id: idSchema,
  madeAt: instantSchema,
  today: daySchema,
  /** Working days of the firm, from the day after today. */
  days: z.array(daySchema),
  technicians: z.array(
    z.object({
      id: idSchema,
      name: z.string(),
      van: z.string().nullable(),
      base: placeIdSchema,
      fromMin: z.number(),
      toMin: z.number(),
      overtimeMin: z.number(),
      skills: z.array(z.string()),
      daysOff: z.array(z.int()),
      vanKg: z.number().nullable(),
      /** What a day of theirs should come to, minutes. */
      levelMin: z.number(),
    }),
  ),
  places: z.array(placeSchema),
  travel: travelSchema,
  visits: z.array(roundVisitSchema),
  /** Sites whose work cannot be planned, and why. */
  leftOut: z.array(z.object({ siteId: idSchema, siteName: z.string(), why: z.string() })),
  terms: roundTermsSchema,
  /** What falls due in each week of the year beyond the days, minutes of work and driving as far as it can be said. */
  year: z.array(z.object({ week: daySchema, minutes: z.number() })),
  /** The plan of the year whose weeks these are and which the days keep to; without one each thing is in the week it is due. */
  byYear: idSchema.optional(),
  /** Which crossings and which routing server the driving times come from. When either has changed, the set is made again. */
  ways: z.string().optional(),
})
export type RoundSet = z.infer<typeof roundSetSchema>

const plannedStopSchema = z.object({ visit: idSchema, arriveMin: z.number(), startMin: z.number(), leaveMin: z.number() })
export const planDaySchema = z.object({
  technician: idSchema,
  day: z.int(),
  stops: z.array(plannedStopSchema),
  travelMin: z.number(),
  workMin: z.number(),
  overtimeMin: z.number(),
})
export const roundCostsSchema = z.object({
  travel: z.number(),
  overtime: z.number(),
  late: z.number(),
  early: z.number(),
  unevenness: z.number(),
  change: z.number(),
  unplanned: z.number(),
  total: z.number(),
})
/** The core's reasons: its planner stays out of the screens' first bundle. */
export const UNPLANNED_REASONS = [
  'skill',
  'pin',
  'shut',
  'off',
  'after',
  'gap',
  'full',
  'free',
] as const satisfies readonly UnplannedReason[]

export const setPlanSchema = z.object({
  days: z.array(planDaySchema),
  /** Plans that were stored before reasons had names have none. */
  unplanned: z.array(z.object({ visit: idSchema, reason: z.enum(UNPLANNED_REASONS).optional(), why: z.string() })),
  cost: roundCostsSchema,
})
export type SetPlan = z.infer<typeof setPlanSchema>

export const MARK_KINDS = ['pin', 'forbid', 'promise', 'not-before'] as const
export const roundMarkSchema = z.object({
  id: idSchema,
  visitId: idSchema,
  kind: z.enum(MARK_KINDS),
  day: daySchema,
  window: spanSchema.nullable(),
  why: z.string(),
  byName: z.string(),
})
export type RoundMark = z.infer<typeof roundMarkSchema>
export const markNewSchema = z.strictObject({
  id: idSchema,
  visitId: idSchema,
  kind: z.enum(MARK_KINDS),
  day: workDaySchema,
  window: spanSchema.nullable().default(null),
  why: z.string().trim().max(200).default(''),
})

export const publicationSchema = z.object({ number: z.int(), publishedAt: instantSchema, byName: z.string() })
export const roundPageSchema = z.object({
  set: roundSetSchema,
  draft: z.object({ version: versionSchema, plan: setPlanSchema, changedAt: instantSchema, byName: z.string() }),
  marks: z.array(roundMarkSchema),
  publication: publicationSchema.nullable(),
  /** Where the published round has each visit that is also in this set. */
  published: z.array(z.object({ visit: idSchema, technician: idSchema, day: daySchema })),
  /** Published stops that no longer keep their window, with what is wrong. */
  flags: z.array(z.object({ stopId: idSchema, siteName: z.string(), day: daySchema, text: z.string() })),
  /** A plan that the server made and nobody has applied or discarded yet. */
  offered: z.object({ id: idSchema, setId: idSchema, plan: setPlanSchema, madeAt: instantSchema, byName: z.string() }).nullish(),
  /** The server is planning. */
  underWay: z.object({ id: idSchema, share: z.number(), cost: z.number().nullable() }).nullish(),
})
export type RoundPage = z.infer<typeof roundPageSchema>
/** The round without what is to be planned: a set never changes, is asked for by its id and then kept. */
export const roundStateSchema = roundPageSchema.omit({ set: true }).extend({ setId: idSchema })
export type RoundState = z.infer<typeof roundStateSchema>

/** The year's weeks: the planned ones as planned, those beyond as they fall due. */
export const yearViewSchema = z.object({
  weeks: z.array(
    z.object({
      week: daySchema,
      minutes: z.number(),
      /** Working minutes that are there, of the days that are planned; null beyond them. */
      availableMin: z.number().nullish(),
      /** Inside the days that are planned. */
      planned: z.boolean(),
      /** Fewer of its days are in the plan than a week has: it counts for no evenness. */
      part: z.boolean(),
    }),
  ),
  level: z.number(),
  /** Load of the planned days over the working minutes there are, as a share; null where nobody works. */
  filled: z.number().nullish(),
  /** Coefficient of variation of the planned weeks' loads, and of those beyond. */
  spread: z.number(),
  beyond: z.number(),
})
export type YearView = z.infer<typeof yearViewSchema>
/** What a plan comes to, in the words of its summary. */
export const planSumsSchema = z.object({
  visits: z.int(),
  drivingMin: z.number(),
  ferries: z.int(),
  pulled: z.int(),
  lostMin: z.number(),
  unplanned: z.int(),
})
export type PlanSums = z.infer<typeof planSumsSchema>

/** One week of the round as a screen shows it first: that week's lines and visits, what the whole comes to, and the first that have no day. */
export const roundWeekSchema = roundPageSchema.extend({
  week: daySchema,
  /** For everybody, and for each technician by id. */
  year: z.record(z.string(), yearViewSchema),
  sums: z.record(z.string(), planSumsSchema),
})
export type RoundWeek = z.infer<typeof roundWeekSchema>

/** What an act changed of the plan in the making, from the version it was done on. */
export const draftChangeSchema = z.object({
  setId: idSchema,
  fromVersion: versionSchema,
  version: versionSchema,
  changedAt: instantSchema,
  byName: z.string(),
  /** Lines as they are now; one without stops is gone. */
  days: z.array(planDaySchema),
  /** Visits that lost their day, and those that have one again. */
  unplanned: setPlanSchema.shape.unplanned,
  placed: z.array(idSchema),
  cost: roundCostsSchema,
})
export type DraftChange = z.infer<typeof draftChangeSchema>

/** A visit carried to another line; `at` is its place in the order of that day's stops. */
export const moveSchema = z.strictObject({
  setId: idSchema,
  visitId: idSchema,
  /** Where the mover saw it; null for one that stood on no day. */
  from: z.object({ technician: idSchema, day: z.int() }).nullable(),
  /** Null takes it off its day. */
  to: z.object({ technician: idSchema, day: z.int(), at: z.int().min(0) }).nullable(),
})
export type Move = z.infer<typeof moveSchema>

/** A whole plan in the draft's stead; on an older version it is refused. */
export const draftPutSchema = z.strictObject({ version: versionSchema, setId: idSchema, days: z.array(planDaySchema).max(40_000) })

export const RUN_STATES = ['waiting', 'running', 'done', 'cancelled', 'failed'] as const
export const roundRunSchema = z.object({
  id: idSchema,
  setId: idSchema,
  state: z.enum(RUN_STATES),
  /** 0 to 1. */
  share: z.number(),
  cost: z.number().nullable(),
  message: z.string(),
  plan: setPlanSchema.nullable(),
})
export type RoundRun = z.infer<typeof roundRunSchema>

export const changesSchema = z.object({ number: z.int().nullable(), changes: z.array(roundChangeSchema) })

/** Somebody's working times, where they start and what their van takes. */
export const workTimeSchema = z.object({
  personId: idSchema,
  name: z.string(),
  van: z.string().nullable(),
  skills: z.array(skillSchema),
  base: placeIdSchema.nullable(),
  /** ISO weekdays, 1 Monday to 7 Sunday. */
  weekdays: z.array(z.int().min(1).max(7)).max(7),
  fromMin: minuteSchema,
  toMin: minuteSchema,
  overtimeMin: z.int().min(0).max(480),
  vanKg: z.number().min(1).max(20_000).nullable(),
  version: versionSchema,
})
export type WorkTime = z.infer<typeof workTimeSchema>
export const workTimeEditSchema = workTimeSchema
  .omit({ personId: true, name: true, van: true, skills: true })
  .strict()
  .refine(({ fromMin, toMin }) => fromMin < toMin, { path: ['toMin'], error: () => say`expected an end after the beginning` })

export const DAY_OFF_SOURCES = ['typed', 'calendar', 'sick'] as const
export const dayOffSchema = z.object({
  id: idSchema,
  /** Null for the whole firm: a holiday. */
  personId: idSchema.nullable(),
  fromDay: workDaySchema,
  toDay: workDaySchema,
  why: z.string(),
  source: z.enum(DAY_OFF_SOURCES),
})
export type DayOff = z.infer<typeof dayOffSchema>
export const dayOffNewSchema = dayOffSchema
  .extend({ why: z.string().trim().max(120) })
  .strict()
  .refine(({ fromDay, toDay }) => fromDay <= toDay, { path: ['toDay'], error: () => say`expected a last day no sooner than the first` })
/** An iCalendar file of holidays. */
export const holidaysSchema = z.strictObject({ text: z.string().min(1).max(500_000), personId: idSchema.nullable() })

export const siteHoursSchema = z.object({
  siteId: idSchema,
  /** Spans in which somebody may work there; empty for any time. Quiet hours are what lies between them. */
  open: z.array(spanSchema).max(6),
  closedWeekdays: z.array(z.int().min(1).max(7)).max(7),
  /** Minutes to get in; null for the firm's. */
  accessMin: z.int().min(0).max(240).nullable(),
  /** Stretches in which the place is shut. */
  closings: z.array(z.object({ id: idSchema, fromDay: workDaySchema, toDay: workDaySchema })).max(60),
  version: versionSchema,
})
export type SiteHours = z.infer<typeof siteHoursSchema>
export const siteHoursEditSchema = siteHoursSchema.omit({ siteId: true }).strict()

export const extraNewSchema = z.strictObject({
  id: idSchema,
  systemId: idSchema,
  workMin: z.int().min(5).max(600),
  fromDay: workDaySchema,
  toDay: workDaySchema,
  why: lineSchema(200),
  tasks: z.array(z.object({ stageId: idSchema, action: actionSchema })).max(40),
})

/** Something that cannot wait until tomorrow: where it could go into the days that are on, each with its price. */
export const todayAskSchema = z.strictObject({ systemId: idSchema, workMin: z.int().min(5).max(600) })
export const todaySpotSchema = z.object({
  technicianId: idSchema,
  name: z.string(),
  /** Place among the stops that are left. */
  at: z.int(),
  /** The stop it comes after; null where it is the next one. */
  afterSite: z.string().nullable(),
  arriveMin: z.int(),
  homeMin: z.int(),
  extraDriveMin: z.int(),
  overtimeMin: z.int(),
  /** Customers whose promised hour it would miss. */
  late: z.array(z.object({ siteName: z.string(), byMin: z.int() })),
  costMin: z.number(),
})
export type TodaySpotDto = z.infer<typeof todaySpotSchema>
export const todayPutSchema = z.strictObject({
  id: idSchema,
  systemId: idSchema,
  workMin: z.int().min(5).max(600),
  technicianId: idSchema,
  at: z.int().min(0).max(100),
  why: lineSchema(200),
  tasks: z.array(z.object({ stageId: idSchema, action: actionSchema })).max(40),
})

export const feedSchema = z.object({ path: z.string() })

export const vanItemSchema = z.object({
  /** What is ticked: a part number or a thing by its name. */
  key: z.string(),
  kind: z.enum(['part', 'consumable', 'tool', 'chlorine']),
  name: z.string(),
  count: z.number(),
  unit: z.string(),
  forSites: z.array(z.string()),
  firstDay: daySchema,
  /** Null while nobody has looked. */
  state: z.enum(['loaded', 'short']).nullable(),
  /** For what is short: the last day on which ordering still brings it in time. */
  orderBy: daySchema.nullable(),
})
export const vanListSchema = z.object({ from: daySchema, to: daySchema, items: z.array(vanItemSchema) })
export type VanList = z.infer<typeof vanListSchema>
export const vanTickSchema = z.strictObject({
  day: workDaySchema,
  key: z.string().min(1).max(120),
  state: z.enum(['loaded', 'short']).nullable(),
})
