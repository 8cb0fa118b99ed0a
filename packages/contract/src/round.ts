import { planRound, type RoundInput, roundCost } from '@evenround/core/round'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { daySchema } from './common'
import { endsSometime, type Refuse, refusing, searchLimits, unique } from './planned'

const id = z.string().min(1).max(200)
const minutes = z.number().min(0)
const dayIndex = z.int()
const weight = (most: number) => z.number().min(0).default(most)

const technicianSchema = z.strictObject({
  id,
  base: id,
  fromMin: minutes,
  toMin: minutes,
  overtimeMin: minutes,
  skills: z.array(z.string()),
  daysOff: z.array(dayIndex),
  vanKg: minutes.optional(),
  levelMin: minutes.optional(),
})
const spanSchema = z
  .tuple([minutes, minutes])
  .refine(([from, to]) => from <= to, { error: () => say`expected a span that ends no sooner than it begins` })
const windowSchema = z
  .tuple([dayIndex, dayIndex])
  .refine(([earliest, latest]) => earliest <= latest, { error: () => say`expected the latest day no sooner than the earliest` })
const visitSchema = z.strictObject({
  id,
  place: id,
  serviceMin: minutes,
  dueDay: dayIndex,
  windowDays: windowSchema,
  latePerDay: minutes,
  earlyPerDay: minutes,
  open: z.array(spanSchema).min(1).optional(),
  closedDays: z.array(dayIndex).optional(),
  skills: z.array(z.string()).optional(),
  loadKg: minutes.optional(),
  pinnedDay: dayIndex.optional(),
  promisedDay: dayIndex.optional(),
  after: z
    .strictObject({ visit: id, minGapH: z.number().min(0), maxGapH: z.number().min(0) })
    .refine(({ minGapH, maxGapH }) => minGapH <= maxGapH, {
      path: ['maxGapH'],
      error: () => say`expected a greatest gap no shorter than the least`,
    })
    .optional(),
})
const matrixSchema = z.array(z.array(minutes))

const shape = {
  days: z.array(daySchema).min(1).max(4000),
  technicians: z.array(technicianSchema).min(1).max(500),
  places: z.array(z.strictObject({ id })).min(1).max(20_000),
  travelMin: matrixSchema,
  travelByHour: z.array(z.strictObject({ fromMin: minutes, travelMin: matrixSchema })).optional(),
  visits: z.array(visitSchema).max(100_000),
  weights: z
    .strictObject({ overtime: weight(2), unevenness: weight(1), change: weight(30) })
    .default({ overtime: 2, unevenness: 1, change: 30 }),
}
type Shape = z.output<z.ZodObject<typeof shape>>

function square(rows: readonly (readonly number[])[], count: number, path: (string | number)[], refuse: Refuse): void {
  if (rows.length !== count) refuse(path, say`expected ${count} rows, one a place, got ${rows.length}`)
  rows.forEach((row, index) => {
    if (row.length !== count) refuse([...path, index], say`expected ${count} columns, one a place, got ${row.length}`)
  })
}

/** Links lead to visits that are there, and never round in a circle. */
function links(visits: Shape['visits'], refuse: Refuse): void {
  const byId = new Map(visits.map((visit) => [visit.id, visit]))
  visits.forEach(({ id: own, after }, index) => {
    if (!after) return
    if (!byId.has(after.visit)) {
      refuse(['visits', index, 'after', 'visit'], say`expected the id of a visit, got ${after.visit}`)
      return
    }
    const seen = new Set([own])
    for (let at: string | undefined = after.visit; at !== undefined; at = byId.get(at)?.after?.visit) {
      if (seen.has(at)) {
        refuse(['visits', index, 'after', 'visit'], say`expected links that end somewhere, got a circle through ${at}`)
        return
      }
      seen.add(at)
    }
  })
}

function whole(input: Shape, context: z.RefinementCtx): void {
  const refuse = refusing(context)
  const { days, technicians, places, visits, travelMin, travelByHour = [] } = input
  days.forEach((day, index) => {
    if (index > 0 && day <= (days[index - 1] as string))
      refuse(['days', index], say`expected a day after ${days[index - 1] ?? ''}, got ${day}`)
  })
  const known = unique(places, 'places', refuse)
  unique(technicians, 'technicians', refuse)
  unique(visits, 'visits', refuse)
  technicians.forEach(({ base, fromMin, toMin }, index) => {
    if (!known.has(base)) refuse(['technicians', index, 'base'], say`expected the id of a place, got ${base}`)
    if (toMin < fromMin) refuse(['technicians', index, 'toMin'], say`expected an end no sooner than ${fromMin}, got ${toMin}`)
  })
  visits.forEach(({ place }, index) => {
    if (!known.has(place)) refuse(['visits', index, 'place'], say`expected the id of a place, got ${place}`)
  })
  square(travelMin, places.length, ['travelMin'], refuse)
  for (const [index, step] of travelByHour.entries()) square(step.travelMin, places.length, ['travelByHour', index, 'travelMin'], refuse)
  links(visits, refuse)
}

const seed = z.int()
/** A round to be planned, with how long or how far the search may go. */
export const roundPlanSchema = z.strictObject({ ...shape, ...searchLimits, seed }).superRefine((input, context) => {
  endsSometime(input, refusing(context))
  whole(input, context)
})

const stopSchema = z.strictObject({ visit: z.string(), arriveMin: z.number(), startMin: z.number(), leaveMin: z.number() })
/** Days may carry their sums, as they come out of a plan; what they cost is worked out anew. */
const daySchemaGiven = z.object({ technician: z.string(), day: z.number(), stops: z.array(stopSchema) })
export const roundCostSchema = z
  .strictObject({
    ...shape,
    ...searchLimits,
    seed: seed.default(1),
    plan: z.object({ days: z.array(daySchemaGiven) }),
  })
  .superRefine(whole)

/** Plans within the seconds the input gives, by the wall clock; with iterations in their stead the plan is the same everywhere. */
export function planWithin({ seconds, iterations, ...input }: z.output<typeof roundPlanSchema>) {
  const end = seconds === undefined ? null : performance.now() + seconds * 1000
  return planRound(input as RoundInput, {
    ...(iterations === undefined ? {} : { iterations }),
    ...(end === null ? {} : { stop: () => performance.now() >= end }),
  })
}

export const costOf = ({ plan, seconds: _, iterations: __, ...input }: z.output<typeof roundCostSchema>) =>
  roundCost(input as RoundInput, plan)
