import { addDays, daysBetween } from '../units'
import { type CauseLife, causesOf } from './causes'
import { normalMidpoints, survival } from './lognormal'
import { PRIORS, sigmaOfCv } from './priors'
import type { CauseForecast, WearForecast, WearInput } from './types'

/** Site factor as equal-probability slices of its prior: shared by every cause of the stage. */
const SITE_FACTORS = normalMidpoints(41).map((z) => Math.exp(z * sigmaOfCv(PRIORS.siteCv)))
const HORIZON_DAYS = 36_525
const TINY = 1e-300

export type ForecastResult = ({ ok: true } & WearForecast) | { ok: false; reason: 'no-rated-life' }

function survivalOf(lives: readonly CauseLife[], days: number): number {
  let sum = 0
  for (const factor of SITE_FACTORS) {
    let product = 1
    for (const { medianDays, sigma } of lives) product *= survival(days, medianDays * factor, sigma)
    sum += product
  }
  return sum / SITE_FACTORS.length
}

/** Days after fitting by which the chance of having ended, given alive at `age`, reaches `p`. */
function quantileDays(lives: readonly CauseLife[], age: number, p: number): number {
  const alive = Math.max(survivalOf(lives, age), TINY)
  let low = age
  let high = age + 1
  while (survivalOf(lives, high) / alive > 1 - p && high < HORIZON_DAYS) high = age + (high - age) * 2
  for (let i = 0; i < 40 && high - low > 0.01; i++) {
    const middle = (low + high) / 2
    if (survivalOf(lives, middle) / alive > 1 - p) low = middle
    else high = middle
  }
  return high
}

const cumulativeHazard = (life: CauseLife, from: number, to: number): number =>
  Math.log(Math.max(survivalOf([life], from), TINY)) - Math.log(Math.max(survivalOf([life], to), TINY))

/**
 * When the part will be done: the 10 %, 50 % and 90 % days of the earliest of its causes, given it is alive today.
 *
 * Each cause is log-normal around rated × factors; one site factor, integrated over a grid, multiplies them all;
 * S(t) = Π S_c(t) within each slice. Deterministic. Dates are the day on which the quantile falls.
 * `no-rated-life` when neither the part nor its medium gives any cause to go by.
 * Throws `RangeError` when `today` is before `fittedOn`.
 */
export function forecast(input: WearInput): ForecastResult {
  const { today, stage } = input
  const age = daysBetween(stage.fittedOn, today)
  if (age < 0) throw new RangeError(`today must not be before fittedOn ${stage.fittedOn}, got ${today}`)
  const lives = causesOf(input)
  if (lives.length === 0) return { ok: false, reason: 'no-rated-life' }
  const day = (p: number, of: readonly CauseLife[]): string => addDays(stage.fittedOn, quantileDays(of, age, p))
  const medianDays = quantileDays(lives, age, 0.5)
  const hazards = lives.map((life) => cumulativeHazard(life, age, medianDays))
  const total = hazards.reduce((sum, hazard) => sum + hazard, 0)
  const causes: CauseForecast[] = lives.map((life, index) => ({
    cause: life.cause,
    p10: day(0.1, [life]),
    p50: day(0.5, [life]),
    p90: day(0.9, [life]),
    hazardShare: total > 0 ? (hazards[index] as number) / total : 1 / lives.length,
    evidence: life.evidence,
  }))
  const governing = causes.reduce((most, cause) => (cause.hazardShare > most.hazardShare ? cause : most))
  return {
    ok: true,
    p10: day(0.1, lives),
    p50: addDays(stage.fittedOn, medianDays),
    p90: day(0.9, lives),
    governing: governing.cause,
    causes,
    remaining: medianDays > 0 ? Math.max(0, Math.min(1, (medianDays - age) / medianDays)) : 0,
    narrowing: [],
  }
}
