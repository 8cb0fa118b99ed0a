import { addDays } from '@evenround/core/units'
import {
  heavyWeeks,
  helpFor,
  variationOf,
  weeksByChain,
  type YearChain,
  type YearInput,
  type YearPlan,
  yearCost,
} from '@evenround/core/year'
import type { YearFigures, YearHeavy, YearHelpDto, YearKnown } from './year-page'

/** So many weeks are spoken of, the worst. */
const MOST_HEAVY = 4
/** What takes less than this off a week is not worth a word. */
const LEAST_LIGHTER_MIN = 20

/** Figures to the millionth: sums made in another order are the same figures. */
const rounded = (value: number): number => Math.round(value * 1e6) / 1e6
const mondayOf = (from: string, week: number): string => addDays(from, 7 * week)

/** What a year's plan comes to, week by week and in all. */
export function figuresOf({ from, today, about, held, areaKm }: YearKnown, input: YearInput, plan: YearPlan): YearFigures {
  const isHeld = new Set(held)
  const [fixed, likely] = [new Float64Array(input.weeks), new Float64Array(input.weeks)]
  const workOf = new Map(input.chains.map(({ id, workMin }) => [id, workMin]))
  const visitMin = new Map(input.sites.map(({ id, visitMin: own }) => [id, own]))
  const first = new Map([...weeksByChain(plan.visits)].map(([id, weeks]) => [id, weeks[0]]))
  const visits = new Int32Array(input.weeks)
  const partsMinor = partsOf(about, input, plan)
  for (const { site, week, chains } of plan.visits) {
    visits[week] = (visits[week] ?? 0) + 1
    // Getting in is shared by what is done there.
    const own = (visitMin.get(site) ?? 0) / chains.length
    for (const id of chains) {
      const minutes = (workOf.get(id) ?? 0) + own
      if (first.get(id) !== week) continue
      const into = isHeld.has(id) ? fixed : likely
      into[week] = (into[week] ?? 0) + minutes
    }
  }
  const weeks = plan.weeks.map(({ week, minutes, travelMin, loadMin, levelMin }) => {
    // The way there is as certain as what it is made for.
    const share = minutes > 0 ? loadMin / minutes : 0
    const fixedMin = (fixed[week] ?? 0) * share
    const likelyMin = (likely[week] ?? 0) * share
    return {
      week: mondayOf(from, week),
      loadMin: rounded(loadMin),
      travelMin: rounded(travelMin),
      capacityMin: input.capacityMin[week] ?? 0,
      levelMin: rounded(levelMin),
      fixedMin: rounded(fixedMin),
      likelyMin: rounded(likelyMin),
      expectedMin: rounded(Math.max(0, loadMin - fixedMin - likelyMin)),
      visits: visits[week] ?? 0,
    }
  })
  const over = weeks.map(({ loadMin, capacityMin }) => Math.max(0, loadMin - capacityMin))
  return {
    weeks,
    variation: rounded(variationOf(wholeWeeks(input, today >= from), plan.weeks)),
    visits: plan.visits.length,
    workMin: rounded(plan.weeks.reduce((sum, { minutes }) => sum + minutes, 0)),
    travelMin: rounded(plan.weeks.reduce((sum, { travelMin }) => sum + travelMin, 0)),
    ...(areaKm ? { km: Math.round(kmOf(areaKm, input, plan)) } : {}),
    overWeeks: over.filter((one) => one > 0).length,
    overMin: rounded(over.reduce((sum, one) => sum + one, 0)),
    earlyMin: rounded(plan.cost.early),
    lateMin: rounded(plan.cost.late),
    partsMinor,
    cost: rounded(plan.cost.total),
  }
}

/** The hours of the weeks that are still whole: what was promised for the begun one stands against the few hours that are left of it, and says nothing of the year. */
const wholeWeeks = ({ capacityMin }: YearInput, isBegun: boolean): Pick<YearInput, 'capacityMin'> => ({
  capacityMin: capacityMin.map((minutes, week) => (isBegun && week === 0 ? 0 : minutes)),
})

/** Kilometres of a plan: counted by the core as its minutes of driving are, with each area's kilometres in their place. */
function kmOf(areaKm: NonNullable<YearKnown['areaKm']>, input: YearInput, { visits }: YearPlan): number {
  const areas = input.areas.map((area) => ({
    ...area,
    roundTripMin: areaKm[area.id]?.roundTripKm ?? 0,
    betweenMin: areaKm[area.id]?.betweenKm ?? 0,
  }))
  return yearCost({ ...input, areas, weights: { ...input.weights, travel: 1 } }, { visits }).cost.travel
}

/** Parts for what falls due within the year. What the year after would have needed, and is done sooner, is the year after's. */
function partsOf(about: YearKnown['about'], { chains, weeks }: YearInput, plan: YearPlan): number {
  const done = weeksByChain(plan.visits)
  return chains.reduce((sum, { id, last, every }) => {
    const own = done.get(id) ?? []
    const within = own.filter((_, nth) => (nth === 0 ? last : (own[nth - 1] ?? 0)) + every < weeks)
    return sum + within.length * (about[id]?.priceMinor ?? 0)
  }, 0)
}

/** The weeks that will hurt, each with the moves that would help. */
export function heavyOf({ from, about, areaNames }: YearKnown, input: YearInput, plan: YearPlan): YearHeavy[] {
  const areaOf = new Map(input.sites.map(({ id, area }) => [id, area]))
  const areaAt = ({ site }: YearChain): string => areaOf.get(site) ?? ''
  // All of one medium in an area, or everything there: a drive less.
  const kindsOf = (chain: YearChain): string[] => {
    const media = about[chain.id]?.media ?? null
    return media === null ? [areaAt(chain)] : [`${areaAt(chain)} ${media}`, areaAt(chain)]
  }
  return heavyWeeks(plan, input)
    .slice(0, MOST_HEAVY)
    .map((week): YearHeavy => {
      const { loadMin, levelMin } = plan.weeks[week] as YearPlan['weeks'][number]
      const capacityMin = input.capacityMin[week] ?? 0
      const help = helpFor(input, plan, week, kindsOf).flatMap(({ chains, to, plan: then }): YearHelpDto[] => {
        const first = input.chains.find(({ id }) => id === chains[0])
        const lighterMin = loadMin - (then.weeks[week]?.loadMin ?? 0)
        if (!first || lighterMin < LEAST_LIGHTER_MIN) return []
        const media = new Set(chains.map((id) => about[id]?.media))
        const one = {
          toWeek: mondayOf(from, to),
          byWeeks: to - week,
          area: areaNames[areaAt(first)] ?? '',
          media: media.size === 1 ? (about[first.id]?.media ?? null) : null,
          chains: [...chains],
          sites: [...new Set(chains.map((id) => about[id]?.siteName ?? ''))],
          lifeMin: rounded(then.cost.early - plan.cost.early),
          riskMin: rounded(then.cost.late - plan.cost.late),
          travelMin: rounded((then.cost.travel - plan.cost.travel) / input.weights.travel),
          lighterMin: rounded(lighterMin),
        }
        return [one]
      })
      return { week: mondayOf(from, week), over: loadMin > capacityMin ? 'hours' : 'level', loadMin, capacityMin, levelMin, help }
    })
}
