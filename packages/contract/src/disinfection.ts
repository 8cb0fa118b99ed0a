import { say } from '@evenround/core/words'
import { z } from 'zod'

const over0 = z.number().gt(0)
const concentration = z.number().min(0)
const percent = z.number().gt(0).max(100)
const ph = z.number().min(0).max(14)
const waterC = z.number().min(-2).max(100)

const casing = z.strictObject({ kind: z.literal('casing'), diameterMm: over0, depthM: over0, staticLevelM: z.number().min(0) })
const lyingCylinder = z.strictObject({
  kind: z.literal('lying-cylinder'),
  diameterMm: over0,
  lengthM: over0,
  waterDepthM: over0,
})
/** A level at the depth, and no water in a tank, are things that are found; a level under the bottom is not. */
export const volumePartSchema = z
  .discriminatedUnion('kind', [
    casing,
    z.strictObject({ kind: z.literal('upright-cylinder'), diameterMm: over0, waterDepthM: over0 }),
    lyingCylinder,
    z.strictObject({ kind: z.literal('box'), lengthM: over0, widthM: over0, waterDepthM: over0 }),
    z.strictObject({
      kind: z.literal('pressure-tank'),
      volumeL: over0,
      prechargeKpa: z.number().min(0),
      pressureKpa: z.number().min(0),
    }),
    z.strictObject({ kind: z.literal('pipe'), boreMm: over0, lengthM: over0 }),
    z.strictObject({ kind: z.literal('known'), volumeL: over0 }),
  ])
  .superRefine((part, context) => {
    const refuse = (field: string, message: string): void => context.addIssue({ code: 'custom', path: [field], message })
    if (part.kind === 'casing' && part.staticLevelM > part.depthM)
      refuse('staticLevelM', say`expected a level at most as deep as the well, ${part.depthM} m, got ${part.staticLevelM}`)
    if (part.kind === 'lying-cylinder' && part.waterDepthM > part.diameterMm / 1000)
      refuse('waterDepthM', say`expected a depth of at most the diameter, ${part.diameterMm / 1000} m, got ${part.waterDepthM}`)
  })

export const volumeInputSchema = z.strictObject({ parts: z.array(volumePartSchema).min(1).max(200) })

const liquid = z.strictObject({
  kind: z.literal('liquid'),
  percent,
  basis: z.enum(['w/w', 'w/v']),
  densityKgL: over0.optional(),
  strengthAs: z.enum(['available-chlorine', 'sodium-hypochlorite']).default('available-chlorine'),
  ageDays: z.number().min(0),
  storedAtC: z.number().min(-2).max(100),
  thickened: z.boolean().optional(),
})
const solid = z.strictObject({ kind: z.literal('solid'), percent })
const withDensity = (product: { kind: string; basis?: string; densityKgL?: number | undefined }, context: z.RefinementCtx): void => {
  if (product.basis === 'w/w' && product.densityKgL === undefined)
    context.addIssue({
      code: 'custom',
      path: ['densityKgL'],
      message: say`expected a density in kg/L for a strength by weight, got nothing`,
    })
}
export const productSchema = z.discriminatedUnion('kind', [liquid, solid]).superRefine(withDensity)
/** As it is kept: what was not said is left out, not filled in. */
export const keptProductSchema = z
  .discriminatedUnion('kind', [liquid.extend({ strengthAs: liquid.shape.strengthAs.unwrap().optional() }), solid])
  .superRefine(withDensity)

export const doseInputSchema = z.strictObject({
  volumeL: over0,
  targetMgL: over0,
  demandMgL: concentration,
  product: productSchema,
  pH: ph,
  waterC,
  doses: z.union([z.literal(1), z.literal(2)]),
})

export const contactInputSchema = z
  .strictObject({
    strips: z
      .array(z.strictObject({ minute: z.number(), mgL: concentration }))
      .min(2)
      .max(10_000),
    targetMgL: over0,
    minimumHours: over0,
    floorMgL: concentration.default(10),
    ph: ph.optional(),
    waterC: waterC.optional(),
  })
  .superRefine(({ strips }, context) => {
    strips.forEach(({ minute }, index) => {
      const before = strips[index - 1]
      if (before && minute <= before.minute)
        context.addIssue({
          code: 'custom',
          path: ['strips', index, 'minute'],
          message: say`expected a minute after ${before.minute}, got ${minute}`,
        })
    })
  })

const flushPart = z
  .discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('mixed'), volumeL: over0, flowLMin: over0 }),
    z.strictObject({ kind: z.literal('plug'), volumeL: over0, flowLMin: over0 }),
    z.strictObject({ kind: z.literal('drain-fill'), fullL: over0, heelL: z.number().min(0) }),
  ])
  .superRefine((part, context) => {
    if (part.kind === 'drain-fill' && part.heelL >= part.fullL)
      context.addIssue({ code: 'custom', path: ['heelL'], message: say`expected a heel under the full ${part.fullL} L, got ${part.heelL}` })
  })
export const flushInputSchema = z.strictObject({ parts: z.array(flushPart).min(1).max(200), fromMgL: over0, toMgL: over0 })

export const neutraliserSchema = z.enum(['thiosulfate', 'ascorbic-acid', 'sodium-ascorbate', 'sulfite', 'metabisulfite'])
export const neutraliseInputSchema = z.strictObject({ volumeL: over0, chlorineMgL: concentration, agent: neutraliserSchema })
