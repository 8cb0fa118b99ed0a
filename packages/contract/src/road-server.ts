import { z } from 'zod'
import { instantSchema } from './common'

/** A firm's routing server, and how far it has answered. */
export const roadServerSchema = z.object({
  /** Hosts that whoever runs the server allows; empty where none is. */
  hosts: z.array(z.string()),
  address: z.string().nullable(),
  /** 0 where there is none. */
  version: z.int(),
  /** Places of the firm that driving times are asked for, and how many of them the server has answered about. */
  places: z.int(),
  known: z.int(),
  /** Places further from any road it knows than a van could stop. */
  offRoad: z.int(),
  askedAt: instantSchema.nullable(),
  answeredAt: instantSchema.nullable(),
  nextAt: instantSchema.nullable(),
  /** It is being asked, or will be as soon as a process is free. */
  asking: z.boolean(),
  /** Why it gave nothing when it was last asked; null where it did. */
  problem: z.string().nullable(),
})
export type RoadServerDto = z.infer<typeof roadServerSchema>

export const roadServerEditSchema = z.strictObject({ address: z.string().trim().min(1).max(300).nullable(), version: z.int().min(0) })

/** What drives that were made taught about the ways of one area: a factor from each time of day on. */
export const paceSchema = z.object({
  /** Drives it was learned from; 0 where they say nothing yet. */
  drives: z.int(),
  fromMin: z.array(z.number()),
  areas: z.array(z.object({ area: z.string(), factors: z.array(z.number()) })),
})
export type PaceDto = z.infer<typeof paceSchema>

export const waysSchema = z.object({ roadServer: roadServerSchema, pace: paceSchema })
export type WaysDto = z.infer<typeof waysSchema>
