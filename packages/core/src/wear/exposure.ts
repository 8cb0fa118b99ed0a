/**
 * An exposure counts what a cause lives on (days, days of usual use, lamp hours) since fitting, as a broken line over days:
 * knots with their value, and a slope after the last one. Values never fall.
 */
export interface Exposure {
  days: number[]
  values: number[]
  /** Units a day after the last knot. */
  slope: number
}

/** A stretch of days, from fitting, in which an exposure runs at `rate` times its usual speed. */
export interface Stretch {
  from: number
  to: number
  rate: number
}

export const steadyExposure = (slope: number): Exposure => ({ days: [0], values: [0], slope })

/** The exposure's reading `day` days after fitting; before fitting it stands at its first knot. */
export function at(exposure: Exposure, day: number): number {
  const { days, values, slope } = exposure
  let last = days.length - 1
  if (day >= (days[last] as number)) return (values[last] as number) + (day - (days[last] as number)) * slope
  while (last > 0 && day < (days[last] as number)) last--
  const from = days[last] as number
  const to = days[last + 1] as number
  const share = Math.max(0, day - from) / (to - from)
  return (values[last] as number) + share * ((values[last + 1] as number) - (values[last] as number))
}

/** The day on which the exposure first reads `value`; infinite where it never does. */
export function dayOf(exposure: Exposure, value: number): number {
  const { days, values, slope } = exposure
  for (let i = 1; i < days.length; i++) {
    const [low, high] = [values[i - 1] as number, values[i] as number]
    if (high < value) continue
    const [from, to] = [days[i - 1] as number, days[i] as number]
    return high > low ? from + ((to - from) * Math.max(0, value - low)) / (high - low) : from
  }
  const left = value - (values[values.length - 1] as number)
  return left <= 0
    ? (days[days.length - 1] as number)
    : slope > 0
      ? (days[days.length - 1] as number) + left / slope
      : Number.POSITIVE_INFINITY
}

/** An exposure of speed 1 made faster or slower in the stretches (they multiply where they overlap). */
export function exposureOf(stretches: readonly Stretch[]): Exposure {
  if (stretches.length === 0) return steadyExposure(1)
  const cuts = new Set<number>([0])
  for (const { from, to } of stretches) {
    if (from > 0) cuts.add(from)
    if (to > 0 && Number.isFinite(to)) cuts.add(to)
  }
  const days = [...cuts].sort((a, b) => a - b)
  const rateFrom = (day: number): number => stretches.reduce((rate, one) => (one.from <= day && day < one.to ? rate * one.rate : rate), 1)
  const values = [0]
  for (let i = 1; i < days.length; i++) {
    const start = days[i - 1] as number
    values.push((values[i - 1] as number) + ((days[i] as number) - start) * rateFrom(start))
  }
  return { days, values, slope: rateFrom(days[days.length - 1] as number) }
}

/**
 * The exposure bent so that it passes through what was counted: between two counts it keeps its own shape, scaled to fit.
 * `marks` are in the exposure's units, in order of days, none falling; after the last one it runs as before.
 */
export function through(exposure: Exposure, marks: readonly { day: number; value: number }[]): Exposure {
  if (marks.length === 0) return exposure
  const days = [0]
  const values = [0]
  let fromDay = 0
  let fromValue = 0
  let fromOwn = 0
  for (const { day, value } of marks) {
    if (day <= fromDay) continue
    const own = at(exposure, day)
    const scale = own > fromOwn ? (value - fromValue) / (own - fromOwn) : 0
    for (let i = 0; i < exposure.days.length; i++) {
      const knot = exposure.days[i] as number
      if (knot <= fromDay || knot >= day) continue
      days.push(knot)
      values.push(fromValue + ((exposure.values[i] as number) - fromOwn) * scale)
    }
    days.push(day)
    values.push(value)
    fromDay = day
    fromValue = value
    fromOwn = own
  }
  for (let i = 0; i < exposure.days.length; i++) {
    const knot = exposure.days[i] as number
    if (knot <= fromDay) continue
    days.push(knot)
    values.push(fromValue + (exposure.values[i] as number) - fromOwn)
  }
  return { days, values, slope: exposure.slope }
}
