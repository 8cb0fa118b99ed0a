import { type Due, type DueRule, dueOf, type WearInput } from '@evenround/core/wear'
import { z } from 'zod'
import { daySchema } from './common'
import { notBeforeFitting, wearInputFields } from './wear-input'

const ruleSchema = z
  .strictObject({
    by: z.enum(['contract', 'label', 'evidence']),
    months: z.int().min(1).max(240).optional(),
    anchor: daySchema.optional(),
    care: z.enum(['careful', 'as-label', 'sparing']).default('as-label'),
    beyondLabel: z.boolean().default(false),
  })
  .refine(({ by, months }) => by !== 'contract' || months !== undefined, {
    path: ['months'],
    error: 'expected how many months the contract has between two changes',
  })

export const wearDueSchema = z.strictObject({ forecast: notBeforeFitting(wearInputFields), rule: ruleSchema })

/** The rule as the core takes it. */
function ruleOf({ by, months, anchor, care, beyondLabel }: z.output<typeof ruleSchema>): DueRule {
  if (by === 'contract' && months !== undefined) return { by, months, care, ...(anchor === undefined ? {} : { anchor }) }
  return by === 'evidence' ? { by, care, beyondLabel } : { by: 'label', care }
}

/** `wear.due` as the scriptable core answers it. */
export function dueByRule({ forecast, rule }: z.output<typeof wearDueSchema>): Due {
  const due = dueOf(forecast as WearInput, ruleOf(rule))
  // The schema wants a rated value, so there always is a day.
  if (due === null) throw new Error('no-rated-life')
  return due
}
