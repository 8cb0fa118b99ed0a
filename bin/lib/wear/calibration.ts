import { daysBetween } from '@evenround/core/units'
import { type Cause, forecast, type WearForecast, type WearInput } from '@evenround/core/wear'
import type { Case } from './fleet'

export interface Coverage {
  name: string
  count: number
  /** Share of true ends within the 10–90 window, before it and after it. */
  within: number
  before: number
  after: number
}

export type Model = (input: WearInput) => WearForecast

export const ours: Model = (input) => {
  const result = forecast(input)
  if (!result.ok) throw new Error(result.reason)
  return result
}

/** The true end is a day; it is within the window when it falls on its first or last day too. */
export function coverage(name: string, cases: readonly { end: string; of: WearForecast }[]): Coverage {
  let before = 0
  let after = 0
  for (const { end, of } of cases) {
    if (end < of.p10) before++
    if (end > of.p90) after++
  }
  const count = cases.length
  return { name, count, within: (count - before - after) / count, before: before / count, after: after / count }
}

/** Calibration overall and by the cause the forecast calls governing. */
export function calibrate(cases: readonly Case[], model: Model): Coverage[] {
  const asked = cases.map(({ input, end }) => ({ end, of: model(input) }))
  const byCause = new Map<Cause, typeof asked>()
  for (const one of asked) {
    const list = byCause.get(one.of.governing)
    if (list) list.push(one)
    else byCause.set(one.of.governing, [one])
  }
  return [coverage('all', asked), ...[...byCause].map(([cause, list]) => coverage(cause, list)).sort((a, b) => b.count - a.count)]
}

export const windowDays = ({ p10, p90 }: WearForecast): number => Math.max(1, daysBetween(p10, p90))

/** Geometric mean of the stages' own ratios. */
export function meanRatio(ratios: readonly number[]): number {
  return Math.exp(ratios.reduce((sum, ratio) => sum + Math.log(ratio), 0) / ratios.length)
}
