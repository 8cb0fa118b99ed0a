import { say } from '@evenround/core/words'
import { z } from 'zod'
import { idSchema, lineSchema, textSchema, versionSchema, workDaySchema } from './common'

export const CROSSING_KINDS = ['ferry', 'causeway', 'bridge'] as const
const minute = z
  .int()
  .min(0)
  .max(24 * 60)
const dayOfYear = z.string().regex(/^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, { error: () => say`expected a day of the year as MM-DD` })
const sailings = z.array(minute).max(60)
const spans = z.array(z.tuple([minute, minute])).max(6)
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
  departures: sailings,
  returns: sailings,
  /** Of a causeway: when it may be entered; empty for any time. */
  open: spans,
  /** Of a ferry: other sailings from one day of the year to another, both included; the first that holds a day counts. */
  seasons: z
    .array(z.strictObject({ from: dayOfYear, to: dayOfYear, departures: sailings, returns: sailings }))
    .max(12)
    .optional(),
  /** Of a causeway: when it may be entered on each day, as the published table of safe times has it; a day it does not name is closed. */
  tides: z.record(workDaySchema, spans).optional(),
}
const MOST_TIDES = 800
const endsTooSoon = (all: z.infer<typeof spans>): boolean => all.some(([begins, ends]) => begins >= ends)
const sound = (
  { from, to, kind, departures, returns, open, seasons, tides }: z.infer<z.ZodObject<typeof fields>>,
  context: z.RefinementCtx,
): void => {
  const wrong = (path: string, message: string): void => void context.addIssue({ code: 'custom', path: [path], message })
  if (from.area === to.area) wrong('to', say`expected another area on the other side`)
  if (kind === 'ferry' && (departures.length === 0 || returns.length === 0)) wrong('departures', say`expected sailings both ways`)
  if (endsTooSoon(open)) wrong('open', say`expected spans that end after they begin`)
  if (seasons?.some((one) => (one.departures.length === 0) !== (one.returns.length === 0)))
    wrong('seasons', say`expected sailings both ways, or none`)
  const days = Object.values(tides ?? {})
  if (days.length > MOST_TIDES) wrong('tides', say`expected at most ${MOST_TIDES} days`)
  if (days.some(endsTooSoon)) wrong('tides', say`expected spans that end after they begin`)
}

export const crossingSchema = z.object({ ...fields, id: idSchema, version: versionSchema })
export type CrossingDto = z.infer<typeof crossingSchema>
/** Version 0 adds it. */
export const crossingEditSchema = z.strictObject({ ...fields, version: z.int().min(0).max(2_000_000_000) }).superRefine(sound)
export const crossingsSchema = z.object({ crossings: z.array(crossingSchema) })
