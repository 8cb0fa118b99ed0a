import type { Medium } from '../catalogue/names'
import { daysBetween, toEpochDay } from '../units'
import { channelsOf } from './channels'
import { type Exposure, exposureOf } from './exposure'
import { calendarFactor, sourceFactor, throughputFactor } from './factors'
import type { Channel } from './growth'
import { PRIORS, sigmaOfCv } from './priors'
import type { Cause, WearInput, WearSchool } from './types'
import { carryOverStretches, type Usage, usageOf } from './usage'

/** One cause before the site factor: its life is log-normal on its own exposure, and readings may say more. */
export interface CauseLife {
  cause: Cause
  exposure: Exposure
  /** Where the exposure stood when this cause's life began (a wash starts the loading over). */
  since: number
  /** ln of the median life, in the exposure's units. */
  logMedian: number
  /** Of the part's own chance; what is unknown of the litres comes on top for causes that live on them. */
  sigma: number
  /** True when its exposure counts days of usual use, so that its length depends on the litres a day. */
  byUse: boolean
  channels: Channel[]
  evidence: string
}

export const GROWTH: Partial<Record<Medium, readonly Cause[]>> = {
  sediment: ['pressure'],
  membrane: ['passage', 'production'],
  'carbon-block': ['breakthrough'],
  'post-carbon': ['breakthrough'],
  'carbon-tank': ['breakthrough'],
  'fridge-internal': ['breakthrough'],
  'fridge-inline': ['breakthrough'],
  'uv-lamp': ['intensity'],
  'uv-sleeve': ['intensity'],
}

const SCHOOL_CAUSES: Record<Exclude<WearSchool, 'earliest'>, readonly Cause[]> = {
  calendar: ['calendar'],
  usage: ['throughput', 'resin', 'lamp'],
  condition: ['pressure', 'passage', 'production', 'breakthrough', 'intensity'],
}

const USUAL_UNIT_SIGMA = sigmaOfCv(PRIORS.unitCv)

/** What every cause of a stage is built from. */
export interface Basis {
  input: WearInput
  usage: Usage
  /** Days since fitting, run faster by what got past the stage before. */
  days: Exposure
  /** Spread of the lives of two parts at one site: standard deviation of the logarithm. */
  unitSigma: number
}

export function basisOf(input: WearInput): Basis {
  const days = exposureOf(carryOverStretches(input, toEpochDay(input.stage.fittedOn)))
  const unitSigma = input.spread === undefined ? USUAL_UNIT_SIGMA : sigmaOfCv(input.spread.unitCv)
  return { input, usage: usageOf(input), days, unitSigma }
}

const BY_USE: readonly Cause[] = ['throughput', 'pressure', 'resin']

const life = (cause: Cause, exposure: Exposure, median: number, sigma: number, evidence: string): CauseLife => ({
  cause,
  exposure,
  since: 0,
  logMedian: Math.log(median),
  sigma,
  byUse: BY_USE.includes(cause),
  channels: [],
  evidence,
})

function calendar({ input, days, unitSigma }: Basis): CauseLife | null {
  const { rated, fittedOn } = input.stage
  if (rated.days === undefined) return null
  return life('calendar', days, rated.days * calendarFactor(input.stage), unitSigma, `fitted on ${fittedOn}`)
}

function throughput({ input, usage, unitSigma }: Basis): CauseLife | null {
  const { litres } = input.stage.rated
  if (litres === undefined) return null
  const median = (litres * throughputFactor(input.stage)) / usage.litresPerDay
  return life('throughput', usage.exposure, median, unitSigma, usage.evidence)
}

function resin({ input, usage, unitSigma }: Basis): CauseLife | null {
  const { milliequivalents } = input.stage.rated
  if (milliequivalents === undefined) return null
  let sum = 0
  let count = 0
  for (const { feedTdsMgL } of input.readings) {
    if (feedTdsMgL === undefined || feedTdsMgL <= 0) continue
    sum += feedTdsMgL
    count++
  }
  const feed = count > 0 ? sum / count : PRIORS.feedTdsMgL
  const feedSigma = count > 0 ? PRIORS.feedReadingCv / Math.sqrt(count) : sigmaOfCv(PRIORS.feedTdsCv)
  const perDay = (usage.litresPerDay * feed) / 50
  const evidence = count > 0 ? `${Math.round(feed)} mg/L in, ${usage.evidence}` : `feed never measured, ${usage.evidence}`
  return life('resin', usage.exposure, milliequivalents / perDay, Math.hypot(unitSigma, feedSigma), evidence)
}

function lamp({ input, days, unitSigma }: Basis): CauseLife | null {
  const { hours } = input.stage.rated
  if (hours === undefined) return null
  let last: { on: string; lampHours: number } | null = null
  for (const { on, lampHours } of input.readings) {
    if (lampHours !== undefined && (last === null || on > last.on)) last = { on, lampHours }
  }
  const day = last === null ? 0 : daysBetween(input.stage.fittedOn, last.on)
  if (last === null || day <= 0 || last.lampHours <= 0) {
    return life('lamp', days, hours / PRIORS.lampHoursPerDay, unitSigma, 'lit day and night')
  }
  const perDay = last.lampHours / day
  return life('lamp', days, hours / perDay, unitSigma, `${Math.round(last.lampHours)} h lit by ${last.on}`)
}

/** Growth needs a prior for its crossing; where the part is rated in litres or hours only, those give the days (once it is measured). */
function priorDays({ input, usage }: Basis): number | null {
  const { days, litres, hours } = input.stage.rated
  if (days !== undefined) return days
  if (litres !== undefined) return litres / usage.priorLitresPerDay
  return hours === undefined ? null : hours / PRIORS.lampHoursPerDay
}

function growth(cause: Cause, basis: Basis): CauseLife | null {
  const { input, usage, days, unitSigma } = basis
  const reference = priorDays(basis)
  if (reference === null) return null
  if (cause !== 'pressure') {
    const channels = channelsOf(cause, input, days, 0)
    if (input.stage.rated.days === undefined && channels.length === 0) return null
    return { ...life(cause, days, reference, unitSigma, readingsSeen(channels)), channels }
  }
  const washed = (input.stage.washedOn ?? []).filter((on) => on <= input.today)
  const since = washed.length === 0 ? 0 : Math.max(...washed.map((on) => daysBetween(input.stage.fittedOn, on)))
  const channels = channelsOf(cause, input, usage.exposure, since)
  if (input.stage.rated.days === undefined && channels.length === 0) return null
  // Rated days at the prior's litres a day, drawn at the rate believed now: in days of usual use.
  const median = (reference * sourceFactor(input.stage.site.source) * usage.priorLitresPerDay) / usage.litresPerDay
  return { ...life(cause, usage.exposure, median, unitSigma, readingsSeen(channels)), channels, since }
}

function readingsSeen(channels: readonly Channel[]): string {
  const count = channels.reduce((sum, { observations }) => sum + observations.length, 0)
  if (count === 0) return 'never measured'
  return count === 1 ? 'one reading' : `${count} readings`
}

/** Every cause a stage can end by, whatever the school. */
export function allCauses(basis: Basis): CauseLife[] {
  const rated = [calendar(basis), throughput(basis), resin(basis), lamp(basis)]
  const grown = (GROWTH[basis.input.stage.media] ?? []).map((cause) => growth(cause, basis))
  return [...rated, ...grown].filter((one) => one !== null)
}

/** The causes that take part in this school, never empty unless nothing is rated: calendar stands in, or else whatever there is. */
export function ofSchool(all: readonly CauseLife[], school: WearSchool): readonly CauseLife[] {
  if (school === 'earliest') return all
  const chosen = all.filter(({ cause }) => SCHOOL_CAUSES[school].includes(cause))
  if (chosen.length > 0) return chosen
  const standIn = all.filter(({ cause }) => cause === 'calendar')
  return standIn.length > 0 ? standIn : all
}
