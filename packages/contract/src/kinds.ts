import { OWN_CAUSES, type OwnKind } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { lineSchema, ownMediumSchema, versionSchema } from './common'

const life = z.number().gt(0).max(600)
const litres = z.number().gt(0).max(10_000_000)
const END_UP = z.enum(['washer', 'arrow', 'either'])

const flushFields = { litres: z.number().gt(0).max(2000), minutes: z.number().gt(0).max(240) }
const ownFields = {
  causes: z
    .array(z.enum(OWN_CAUSES))
    .min(1, { error: () => say`expected at least one cause` })
    .max(OWN_CAUSES.length),
  lifeMonths: life.nullable(),
  ratedLitres: litres.nullable(),
  soakHours: z.number().gt(0).max(336).nullable(),
  flush: z.strictObject({ ...flushFields, alone: z.boolean() }).nullable(),
  endUp: END_UP,
  cautions: z.array(lineSchema(200)).max(6),
}

/** A cause that runs by a figure needs it; measured ones need the days to begin from. */
const hangsTogether = (
  { causes, lifeMonths, ratedLitres }: Pick<OwnKind, 'causes' | 'lifeMonths' | 'ratedLitres'>,
  context: z.RefinementCtx,
): void => {
  const want = (path: string, message: string): void => context.addIssue({ code: 'custom', path: [path], message })
  if (causes.includes('throughput') && ratedLitres === null) want('ratedLitres', say`expected the litres that end it`)
  if (causes.some((cause) => cause !== 'throughput') && lifeMonths === null)
    want('lifeMonths', say`expected how many months it usually lasts`)
}

/** The name is what everything fitted goes by: it is given once. */
export const kindNewSchema = z.strictObject({ name: lineSchema(60), ...ownFields }).superRefine(hangsTogether)
export const kindEditSchema = z.strictObject({ version: versionSchema, ...ownFields }).superRefine(hangsTogether)
/** A file of kinds, as one firm exports it and another imports it. */
export const kindsFileSchema = z.object({ kinds: z.array(kindNewSchema).min(1).max(100) })
export type KindsFile = z.output<typeof kindsFileSchema>

/** As a train carries it. */
export const ownKindSchema = z.object({ id: ownMediumSchema, name: z.string(), ...ownFields })
export const kindSchema = ownKindSchema.extend({ version: versionSchema })
export type KindDto = z.infer<typeof kindSchema>

/** As somebody hands it to the scriptable core: what is left out is taken carefully. */
export const givenKindSchema = z.object({
  id: ownMediumSchema,
  name: z.string().min(1).max(80),
  causes: ownFields.causes.default(['calendar']),
  lifeMonths: ownFields.lifeMonths.default(null),
  ratedLitres: ownFields.ratedLitres.default(null),
  soakHours: ownFields.soakHours.default(null),
  flush: z
    .object({ litres: z.number().gt(0).max(2000), minutes: z.number().gt(0).max(240), alone: z.boolean().default(false) })
    .nullable()
    .default({ litres: 20, minutes: 10, alone: true }),
  endUp: END_UP.default('either'),
  cautions: ownFields.cautions.default([]),
})
