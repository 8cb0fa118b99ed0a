import { median } from '../units'

export interface TdsInput {
  /** The number on the meter's display, ≥ 0, in mg/L or µS/cm by `quantity`. */
  display: number
  /** 10 when the meter shows its ten-times mark. */
  multiplier: 1 | 10
  quantity: 'tds' | 'ec'
  /** Factor from EC (µS/cm) to TDS (mg/L) the meter works with. */
  scale: 0.5 | 0.64 | 0.7
  /** True when the meter corrects to 25 °C by itself. */
  compensated: boolean
  /** Water temperature, −2 to 100 °C; null when it was not taken. */
  temperatureC: number | null
  /** Share by which EC rises per °C. Default 0.02. */
  coefficientPerC?: number
  /** Earlier values of this water at this site, mg/L. */
  siteHistoryMgL?: readonly number[]
}

export type TdsFlag = 'temperature-missing' | 'tenfold?'
export interface TdsResult {
  tdsMgL: number
  ec25UsCm: number
  flags: TdsFlag[]
}

/** A slip of the ten-times mark seldom lands on exactly ten: the water changes too. */
export const TENFOLD = { from: 7, to: 14, historyAtLeast: 3 } as const

function looksTenfold(value: number, history: readonly number[]): boolean {
  if (history.length < TENFOLD.historyAtLeast) return false
  const usual = median(history)
  if (usual <= 0 || value <= 0) return false
  const ratio = value > usual ? value / usual : usual / value
  return ratio >= TENFOLD.from && ratio <= TENFOLD.to
}

/**
 * Turns a meter's display into TDS (mg/L) and EC at 25 °C (µS/cm), unrounded.
 *
 * EC at 25 °C = EC / (1 + a·(T − 25)); TDS = scale × EC25; a TDS display is first turned into EC by its scale.
 * Without a temperature an uncompensated value is left as it is and flagged.
 * Throws `RangeError` when coefficient and temperature make the correction meaningless (1 + a·(T − 25) ≤ 0).
 * Source: linear temperature compensation as in ISO 7888.
 */
export function tds(input: TdsInput): TdsResult {
  const { display, multiplier, quantity, scale, compensated, temperatureC, coefficientPerC = 0.02 } = input
  if (display < 0) throw new RangeError(`display must be at least 0, got ${display}`)
  const shown = display * multiplier
  const ec = quantity === 'ec' ? shown : shown / scale
  const flags: TdsFlag[] = []
  let ec25UsCm = ec
  if (!compensated) {
    if (temperatureC === null) flags.push('temperature-missing')
    else {
      const correction = 1 + coefficientPerC * (temperatureC - 25)
      if (correction <= 0) throw new RangeError(`1 + coefficient × (T − 25) must be over 0, got ${correction}`)
      ec25UsCm = ec / correction
    }
  }
  const tdsMgL = scale * ec25UsCm
  if (looksTenfold(tdsMgL, input.siteHistoryMgL ?? [])) flags.push('tenfold?')
  return { tdsMgL, ec25UsCm, flags }
}
