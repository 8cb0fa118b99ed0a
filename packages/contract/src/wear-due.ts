import { CARES, DUE_BASES, type Due, dueOf, ruleOf, type WearInput } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { daySchema } from './common'
import { wearInputSchema } from './wear-input'

const ruleSchema = z
  .strictObject({
    by: z.enum(DUE_BASES),
    months: z.int().min(1).max(240).optional(),
    anchor: daySchema.optional(),
    care: z.enum(CARES).default('as-label'),
    beyondLabel: z.boolean().default(false),
  })
  .refine(({ by, months }) => by !== 'contract' || months !== undefined, {
    path: ['months'],
    error: () => say`expected how many months the contract has between two changes`,
  })

export const wearDueSchema = z.strictObject({ forecast: wearInputSchema, rule: ruleSchema })

/** `wear.due` as the scriptable core answers it. */
export function dueByRule({ forecast, rule }: z.output<typeof wearDueSchema>): Due {
  const { months = null, anchor = null, ...rest } = rule
  const due = dueOf(forecast as WearInput, ruleOf({ ...rest, months, anchor }))
  // The schema wants a rated value, so there always is a day.
  if (due === null) throw new Error('no-rated-life')
  return due
}
