import { z } from 'zod'
import { idSchema, lineSchema, versionSchema } from './common'
import { trainSchema } from './train'
import { soundTrainSchema } from './train-check'

/** A customer's train as it is stored: it hangs together, its stages are lasting places with ids of their own, and water can reach it. */
export const storedTrainSchema = soundTrainSchema.superRefine(({ nodes }, context) => {
  nodes.forEach((node, index) => {
    if (node.kind === 'stage' && !z.uuid().safeParse(node.id).success)
      context.addIssue({ code: 'custom', path: ['nodes', index, 'id'], message: 'expected the id of a stage to be a UUID' })
  })
  const has = (kind: string): boolean => nodes.some((node) => node.kind === kind)
  for (const kind of ['source', 'outlet', 'stage'])
    if (!has(kind)) context.addIssue({ code: 'custom', path: ['nodes'], message: `expected at least one ${kind}` })
  if (nodes.length > 120) context.addIssue({ code: 'custom', path: ['nodes'], message: `expected at most 120 nodes, got ${nodes.length}` })
})

export const trainPageSchema = z.object({
  systemId: idSchema,
  siteId: idSchema,
  siteName: z.string(),
  name: z.string(),
  version: versionSchema,
  train: trainSchema,
})
export type TrainPageDto = z.infer<typeof trainPageSchema>
export const trainEditSchema = z.strictObject({ version: versionSchema, name: lineSchema(80), train: storedTrainSchema })
export const systemNewSchema = z.strictObject({ id: idSchema, siteId: idSchema, name: lineSchema(80), train: storedTrainSchema })
