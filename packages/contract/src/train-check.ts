import { type Train, withKinds } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { actionSchema, holdKindSchema, verbSchema } from './common'
import { givenKindSchema } from './kinds'
import { trainSchema } from './train'

const name = z.string().min(1).max(200)
export const kindsSchema = z.array(givenKindSchema).max(100).optional()
const minutes = z.number().min(0).max(100_000)

/** A train whose lines, bypasses and ids hang together. */
const soundNodes = trainSchema.extend({ kinds: kindsSchema }).superRefine(({ nodes, pipes }, context) => {
  const ids = new Set<string>()
  nodes.forEach(({ id }, index) => {
    if (ids.has(id))
      context.addIssue({ code: 'custom', path: ['nodes', index, 'id'], message: say`expected ids that differ, got ${id} twice` })
    ids.add(id)
  })
  const known = (id: string, path: (string | number)[]): void => {
    if (!ids.has(id)) context.addIssue({ code: 'custom', path, message: say`expected the id of a node, got ${id}` })
  }
  pipes.forEach(({ from, to }, index) => {
    known(from, ['pipes', index, 'from'])
    known(to, ['pipes', index, 'to'])
  })
  nodes.forEach((node, index) => {
    if (node.kind !== 'bypass') return
    known(node.enters, ['nodes', index, 'enters'])
    known(node.leaves, ['nodes', index, 'leaves'])
  })
})

/** The firm's own kinds are said once, beside the nodes, and known at every stage of theirs. */
export const soundTrainSchema = soundNodes.transform(({ kinds = [], ...train }): Train => withKinds(train, kinds))

export const sheetSchoolsSchema = z.strictObject({
  closing: z.enum(['hand-only', 'hand-and-quarter-turn']),
  place: z.enum(['in-place', 'at-the-bench']).default('in-place'),
  seals: z.enum(['reuse', 'new']),
  order: z.enum(['one-at-a-time', 'all-out']),
  tankWater: z.enum(['keep', 'drain']),
})

/** Any step of the right form; what it says beyond its act is not judged. */
const stepSchema = z.looseObject({
  key: name,
  verb: verbSchema,
  at: z.array(name).max(60),
  to: name.optional(),
  minutes: minutes.default(0),
  litres: z.number().min(0).max(1_000_000).optional(),
  hours: z.number().min(0).max(100_000).optional(),
})

export const trainCheckSchema = z
  .strictObject({
    train: soundTrainSchema,
    tasks: z.array(z.strictObject({ stage: name, action: actionSchema })).max(60),
    schools: sheetSchoolsSchema,
    visits: z.array(z.looseObject({ minGapHoursBefore: minutes.default(0), steps: z.array(stepSchema).max(2000) })).max(20),
    holds: z.array(z.looseObject({ kind: holdKindSchema, hours: z.number().min(0).max(100_000).optional() })).optional(),
    kinds: kindsSchema,
  })
  .superRefine(({ train, tasks }, context) => {
    tasks.forEach(({ stage }, index) => {
      if (!train.nodes.some((node) => node.id === stage && node.kind === 'stage'))
        context.addIssue({ code: 'custom', path: ['tasks', index, 'stage'], message: say`expected the id of a stage, got ${stage}` })
    })
  })
  .transform(({ kinds = [], ...input }) => ({ ...input, train: withKinds(input.train, kinds) }))
