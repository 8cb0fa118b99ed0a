import { say } from '@evenround/core/words'
import { z } from 'zod'
import { idSchema, lineSchema, textSchema, versionSchema } from './common'
import { trainSchema } from './train'
import { soundTrainSchema } from './train-check'

/** A customer's train as it is stored: it hangs together, its stages are lasting places with ids of their own, and water can reach it. */
export const storedTrainSchema = soundTrainSchema.superRefine(({ nodes }, context) => {
  nodes.forEach((node, index) => {
    if (node.kind === 'stage' && !z.uuid().safeParse(node.id).success)
      context.addIssue({ code: 'custom', path: ['nodes', index, 'id'], message: say`expected the id of a stage to be a UUID` })
  })
  const has = (kind: string): boolean => nodes.some((node) => node.kind === kind)
  for (const kind of ['source', 'outlet', 'stage'])
    if (!has(kind)) context.addIssue({ code: 'custom', path: ['nodes'], message: say`expected at least one ${kind}` })
  if (nodes.length > 120)
    context.addIssue({ code: 'custom', path: ['nodes'], message: say`expected at most 120 nodes, got ${nodes.length}` })
})

export const trainPageSchema = z.object({
  systemId: idSchema,
  siteId: idSchema,
  siteName: z.string(),
  name: z.string(),
  /** On its plate; empty where nobody wrote it down. */
  serialNo: z.string(),
  version: versionSchema,
  train: trainSchema,
})
export type TrainPageDto = z.infer<typeof trainPageSchema>
/** What is kept of a system; a serial number that is left out stays as it is. */
const systemFields = { name: lineSchema(80), serialNo: textSchema(60).optional(), train: storedTrainSchema }
export const trainEditSchema = z.strictObject({ ...systemFields, version: versionSchema })
export const systemNewSchema = z.strictObject({ ...systemFields, id: idSchema, siteId: idSchema })
export type SystemNew = z.infer<typeof systemNewSchema>
/** A system that comes with its new site. */
export const firstSystemSchema = z.strictObject({ ...systemFields, id: idSchema })
const seenSchema = z.strictObject({ ...systemFields, serialNo: textSchema(60) })
/** An edit made without a network: the system as the device saw it, and as it is to be. */
export const trainChangesSchema = z.strictObject({ before: seenSchema, after: seenSchema })
export type TrainChanges = z.infer<typeof trainChangesSchema>
