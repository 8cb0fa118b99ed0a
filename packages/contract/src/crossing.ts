import { say } from '@evenround/core/words'
import { z } from 'zod'
import { idSchema, lineSchema, textSchema, versionSchema } from './common'

export const CROSSING_KINDS = ['ferry', 'causeway', 'bridge'] as const
const minute = z
  .int()
  .min(0)
  .max(24 * 60)
const end = z.strictObject({
  /** As sites have it under area or island; empty for the mainland. */
  area: textSchema(80),
  lat: z.number().min(-90).max(90),
  lon: z.number().min(-180).max(180),
})
const fields = {
  kind: z.enum(CROSSING_KINDS),
  name: lineSchema(80),
  from: end,
  to: end,
  /** From the one end to the other. */
  minutes: z.int().min(1).max(600),
  /** Of a ferry: how long before it sails one is aboard. */
  boardMin: z.int().min(0).max(120),
  /** Of a ferry: when it leaves the first end, and when the second; minutes after midnight. */
  departures: z.array(minute).max(60),
  returns: z.array(minute).max(60),
  /** Of a causeway: when it may be entered; empty for any time. */
  open: z.array(z.tuple([minute, minute])).max(6),
}
const sound = ({ from, to, kind, departures, returns, open }: z.infer<z.ZodObject<typeof fields>>, context: z.RefinementCtx): void => {
  const wrong = (path: string, message: string): void => void context.addIssue({ code: 'custom', path: [path], message })
  if (from.area === to.area) wrong('to', say`expected another area on the other side`)
  if (kind === 'ferry' && (departures.length === 0 || returns.length === 0)) wrong('departures', say`expected sailings both ways`)
  if (open.some(([begins, ends]) => begins >= ends)) wrong('open', say`expected spans that end after they begin`)
}

export const crossingSchema = z.object({ ...fields, id: idSchema, version: versionSchema })
export type CrossingDto = z.infer<typeof crossingSchema>
/** Version 0 adds it. */
export const crossingEditSchema = z.strictObject({ ...fields, version: z.int().min(0).max(2_000_000_000) }).superRefine(sound)
export const crossingsSchema = z.object({ crossings: z.array(crossingSchema) })
