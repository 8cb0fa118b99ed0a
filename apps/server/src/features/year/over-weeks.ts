import { leastMinutes, NOT_TODAY_MIN, type Travel, travelOn, usualTides } from '@evenround/core/round/roads'
import { addDays } from '@evenround/core/units'
import type { YearArea } from '@evenround/core/year'

interface Over {
  travel: Travel
  /** The ways without a crossing, in the weeks it is stopped. */
  without: Travel | null
  stopped: readonly number[]
  /** The Monday of week 0, and how many weeks there are. */
  from: string
  nWeeks: number
  bases: readonly string[]
}

/** Wednesday stands for its week: a season changes in the middle of few. */
const MIDDLE = 2

/**
 * Puts the way to each area, which may be another one in some seasons, as its mean over the weeks in which it is reached; answers with the
 * weeks in which it is not, by area. Tides change by the hour and leave hours open on nearly every day: they count as usual here.
 */
export function overWeeks(
  areas: YearArea[],
  leads: ReadonlyMap<string, number>,
  { travel, without, stopped, from, nWeeks, bases }: Over,
): Map<string, number[]> {
  const rowOf = new Map(travel.places.map((id, row) => [id, row]))
  const starts = bases.flatMap((base) => rowOf.get(base) ?? [])
  const usual = usualTides(travel)
  const kinds = new Map<Travel['land'] | Travel, { travel: Travel; weeks: number[] }>()
  for (let week = 0; week < nWeeks; week++) {
    const then = without !== null && stopped.includes(week) ? without : travelOn(usual, addDays(from, 7 * week + MIDDLE))
    const kind = kinds.get(then.land ?? then) ?? { travel: then, weeks: [] }
    kind.weeks.push(week)
    kinds.set(then.land ?? then, kind)
  }
  const cutOff = new Map<string, number[]>()
  // Alike all year, as nearly everywhere: what is there stands.
  if (kinds.size < 2) return cutOff
  areas.forEach((area, at) => {
    const lead = leads.get(area.id) as number
    let [sum, reached] = [0, 0]
    const out: number[] = []
    for (const { travel: ways, weeks } of kinds.values()) {
      const minutes = Math.min(...starts.map((base) => leastMinutes(ways, base, lead) + leastMinutes(ways, lead, base)))
      if (minutes < NOT_TODAY_MIN) {
        sum += minutes * weeks.length
        reached += weeks.length
      } else out.push(...weeks)
    }
    if (out.length > 0)
      cutOff.set(
        area.id,
        out.sort((a, b) => a - b),
      )
    if (reached > 0) areas[at] = { ...area, roundTripMin: sum / reached }
  })
  return cutOff
}
