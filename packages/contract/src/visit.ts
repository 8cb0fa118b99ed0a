import { RATED } from '@evenround/core/firm'
import { FACT_BASE, type Fact, type FactKind, type FactOf, FACT_KINDS as KINDS } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { actionSchema, idSchema, instantSchema, lineSchema, verbSchema } from './common'
import { objectOf, shapeOf } from './fields'
import { jobPlanSchema } from './job'

export const FACT_KINDS = Object.keys(KINDS) as FactKind[]

/** What a fact keeps as JSON. */
const JSON_FIELDS = {
  tasks: z.array(z.object({ stage: idSchema, action: actionSchema })).max(40),
  'block-steps': z
    .array(z.object({ stepKey: lineSchema(1000), verb: verbSchema, stageId: idSchema.nullable() }))
    .min(1)
    .max(200),
  'left-standing': z.array(lineSchema(200)).max(40),
  'stage-ids': z.array(idSchema).max(40),
  others: z.array(z.object({ name: lineSchema(80), value: lineSchema(80) })).max(40),
  'job-plan': jobPlanSchema,
}

/** What must hold between the fields of a kind: where it does not, and what was expected; null where it does. */
const BETWEEN: { [K in FactKind]?: (fact: FactOf<K>) => { path: string; message: string } | null } = {
  'step-done': ({ outcome, choice, note }) => {
    if ((outcome === 'answered') !== (choice !== null))
      return { path: 'choice', message: say`expected a choice where a question was answered, and only there` }
    return (outcome === 'left-out' || outcome === 'early') && note === null
      ? { path: 'note', message: say`expected the reason why a step was left out or ended early` }
      : null
  },
  'work-changed': ({ action, why }) =>
    action === null && why === null ? { path: 'why', message: say`expected the reason why a stage is left for another day` } : null,
  'strip-read': ({ method, mgL }) =>
    method === 'strip' && mgL === null ? { path: 'mgL', message: say`expected what the strip showed` } : null,
  'sample-result': ({ eColi, totalColiform }) =>
    eColi === 'present' && totalColiform === 'absent'
      ? { path: 'totalColiform', message: say`expected coliforms present where E. coli is: it is one of them` }
      : null,
}

function kindSchema<K extends FactKind>(kind: K) {
  const between = BETWEEN[kind]
  const schema = z.object({ ...shapeOf(FACT_BASE), kind: z.literal(kind), ...shapeOf(KINDS[kind], JSON_FIELDS) })
  if (!between) return schema
  return schema.superRefine((fact, context) => {
    const problem = between(fact as FactOf<K>)
    if (problem) context.addIssue({ code: 'custom', path: [problem.path], message: problem.message })
  })
}
const [first, ...others] = FACT_KINDS.map(kindSchema)
if (!first) throw new Error('there are no kinds of facts')

/** Any fact of field work, as today's clients send it. */
export const factSchema = z.discriminatedUnion('kind', [first, ...others]) as z.ZodType<Fact>

export const ratedSchema = objectOf(RATED)

/** Facts of one device, in its own order. Each is judged on its own, so entries are parsed one by one on the server. */
export const factBatchSchema = z.object({
  protocol: z.int().min(1),
  deviceId: idSchema,
  /** The device's clock when it sent the batch. */
  sentAt: instantSchema,
  facts: z.array(z.unknown()).min(1).max(200),
  /** The latest instant some of the facts can have happened at, by the device's clock as it stands now: for those recorded while it was ahead. */
  notAfter: z.record(idSchema, instantSchema).optional(),
})

export const factResultSchema = z.object({
  id: z.string(),
  status: z.enum(['accepted', 'already-had', 'refused']),
  /** Why an accepted fact wants a look: the plan or the train moved on meanwhile, the device's clock is off. */
  flags: z.array(z.enum(['stop-changed', 'train-changed', 'clock-skew', 'visit-closed'])),
  reason: z
    .enum([
      'bad-form',
      'unknown-site',
      'unknown-reference',
      'no-right',
      'not-own',
      'depends-on-refused',
      'id-reused',
      'hold-needs-right',
      'not-stored',
    ])
    .optional(),
  problems: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
})
export type FactResult = z.infer<typeof factResultSchema>

/** Response side of a fact: as sent, with who and when it arrived. */
export const storedFactSchema = z.object({
  fact: factSchema,
  arrivedAt: instantSchema,
  personId: idSchema,
  flags: z.array(z.string()),
})
export type StoredFact = z.infer<typeof storedFactSchema>
