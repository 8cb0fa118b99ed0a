import type { Train } from '@evenround/core/train'
import { z } from 'zod'
import { housingSchema, mediumSchema } from './common'
import { ownKindSchema } from './kinds'

const id = z.string().min(1).max(80)
export const trainNodeSchema = z.discriminatedUnion('kind', [
  z.object({ id, kind: z.literal('source') }),
  z.object({ id, kind: z.literal('valve'), turns: z.enum(['quarter', 'multi']) }),
  z.object({ id, kind: z.literal('bypass'), enters: id, leaves: id }),
  z.object({
    id,
    kind: z.literal('stage'),
    media: mediumSchema,
    own: ownKindSchema.optional(),
    housing: housingSchema,
    position: z.int().min(1),
    reliefButton: z.boolean().optional(),
    drainCocks: z.union([z.literal(0), z.literal(1), z.literal(2)]).optional(),
    ownShutoff: z.boolean().optional(),
    selfSealing: z.boolean().optional(),
    endUp: z.enum(['washer', 'arrow', 'either']).optional(),
    inletConfirmed: z.boolean().optional(),
    monitored: z.boolean().optional(),
    washable: z.boolean().optional(),
    reactor: z.string().min(1).max(80).optional(),
    bedL: z.number().gt(0).optional(),
  }),
  z.object({ id, kind: z.literal('tank'), volumeL: z.number().gt(0), valve: z.boolean() }),
  z.object({ id, kind: z.literal('tee') }),
  z.object({
    id,
    kind: z.literal('outlet'),
    use: z.enum(['drinking', 'house', 'ice', 'appliance', 'hose']),
    mustGoOn: z.boolean().optional(),
    appliance: z.string().min(1).max(80).optional(),
    flowLMin: z.number().gt(0).optional(),
  }),
  z.object({ id, kind: z.literal('drain') }),
  z.object({ id, kind: z.literal('heater') }),
  z.object({ id, kind: z.literal('pump'), type: z.enum(['well', 'booster', 'delivery']).optional() }),
])
export const trainSchema = z.object({
  nodes: z.array(trainNodeSchema),
  pipes: z.array(z.object({ from: id, to: id, restrictor: z.boolean().optional(), check: z.boolean().optional() })),
})

type Same<A, B> = [A] extends [B] ? ([B] extends [A] ? true : never) : never
export const trainTypesAgree: Same<Train, z.output<typeof trainSchema>> = true
