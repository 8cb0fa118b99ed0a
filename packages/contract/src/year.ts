import { say } from '@evenround/core/words'
import { planYear, USUAL_YEAR_WEIGHTS, type YearInput, yearCost } from '@evenround/core/year'
import { z } from 'zod'
import { endsSometime, refusing, searchLimits, unique } from './planned'

const id = z.string().min(1).max(200)
const minutes = z.number().min(0)
const price = z.number().min(0)
const weight = (usual: number) => z.number().min(0).default(usual)

const chainSchema = z
  .strictObject({
    id,
    site: id,
    workMin: minutes,
    every: z.int().min(1).max(1000),
    last: z.int().min(-10_000).max(10_000),
    early: z.int().min(0).max(1000),
    late: z.int().min(0).max(1000),
    earlyPerWeek: price,
    latePerWeek: price,
    closed: z.array(z.int()).optional(),
    pinned: z.int().min(0).optional(),
  })
  .refine(({ early, every }) => early < every, { path: ['early'], error: () => say`expected fewer weeks than from one time to the next` })

const shape = {
  weeks: z.int().min(13).max(104),
  capacityMin: z.array(minutes),
  dayMin: z.number().gt(0).default(480),
  areas: z.array(z.strictObject({ id, roundTripMin: minutes, betweenMin: minutes, dayMin: z.number().gt(0).optional() })).max(5000),
  sites: z.array(z.strictObject({ id, area: id, visitMin: minutes })).max(20_000),
  chains: z.array(chainSchema).max(60_000),
  weights: z
    .strictObject({
      travel: weight(USUAL_YEAR_WEIGHTS.travel),
      unevenness: weight(USUAL_YEAR_WEIGHTS.unevenness),
      overload: weight(USUAL_YEAR_WEIGHTS.overload),
      visits: z.number().min(0).optional(),
    })
    .default({ ...USUAL_YEAR_WEIGHTS }),
}
type Shape = z.output<z.ZodObject<typeof shape>>

function whole({ weeks, capacityMin, areas, sites, chains }: Shape, context: z.RefinementCtx): void {
  const refuse = refusing(context)
  if (capacityMin.length !== weeks) refuse(['capacityMin'], say`expected ${weeks} figures, one a week, got ${capacityMin.length}`)
  const [areaIds, siteIds] = [unique(areas, 'areas', refuse), unique(sites, 'sites', refuse)]
  unique(chains, 'chains', refuse)
  for (const [index, { area }] of sites.entries())
    if (!areaIds.has(area)) refuse(['sites', index, 'area'], say`expected the id of an area, got ${area}`)
  for (const [index, { site, pinned }] of chains.entries()) {
    if (!siteIds.has(site)) refuse(['chains', index, 'site'], say`expected the id of a site, got ${site}`)
    if (pinned !== undefined && pinned >= weeks) refuse(['chains', index, 'pinned'], say`expected a week before ${weeks}, got ${pinned}`)
  }
}

/** A year to be planned, with how long or how far the search may go. */
export const yearPlanSchema = z.strictObject({ ...shape, ...searchLimits, seed: z.int() }).superRefine((input, context) => {
  endsSometime(input, refusing(context))
  whole(input, context)
})

const visitSchema = z.object({ site: z.string(), week: z.number(), chains: z.array(z.string()) })
export const yearCostSchema = z
  .strictObject({ ...shape, ...searchLimits, seed: z.int().default(1), plan: z.object({ visits: z.array(visitSchema) }) })
  .superRefine(whole)

/** Plans within the seconds the input gives, by the wall clock; with iterations in their stead the plan is the same everywhere. */
export function planYearWithin({ seconds: given, iterations: steps, ...input }: z.output<typeof yearPlanSchema>) {
  const end = given === undefined || steps !== undefined ? null : performance.now() + given * 1000
  return planYear(input as YearInput, {
    ...(steps === undefined ? {} : { iterations: steps }),
    ...(end === null ? {} : { stop: () => performance.now() >= end }),
  })
}

export const costOfYear = ({ plan, seconds: _, iterations: __, ...input }: z.output<typeof yearCostSchema>) =>
  yearCost(input as YearInput, plan)
