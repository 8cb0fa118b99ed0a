import { fromEpochDay, toEpochDay } from '../units'
import { doubtedOf } from './causes'
import { type Window, windowsOf } from './curve'
import { daysServed, modelOf } from './model'
import { AS_LIKELY_AS_NOT } from './priors'
import { failureProbability, likelyServed, readSurvivalCurve, survivalCurveOf } from './survival-curve'
import type { CauseForecast, WearForecast, WearInput } from './types'

export type ForecastResult = ({ ok: true } & WearForecast) | { ok: false; reason: 'no-rated-life' }

/**
 * When the part is done: the 10 %, 50 % and 90 % days of the earliest of its causes, by the evidence alone. Nothing is assumed of today,
 * so that all three may lie in the past (never before the fitting); `ended` is the chance that it is over by today.
 *
 * Each cause's life is log-normal on its own exposure around rated × factors; one site factor, integrated over a grid,
 * multiplies them all and has learned from what was found in past parts; growth causes are fitted to their readings;
 * S(t) = Π S_c(t) within each site factor. Deterministic. Dates are the day on which the quantile falls.
 * `no-rated-life` when neither the part nor its medium gives any cause to go by.
 * Throws `RangeError` when `today` is before `fittedOn`. `narrowing` is left empty here; see `narrowing`.
 */
export function forecast(input: WearInput): ForecastResult {
  return input.stage.ageUnknown === true ? ofUnknownAge(input) : ofKnownAge(input)
}

/** Causes as of the likely age; the window of the whole, and what remains, from every age it may have. */
function ofUnknownAge(input: WearInput): ForecastResult {
  const { fittedOn } = input.stage
  const seen = toEpochDay(fittedOn)
  if (input.today < fittedOn) throw new RangeError(`today must not be before fittedOn ${fittedOn}, got ${input.today}`)
  const likely = fromEpochDay(seen - likelyServed(input))
  const told = ofKnownAge({ ...input, stage: { ...input.stage, ageUnknown: false, fittedOn: likely } })
  const curve = survivalCurveOf(input)
  if (!told.ok || curve === null) return told
  const { p10, p50, p90, remaining } = readSurvivalCurve(curve, input.today)
  const day = (days: number): string => fromEpochDay(seen + Math.floor(days))
  const window = { p10: day(p10), p50: day(p50), p90: day(p90) }
  const ended = failureProbability(curve, input.today)
  return { ...told, ...window, remaining, ended, state: stateFor(ended, window.p10, input.today) }
}

/** For scripts; what screens show is the state of `due`. */
const stateFor = (ended: number, p10: string, today: string): WearForecast['state'] =>
  ended >= AS_LIKELY_AS_NOT ? 'over' : p10 <= today ? 'any-day' : 'good'

function ofKnownAge(input: WearInput): ForecastResult {
  const fitted = toEpochDay(input.stage.fittedOn)
  const age = toEpochDay(input.today) - fitted
  if (age < 0) throw new RangeError(`today must not be before fittedOn ${input.stage.fittedOn}, got ${input.today}`)
  const model = modelOf(input)
  if (model === null) return { ok: false, reason: 'no-rated-life' }
  const { basis, every, taking, survival } = model
  const { all, byCause } = windowsOf(
    survival,
    taking.map(({ cause }) => cause),
  )
  const dates = ({ p10, p50, p90 }: Window): { p10: string; p50: string; p90: string } => ({
    p10: fromEpochDay(fitted + Math.floor(p10)),
    p50: fromEpochDay(fitted + Math.floor(p50)),
    p90: fromEpochDay(fitted + Math.floor(p90)),
  })
  const total = byCause.reduce((sum, { hazard }) => sum + hazard, 0)
  const causes: CauseForecast[] = byCause.map(({ cause, window, hazard }, index) => ({
    cause,
    ...dates(window),
    hazardShare: total > 0 ? hazard / total : 1 / byCause.length,
    evidence: (taking[index] as (typeof taking)[number]).evidence,
  }))
  const governing = causes.reduce((most, cause) => (cause.hazardShare > most.hazardShare ? cause : most))
  const remaining = all.p50 > 0 ? Math.max(0, Math.min(1, (all.p50 - age) / all.p50)) : 0
  const window = dates(all)
  const ended = survival.overBy(daysServed(input.stage.fittedOn, input.today))
  return {
    ok: true,
    ...window,
    governing: governing.cause,
    causes,
    remaining,
    ended,
    state: stateFor(ended, window.p10, input.today),
    doubted: doubtedOf(basis, every),
    narrowing: [],
  }
}
