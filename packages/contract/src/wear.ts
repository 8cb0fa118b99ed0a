import { DUE_RULE_FIELDS, RULE_LEVELS, USE_FIELDS, USE_LEVELS } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { daySchema, mediumSchema } from './common'
import { shapeOf } from './fields'

export const causeSchema = z.enum([
  'calendar',
  'throughput',
  'pressure',
  'passage',
  'production',
  'resin',
  'breakthrough',
  'lamp',
  'intensity',
])
export const forecastSchema = z.object({
  p10: daySchema,
  p50: daySchema,
  p90: daySchema,
  governing: causeSchema,
  causes: z.array(
    z.object({ cause: causeSchema, p10: daySchema, p50: daySchema, p90: daySchema, hazardShare: z.number(), evidence: z.string() }),
  ),
  remaining: z.number().min(0).max(1),
  /** Chance that it is over by today. */
  ended: z.number().min(0).max(1),
  state: z.enum(['over', 'any-day', 'good']),
  /** Places in its readings of those that are held for slips. */
  doubted: z.array(z.int()),
  narrowing: z.array(z.object({ reading: z.string(), windowDaysAfter: z.number() })),
})
export type ForecastDto = z.infer<typeof forecastSchema>

export const changeSchoolSchema = z.enum(['calendar', 'usage', 'condition', 'earliest'])
/** The school of changing in force at a stage, and where it was chosen. */
export const schoolInForceSchema = z.object({ inForce: changeSchoolSchema, from: z.enum(['firm', 'site', 'stage']) })
export type SchoolInForce = z.infer<typeof schoolInForceSchema>
/** Null follows the next wider choice. */
export const schoolChoiceSchema = z.strictObject({ school: changeSchoolSchema.nullable() })

const ruleFields = z.strictObject(shapeOf(DUE_RULE_FIELDS))
/** A rule as a person chooses it: a contract says its months. */
const keptRuleSchema = ruleFields.refine(({ by, months }) => by !== 'contract' || months !== null, {
  path: ['months'],
  error: () => say`expected how many months the contract has between two changes`,
})
export const ruleLevelSchema = z.enum(RULE_LEVELS)
/** The rule of the day to change in force at a stage, and where it was chosen. */
export const ruleInForceSchema = ruleFields.extend({ from: ruleLevelSchema })
export type RuleInForce = z.infer<typeof ruleInForceSchema>
/** `about` is the id of the site, system or stage, or the medium's name; the firm's own rule is about `firm`. Null follows the next wider choice. */
export const ruleChoiceSchema = z.strictObject({
  level: ruleLevelSchema,
  about: z.string().min(1).max(60),
  rule: keptRuleSchema.nullable(),
})
export const dueRulesSchema = z.object({
  firm: ruleFields,
  media: z.array(z.object({ media: mediumSchema, rule: ruleFields })),
  /** How many sites, systems and stages have one of their own. */
  own: z.object({ site: z.int(), system: z.int(), stage: z.int() }),
})
export type DueRulesDto = z.infer<typeof dueRulesSchema>

/** The day to change a stage's part, by the rule in force; `wear.due` of the scriptable core, with the rule. */
export const stageDueSchema = z.object({
  due: daySchema,
  windowFrom: daySchema,
  windowTo: daySchema,
  labelDay: daySchema.nullable(),
  labelBy: z.enum(['days', 'litres', 'milliequivalents', 'hours']).nullable(),
  labelAmount: z.number().nullable(),
  risk: z.number(),
  accepted: z.number(),
  /** Chance that it is over by today, nothing assumed of its state. */
  ended: z.number(),
  state: z.enum(['spent', 'overdue', 'any-day', 'good']),
  advice: z.enum(['shorten', 'lengthen']).nullable(),
  setBy: z.enum(['contract', 'label', 'evidence', 'readings']),
  why: z.string(),
  pastLimit: z.object({ cause: causeSchema, on: daySchema }).nullable(),
  spentOn: daySchema,
  turnsOn: daySchema.nullable(),
  rule: ruleInForceSchema,
})
export type StageDueDto = z.infer<typeof stageDueSchema>

export const useSchema = z.strictObject(shapeOf(USE_FIELDS))
export const useLevelSchema = z.enum(USE_LEVELS)
/** How much is drawn at a site, a system or a stage, as somebody said it; null takes it back. */
export const useChoiceSchema = z.strictObject({ level: useLevelSchema, about: z.string().min(1).max(60), use: useSchema.nullable() })

/** What a choice of a rule would do to the next due days it is about. */
export const rulePreviewSchema = z.object({ looked: z.int(), earlier: z.int(), later: z.int(), medianShiftDays: z.number() })
export type RulePreview = z.infer<typeof rulePreviewSchema>

/** What a rule would have meant for the firm's own last two years. */
export const hindsightSchema = z.object({
  from: daySchema,
  to: daySchema,
  /** Times of parts in service that were looked at, and how many there are. */
  looked: z.int(),
  all: z.int(),
  done: z.object({ parts: z.number(), lateDays: z.number(), lateSpread: z.number() }),
  rules: z.array(z.object({ rule: ruleFields, parts: z.number(), lateDays: z.number(), lateSpread: z.number() })),
})
export type HindsightDto = z.infer<typeof hindsightSchema>
