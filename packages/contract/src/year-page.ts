import type { Medium } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import type { YearInput, YearMove, YearVisit } from '@evenround/core/year'
import { z } from 'zod'
import { daySchema, idSchema, instantSchema, mediumSchema, workDaySchema } from './common'
import { placeIdSchema } from './rounds'

/** A week of a year's plan: what is to do, what of it is certain, and the hours that are there. Minutes. */
const yearWeekSchema = z.object({
  /** Its Monday. */
  week: daySchema,
  loadMin: z.number(),
  travelMin: z.number(),
  capacityMin: z.number(),
  levelMin: z.number(),
  /** Of the load: given to the customer or held by somebody; known by the wear of what is in; only by how long such things last. */
  fixedMin: z.number(),
  likelyMin: z.number(),
  expectedMin: z.number(),
  visits: z.int(),
})
export type YearWeekDto = z.infer<typeof yearWeekSchema>

/** Load of some weeks by the hours there are in them. */
export function filledShare(weeks: readonly Pick<YearWeekDto, 'loadMin' | 'capacityMin'>[]): number {
  let [load, capacity] = [0, 0]
  for (const { loadMin, capacityMin } of weeks) {
    load += loadMin
    capacity += capacityMin
  }
  return load / Math.max(1, capacity)
}

const yearFiguresSchema = z.object({
  weeks: z.array(yearWeekSchema),
  /** Standard deviation over mean of the weeks' loads by the hours that are there. */
  variation: z.number(),
  visits: z.int(),
  workMin: z.number(),
  travelMin: z.number(),
  /** Driven, kilometres, as far as the distance says; of a plan made before they were counted nothing. */
  km: z.number().optional(),
  /** Weeks with more to do than there are hours, and by how many minutes together. */
  overWeeks: z.int(),
  overMin: z.number(),
  /** Unused part life, and risk run past the due: minutes of a technician's time that are worth as much. */
  earlyMin: z.number(),
  lateMin: z.number(),
  /** Of parts for what falls due within the year. */
  partsMinor: z.number(),
  /** What the plan is weighed by, minutes. */
  cost: z.number(),
})
export type YearFigures = z.infer<typeof yearFiguresSchema>

export const YEAR_HEAVY = ['hours', 'level'] as const
/** Some of a heavy week's work moved to another week, with what that does. */
const yearHelpSchema = z.object({
  toWeek: daySchema,
  byWeeks: z.int(),
  area: z.string(),
  /** Null where it is everything there. */
  media: mediumSchema.nullable(),
  chains: z.array(z.string()),
  sites: z.array(z.string()),
  /** By how much unused part life, risk and driving grow, minutes; negative where they shrink. */
  lifeMin: z.number(),
  riskMin: z.number(),
  travelMin: z.number(),
  /** What the heavy week loses, minutes. */
  lighterMin: z.number(),
})
export type YearHelpDto = z.infer<typeof yearHelpSchema>
const yearHeavySchema = z.object({
  week: daySchema,
  /** More than there are hours, or only more than other weeks. */
  over: z.enum(YEAR_HEAVY),
  loadMin: z.number(),
  capacityMin: z.number(),
  levelMin: z.number(),
  help: z.array(yearHelpSchema),
})
export type YearHeavy = z.infer<typeof yearHeavySchema>

/** A year as it would be with something else than there is. */
export const yearWhatIfSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('customers'), count: z.int().min(1).max(500), likeSiteId: idSchema }),
  z.strictObject({ kind: z.literal('person-less'), personId: idSchema }),
  z.strictObject({ kind: z.literal('person-more'), base: placeIdSchema }),
  z.strictObject({ kind: z.literal('base'), personId: idSchema, base: placeIdSchema }),
  z.strictObject({ kind: z.literal('contract'), months: z.int().min(1).max(36) }),
  /** A crossing that is not there from one day to another, both included. */
  z
    .strictObject({ kind: z.literal('crossing'), crossingId: z.string().min(1).max(80), fromDay: workDaySchema, toDay: workDaySchema })
    .refine(({ fromDay, toDay }) => fromDay <= toDay, { path: ['toDay'], error: () => say`expected an end after the beginning` }),
])
export type YearWhatIf = z.infer<typeof yearWhatIfSchema>

export const YEAR_KINDS = ['even', 'move', 'what-if'] as const
export const yearPlanDtoSchema = z.object({
  id: idSchema,
  kind: z.enum(YEAR_KINDS),
  madeAt: instantSchema,
  byName: z.string(),
  appliedAt: instantSchema.nullable(),
  /** What was asked, in words. */
  title: z.string(),
  /** Whether it can be put to work as it is; else what is to be done first. */
  mayApply: z.boolean(),
  whyNot: z.string(),
  before: yearFiguresSchema,
  after: yearFiguresSchema,
  heavy: z.array(yearHeavySchema),
  leftOut: z.int(),
})
export type YearPlanDto = z.infer<typeof yearPlanDtoSchema>

export const yearPageSchema = z.object({
  today: daySchema,
  /** The plan the rounds are made by; null where each thing is planned when it is due. */
  current: yearPlanDtoSchema.nullable(),
  /** Somebody asked for it, and nobody applied or discarded it yet. */
  offered: yearPlanDtoSchema.nullable(),
  currency: z.string(),
  hourMinor: z.int(),
  people: z.array(z.object({ id: idSchema, name: z.string(), base: placeIdSchema })),
  places: z.array(z.object({ id: placeIdSchema, name: z.string() })),
  crossings: z.array(z.object({ id: z.string(), name: z.string() })),
})
export type YearPage = z.infer<typeof yearPageSchema>

export const yearAskSchema = z.discriminatedUnion('kind', [
  z.strictObject({ id: idSchema, kind: z.literal('even') }),
  z.strictObject({
    id: idSchema,
    kind: z.literal('move'),
    /** The plan it is moved in. */
    planId: idSchema,
    chains: z.array(z.string().min(1).max(200)).min(1).max(2000),
    from: workDaySchema,
    to: workDaySchema,
  }),
  z.strictObject({ id: idSchema, kind: z.literal('what-if'), whatIf: yearWhatIfSchema }),
  z.strictObject({
    id: idSchema,
    /** Planned on a device, without a network. */
    kind: z.literal('here'),
    /** The Monday of its week 0. */
    from: workDaySchema,
    visits: z
      .array(
        z.strictObject({ site: z.string().max(200), week: z.int().min(0).max(103), chains: z.array(z.string().max(200)).min(1).max(200) }),
      )
      .max(20_000),
  }),
])
export type YearAsk = z.infer<typeof yearAskSchema>

/** What a device plans a year from; null where a firm has more than a device should. */
export const yearWorkSchema = z.object({ work: z.unknown() as z.ZodType<YearWork | null> })

/** Everything that comes round in a firm's year and the hours there are for it, with what names it. */
export interface YearKnown {
  input: YearInput
  /** The Monday of week 0. */
  from: string
  today: string
  /** What a chain is, by its id. */
  about: Record<string, { siteName: string; media: Medium | null; priceMinor: number }>
  areaNames: Record<string, string>
  /** Of each area: kilometres there and back, and between two of its visits. */
  areaKm?: Record<string, { roundTripKm: number; betweenKm: number }>
  /** Chains whose customers were given the day, or whose day somebody holds. */
  held: string[]
  /** Sites nobody can drive to and back from on one day. */
  leftOut: number
}

/** What a year is planned from, all read before: it is worked on in a thread that knows no database. */
export interface YearWork {
  known: YearKnown
  /** The year as it is, where `known` is one as it would be. */
  asIs: YearKnown | null
  /** The plan in force, with the Monday it begins on. */
  current: { from: string; visits: YearVisit[] } | null
  /** Some of a plan's work moved, instead of a plan anew. */
  move: (YearMove & { visits: YearVisit[] }) | null
  /** A plan that a device made, with the Monday it begins on: taken instead of a search. */
  given?: { from: string; visits: YearVisit[] } | null
}
export interface YearWorked {
  known: YearKnown
  visits: YearVisit[]
  shown: Pick<YearPlanDto, 'before' | 'after' | 'heavy' | 'leftOut'>
}
