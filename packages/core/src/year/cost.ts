import { say } from '../words'
import { allowedWeeks, firstDue } from './allowed'
import { costOfWeeks, travelIn, variationOf, weeksOf } from './load'
import type { YearChain, YearCost, YearInput } from './types'

export interface YearBroken {
  rule: 'unknown' | 'week' | 'two-visits' | 'other-site' | 'twice' | 'not-allowed' | 'undone'
  text: string
  chain?: string
  site?: string
  week?: number
}
export interface GivenYear {
  visits: readonly { site: string; week: number; chains: readonly string[] }[]
}
type Given = GivenYear['visits'][number]

/** The weeks in which a chain is done, against its dues one after the other: what is off them, and what may not be. */
function againstDues(input: YearInput, chain: YearChain, done: readonly number[]): { early: number; late: number; broken: YearBroken[] } {
  const broken: YearBroken[] = []
  let [due, early, late] = [firstDue(chain), 0, 0]
  const weeks = [...done].sort((a, b) => a - b)
  for (const [index, week] of weeks.entries()) {
    if (!allowedWeeks(input, chain, due, index === 0).includes(week))
      broken.push({ rule: 'not-allowed', text: say`it is due in week ${due} and may not be done in week ${week}`, chain: chain.id, week })
    early += Math.max(0, due - week) * chain.earlyPerWeek
    late += Math.max(0, week - due) * chain.latePerWeek
    due = week + chain.every
  }
  if (due < input.weeks && allowedWeeks(input, chain, due, weeks.length === 0).some((week) => week < input.weeks))
    broken.push({ rule: 'undone', text: say`it is due in week ${due} and not done`, chain: chain.id, week: due })
  return { early, late, broken }
}

/**
 * What a year's plan costs and what rule it breaks, worked out from the plan alone. Never refuses a wrong plan: what is broken is named, what
 * cannot be placed is left out, and the rest is priced.
 */
export function yearCost(input: YearInput, plan: GivenYear): { cost: YearCost; variation: number; broken: YearBroken[] } {
  const { weeks, dayMin, areas, sites, chains } = input
  const siteOf = new Map(sites.map((site) => [site.id, site]))
  const chainOf = new Map(chains.map((chain) => [chain.id, chain]))
  const areaAt = new Map(areas.map(({ id }, index) => [id, index]))
  const minutes = new Float64Array(weeks)
  const inArea = areas.map(() => new Float64Array(weeks))
  const visitsIn = areas.map(() => new Int32Array(weeks))
  const done = new Map<string, number[]>(chains.map(({ id }) => [id, []]))
  const seen = new Set<string>()
  let readyMin = 0
  const broken: YearBroken[] = []

  /** Minutes of the chains that a visit may name. */
  const workOf = ({ site, week, chains: named }: Given): number => {
    const once = new Set<string>()
    let work = 0
    for (const id of named) {
      const chain = chainOf.get(id)
      if (!chain) broken.push({ rule: 'unknown', text: say`there is nothing ${id} that comes back`, chain: id, site, week })
      else if (chain.site !== site) broken.push({ rule: 'other-site', text: say`${id} is at another site`, chain: id, site, week })
      else if (once.has(id)) broken.push({ rule: 'twice', text: say`${id} is named twice in one visit`, chain: id, site, week })
      else {
        once.add(id)
        work += chain.workMin
        done.get(id)?.push(week)
      }
    }
    return work
  }

  for (const visit of plan.visits) {
    const { site: siteId, week } = visit
    const site = siteOf.get(siteId)
    const area = site === undefined ? undefined : areaAt.get(site.area)
    if (!site || area === undefined) {
      broken.push({ rule: 'unknown', text: say`there is no site ${siteId}`, site: siteId, week })
      continue
    }
    if (!Number.isInteger(week) || week < 0 || week >= weeks) {
      broken.push({ rule: 'week', text: say`there is no week ${week} in the plan`, site: siteId, week })
      continue
    }
    if (seen.has(`${siteId} ${week}`)) broken.push({ rule: 'two-visits', text: say`two visits in one week`, site: siteId, week })
    seen.add(`${siteId} ${week}`)
    const spent = site.visitMin + workOf(visit)
    readyMin += site.visitMin
    minutes[week] = (minutes[week] as number) + spent
    const [there, count] = [inArea[area] as Float64Array, visitsIn[area] as Int32Array]
    there[week] = (there[week] as number) + spent
    count[week] = (count[week] as number) + 1
  }
  const off = { early: 0, late: 0 }
  for (const chain of chains) {
    const one = againstDues(input, chain, done.get(chain.id) ?? [])
    off.early += one.early
    off.late += one.late
    broken.push(...one.broken)
  }
  const travel = Float64Array.from({ length: weeks }, (_, week) =>
    areas.reduce(
      (sum, area, index) =>
        sum + travelIn(area, dayMin, (inArea[index] as Float64Array)[week] as number, (visitsIn[index] as Int32Array)[week] as number),
      0,
    ),
  )
  const all = weeksOf(input, minutes, travel)
  return { cost: costOfWeeks(input, all, { ...off, readyMin }), variation: variationOf(input, all), broken }
}
