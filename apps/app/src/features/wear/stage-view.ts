import type { SeriesDto, StagePageDto } from '@evenround/contract/due'
import { addDays, daysBetween, type ShownDimension, type ShownUnits, toShown, unitOf } from '@evenround/core/units'
import type { ReadingKind } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { figure, percent, shortDay } from '../../ui/format'
import type { ChartPoint } from '../../ui/series-chart'

export const QUANTITY_WORDS: Record<SeriesDto['quantity'], { name: string; unit: string }> = {
  'drop-kpa': { name: say`Pressure drop`, unit: 'kPa' },
  'flow-share': { name: say`Flow against clean`, unit: '' },
  passage: { name: say`Passage, treated over untreated`, unit: '' },
  permeate: { name: say`Permeate at 25 °C`, unit: 'L/min' },
  chlorine: { name: say`Free chlorine after it`, unit: 'mg/L' },
  intensity: { name: say`Intensity, of new`, unit: '%' },
  litres: { name: say`Drawn since fitting`, unit: 'L' },
  'lamp-hours': { name: say`Hours lit`, unit: 'h' },
  'feed-tds': { name: say`Untreated TDS`, unit: 'mg/L' },
  'product-tds': { name: say`Treated TDS`, unit: 'mg/L' },
}

export const READING_WORDS: Record<ReadingKind, string> = {
  counter: say`A counter reading`,
  'pressure-pair': say`Pressure before and after it`,
  'tds-pair': say`Untreated and treated TDS`,
  'feed-tds': say`The TDS that goes in`,
  permeate: say`A jug of permeate by the watch, with the water’s temperature`,
  'chlorine-after': say`A chlorine strip after it`,
  intensity: say`The lamp’s intensity, sleeve wiped`,
}

/** Quantities the firm's units change; a drop is a difference of pressures, which its units scale alike. */
const SHOWN: Partial<Record<SeriesDto['quantity'], ShownDimension>> = {
  'drop-kpa': 'pressure',
  chlorine: 'concentration',
  'feed-tds': 'concentration',
  'product-tds': 'concentration',
  permeate: 'flow',
  litres: 'volume',
}

/** A series as the firm's units show it: its name, its unit, and how a stored value becomes a shown one. */
export function inFirmUnits(quantity: SeriesDto['quantity'], units: ShownUnits) {
  const { name, unit } = QUANTITY_WORDS[quantity]
  const dimension = SHOWN[quantity]
  if (dimension === undefined) return { name, unit, shown: (value: number) => value }
  return { name, unit: unitOf(dimension, units).text, shown: (value: number) => toShown(value, dimension, units) }
}

/** A share as per cent, everything else as a figure. */
export const valueText = (quantity: SeriesDto['quantity'], value: number): string =>
  quantity === 'flow-share' || quantity === 'passage'
    ? percent(value)
    : value < 1 && value > 0
      ? String(Math.round(value * 1000) / 1000)
      : figure(value)

const STEPS = 24

/** Points of a course from the first reading to its limit on day `end`: growth is a straight line of the logarithm, litres of the value. */
function courseTo(first: ChartPoint, limit: number, end: number, last: number, straight: boolean): ChartPoint[] {
  const span = Math.max(1, end - first.day)
  return Array.from({ length: STEPS + 1 }, (_, i) => {
    const day = first.day + ((last - first.day) * i) / STEPS
    const share = (day - first.day) / span
    const value = straight ? first.value + (limit - first.value) * share : first.value * (limit / first.value) ** share
    return { day, value }
  })
}

/** What is drawn of a series: its points from today, and the believed course where its cause has a window. */
export function drawn(series: SeriesDto, page: StagePageDto, last: number) {
  const points = series.points.map(({ on, value }) => ({ day: daysBetween(page.today, on), value }))
  const cause = page.forecast?.causes.find((one) => one.cause === series.cause)
  const { limit } = series
  const straight = series.quantity === 'litres' || series.quantity === 'lamp-hours'
  // What is counted goes on from the last count; what grows is a curve through all its readings.
  const first = straight ? points.at(-1) : points[0]
  if (!cause || !first || limit === null || (!straight && first.value <= 0)) return { points, course: null }
  const to = (day: string) => courseTo(first, limit, daysBetween(page.today, day), last, straight)
  return { points, course: { middle: to(cause.p50), early: to(cause.p10), late: to(cause.p90) } }
}

/** The axis from the fitting (or half a year back) to past the last window, with the first days of some months as ticks. */
export function axis(page: StagePageDto): { first: number; last: number; ticks: { at: number; label: string }[] } {
  const { today } = page
  const ends = page.forecast ? [page.forecast.p90, ...page.forecast.causes.map(({ p90 }) => p90)] : []
  const furthest = Math.max(60, ...ends.map((day) => daysBetween(today, day)))
  const fitted = page.part ? daysBetween(today, page.part.fittedOn) : 0
  const last = Math.min(furthest * 1.05, 1400)
  const first = Math.max(fitted, -last, -1200)
  const span = last - first
  const every = span < 200 ? 1 : span < 500 ? 3 : span < 1000 ? 6 : 12
  const ticks: { at: number; label: string }[] = []
  let [year, month] = addDays(today, Math.ceil(first)).split('-').map(Number) as [number, number]
  for (let i = 0; i < 60; i++) {
    month += 1
    if (month > 12) {
      month = 1
      year += 1
    }
    if ((month - 1) % every !== 0) continue
    const day = `${year}-${String(month).padStart(2, '0')}-01`
    const at = daysBetween(today, day)
    if (at > last - span * 0.16) break
    ticks.push({ at, label: every === 12 ? String(year) : shortDay(day, today).replace(/^1 /, '') })
  }
  return { first, last, ticks }
}
