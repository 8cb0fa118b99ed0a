import { dayOfYear } from '@evenround/core/units'
import { arc } from 'd3-shape'

/** A share of the year as an angle, from the top clockwise. */
export const turn = (share: number): number => 2 * Math.PI * share

/** Where a week (its Monday) stands in the ring of the year, with a hair between it and the next. */
export function weekAngles(week: string): [from: number, to: number] {
  const share = (dayOfYear(week) - 1) / 365
  return [turn(share + 0.0012), turn(share + 7 / 365 - 0.0012)]
}

/** A piece of a ring round the middle. */
export const piece = (startAngle: number, endAngle: number, innerRadius: number, outerRadius: number): string =>
  arc()({ startAngle, endAngle, innerRadius, outerRadius }) ?? ''
