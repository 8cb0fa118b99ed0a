import { actionsFor, type SheetRefusal, type SheetResult, sheet, withKinds } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { actionSchema } from './common'
import { kindsSchema, sheetSchoolsSchema, soundTrainSchema } from './train-check'

const key = z.string().min(1).max(400)
/** A yes or no may come as such. */
const answer = z.union([z.string().min(1).max(200), z.boolean().transform((yes) => (yes ? 'yes' : 'no'))])

const PLACE: Record<SheetRefusal['reason'], (string | number)[]> = {
  'unknown-stage': ['tasks'],
  'no-tasks': ['tasks'],
  'no-outlet': ['train', 'nodes'],
  'no-isolation': ['train', 'nodes'],
}

const inputSchema = z
  .strictObject({
    train: soundTrainSchema,
    tasks: z
      .array(z.strictObject({ stage: z.string().min(1).max(200), action: actionSchema }))
      .min(1)
      .max(60),
    schools: sheetSchoolsSchema,
    from: z.strictObject({ done: z.array(key).max(5000).default([]), answers: z.record(key, answer).default({}) }).optional(),
    kinds: kindsSchema,
  })
  .superRefine(({ train, tasks }, context) => {
    const seen = new Set<string>()
    tasks.forEach(({ stage, action }, index) => {
      const refuse = (field: 'stage' | 'action', message: string): void =>
        context.addIssue({ code: 'custom', path: ['tasks', index, field], message })
      const node = train.nodes.find((one) => one.id === stage)
      if (node?.kind !== 'stage') {
        refuse('stage', say`expected the id of a stage, got ${stage}`)
        return
      }
      if (seen.has(stage)) refuse('stage', say`expected each stage once, got ${stage} twice`)
      seen.add(stage)
      const can = actionsFor(node)
      if (!can.includes(action)) refuse('action', say`expected ${can.join(' or ')} for ${node.media}, got ${action}`)
    })
  })

/** A sheet, or the place in the input that keeps one from being made. */
export const trainSheetSchema = inputSchema.transform((input, context) => {
  const { kinds = [], ...rest } = input
  const made: SheetResult = sheet({ ...rest, train: withKinds(rest.train, kinds) })
  if (made.ok) return { visits: made.visits, holds: made.holds }
  context.addIssue({ code: 'custom', path: PLACE[made.reason], message: made.text })
  return z.NEVER
})
