import type { JobPlan } from '@evenround/core/disinfection'
import { DISCHARGES, REASONS, REPEATS, SIDES, STRENGTH_SCHOOLS, TARGETS } from '@evenround/core/disinfection'
import { z } from 'zod'
import { idSchema, lineSchema, textSchema, workDaySchema } from './common'
import { keptProductSchema, neutraliserSchema, volumePartSchema } from './disinfection'

const concentration = z.number().min(0).max(100_000)

/** A disinfection as a phone sends it. What may not begin (no outlets, too strong without a reason) is said by the core, not by the form. */
export const jobPlanSchema = z.object({
  targets: z.array(z.enum(TARGETS)).min(1).max(6),
  reason: z.enum(REASONS),
  note: textSchema(2000),
  systemIds: z.array(idSchema).max(40),
  leftOut: z
    .array(z.object({ systemId: idSchema, reason: lineSchema(300) }))
    .max(40)
    .optional(),
  parts: z.array(z.object({ id: lineSchema(60), name: lineSchema(120), side: z.enum(SIDES), part: volumePartSchema })).max(120),
  product: keptProductSchema,
  productName: lineSchema(120),
  stabilised: z.boolean().optional(),
  jug: z.object({ mgL: z.number().gt(0).max(1000), dilution: z.number().min(1).max(100_000) }).nullable(),
  school: z.enum(STRENGTH_SCHOOLS),
  targetMgL: z.number().gt(0).max(5000),
  contactHours: z.number().gt(0).max(240),
  strengthReason: textSchema(500).nullable(),
  contactReason: textSchema(500).nullable().default(null),
  demand: z.object({
    ironMgL: concentration,
    manganeseMgL: concentration,
    sulphideMgL: concentration,
    ammoniaNMgL: concentration,
    otherMgL: concentration,
  }),
  pH: z.number().min(0).max(14),
  waterC: z.number().min(-2).max(100),
  heater: z.enum(['none', 'bypass', 'include']),
  outlets: z
    .array(
      z.object({
        id: lineSchema(60),
        name: lineSchema(120),
        side: z.enum(['cold', 'hot']),
        pipeL: z.number().min(0).max(100_000),
        flowLMin: z.number().gt(0).max(10_000),
        assumed: z.boolean().optional(),
      }),
    )
    .max(120),
  flowLMin: z.number().gt(0).max(10_000),
  secondDay: z.boolean().optional(),
  heelL: z.number().min(0).max(1e6),
  discharge: z.enum(DISCHARGES),
  neutraliser: neutraliserSchema,
  septic: z.boolean(),
  supply: z.enum(['private', 'municipal']),
  supplyMgL: z.number().min(0).max(5),
  sample: z.boolean(),
  repeat: z.enum(REPEATS),
  technicianId: idSchema,
  day: workDaySchema,
  afterJob: idSchema.nullable(),
})

type Same<A, B> = [A] extends [B] ? ([B] extends [A] ? true : never) : never
export const planTypesAgree: Same<JobPlan, z.output<typeof jobPlanSchema>> = true
