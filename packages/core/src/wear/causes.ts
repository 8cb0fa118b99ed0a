import type { Medium } from '../catalogue/names'
import { addDays, daysBetween, toEpochDay } from '../units'
import { many, say } from '../words'
import { channelsOf } from './channels'
import { type Exposure, exposureOf, steadyExposure, through } from './exposure'
import { calendarFactor, sourceFactor, throughputFactor } from './factors'
import type { Channel } from './growth'
import { PRIORS, sigmaOfCv } from './priors'
import { type Seen, seenReadings } from './seen'
import type { Total } from './totals'
import type { Cause, WearInput, WearSchool, WearStage } from './types'
import { carryOverStretches, lampTotals, type Usage, usageOf } from './usage'

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

const GROWTH: Partial<Record<Medium, readonly Cause[]>> = {
  sediment: ['pressure'],
  membrane: ['passage', 'production'],
  'carbon-block': ['breakthrough'],
  'sediment-carbon': ['pressure', 'breakthrough'],
  ultrafiltration: ['pressure'],
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
  /** The readings that speak of this part. */
  seen: readonly Seen[]
  /** Places in the input of counter readings that are held for slips. */
  doubted: ReadonlySet<number>
  usage: Usage
  lamp: LampHours | null
  /** Days since fitting, run faster by what got past the stage before. */
  days: Exposure
  /** Spread of the lives of two parts at one site: standard deviation of the logarithm. */
  unitSigma: number
}

export function basisOf(input: WearInput): Basis {
  const seen = seenReadings(input)
  const doubted = new Set<number>()
  const days = exposureOf(carryOverStretches(input, toEpochDay(input.stage.fittedOn)))
  const unitSigma = input.spread === undefined ? USUAL_UNIT_SIGMA : sigmaOfCv(input.spread.unitCv)
  return { input, seen, usage: usageOf(input, seen, doubted), lamp: lampHours(lampTotals(seen, doubted)), days, unitSigma, doubted }
}

/** Hours lit since the fitting as the controller counts them. */
interface LampHours {
  /** Hours by days since fitting. */
  exposure: Exposure
  last: Total
}

/** Before anyone looked a lamp is taken to burn day and night; that guess counts for this many days against the hours that were read. */
const GUESSED_DAYS = 3

function lampHours(totals: readonly Total[]): LampHours | null {
  const last = totals[totals.length - 1]
  if (last === undefined) return null
  const perDay = (last.total + GUESSED_DAYS * PRIORS.lampHoursPerDay) / (last.day + GUESSED_DAYS)
  const exposure = through(
    steadyExposure(perDay),
    totals.map(({ day, total }) => ({ day, value: total })),
  )
  return { exposure, last }
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
  return life('calendar', days, rated.days * calendarFactor(input.stage), unitSigma, say`fitted on ${fittedOn}`)
}

function throughput({ input, usage, unitSigma }: Basis): CauseLife | null {
  const { litres } = input.stage.rated
  if (litres === undefined) return null
  const median = (litres * throughputFactor(input.stage)) / usage.litresPerDay
  return life('throughput', usage.exposure, median, unitSigma, usage.evidence)
}

function resin({ input, seen, usage, unitSigma }: Basis): CauseLife | null {
  const { milliequivalents } = input.stage.rated
  if (milliequivalents === undefined) return null
  const { count, mgL } = feedOf(seen)
  const feed = count > 0 ? Math.max(mgL, LEAST_FEED_MG_L) : mgL
  const feedSigma = count > 0 ? PRIORS.feedReadingCv / Math.sqrt(count) : sigmaOfCv(PRIORS.feedTdsCv)
  const perDay = (usage.litresPerDay * feed) / 50
  const evidence = count > 0 ? say`${Math.round(mgL)} mg/L in, ${usage.evidence}` : say`feed never measured, ${usage.evidence}`
  return life('resin', usage.exposure, milliequivalents / perDay, Math.hypot(unitSigma, feedSigma), evidence)
}

/** Water with next to nothing in it takes next to nothing of a resin. */
const LEAST_FEED_MG_L = 0.5

/** TDS of the water before the stage, mg/L, over its readings; the usual where there is none. */
export function feedOf(seen: readonly Seen[]): { count: number; mgL: number } {
  const values = seen.flatMap(({ reading: { feedTdsMgL } }) => (feedTdsMgL === undefined ? [] : [feedTdsMgL]))
  if (values.length === 0) return { count: 0, mgL: PRIORS.feedTdsMgL }
  return { count: values.length, mgL: values.reduce((sum, value) => sum + value, 0) / values.length }
}

function lamp({ input, lamp: lit, days, unitSigma }: Basis): CauseLife | null {
  const { hours } = input.stage.rated
  if (hours === undefined) return null
  if (lit === null) return life('lamp', days, hours / PRIORS.lampHoursPerDay, unitSigma, say`lit day and night`)
  const on = addDays(input.stage.fittedOn, lit.last.day)
  return life('lamp', lit.exposure, hours, unitSigma, say`${Math.round(lit.last.total)} h lit by ${on}`)
}

/** Growth needs a prior for its crossing; where the part is rated in litres or hours only, those give the days (once it is measured). */
function priorDays({ input, usage }: Basis): number | null {
  const { days, litres, hours } = input.stage.rated
  if (days !== undefined) return days
  if (litres !== undefined) return litres / usage.priorLitresPerDay
  return hours === undefined ? null : hours / PRIORS.lampHoursPerDay
}

/** A growth cause of this stage with what its readings say; `reference` is the median crossing by the label, in days. */
function measured(cause: Cause, { input, seen, usage, days }: Basis, reference: number) {
  const { stage, today } = input
  if (cause !== 'pressure')
    return {
      exposure: days,
      since: 0,
      median: reference,
      channels: channelsOf(cause, { seen, stage, exposure: days, since: 0, median: reference }),
    }
  const washed = (stage.washedOn ?? []).filter((on) => on <= today)
  const since = washed.length === 0 ? 0 : Math.max(...washed.map((on) => daysBetween(stage.fittedOn, on)))
  const { exposure } = usage
  // Rated days at the prior's litres a day, drawn at the rate believed now: in days of usual use.
  const median = (reference * sourceFactor(stage.site.source) * usage.priorLitresPerDay) / usage.litresPerDay
  return { exposure, since, median, channels: channelsOf(cause, { seen, stage, exposure, since, median }) }
}

function growth(cause: Cause, basis: Basis): CauseLife | null {
  const reference = priorDays(basis)
  if (reference === null) return null
  const { exposure, since, median, channels } = measured(cause, basis, reference)
  if (basis.input.stage.rated.days === undefined && channels.length === 0) return null
  return { ...life(cause, exposure, median, basis.unitSigma, readingsSeen(channels)), channels, since }
}

/** A reading past its limit: what it measures, and its day after fitting. */
export interface PastLimit {
  cause: Cause
  day: number
}

/**
 * The latest of the last readings, one of each measure and not doubted, that lies past its limit: whatever the school, the part is over by
 * its own readings. Null where none does.
 */
export function pastLimit(all: readonly CauseLife[]): PastLimit | null {
  const past = all.flatMap(({ cause, channels }) =>
    channels.flatMap(({ lastOver }) => (lastOver === null ? [] : [{ cause, day: lastOver }])),
  )
  return past.sort((a, b) => b.day - a.day)[0] ?? null
}

/** Places in the input of all readings held for slips, rising. */
export function doubtedOf({ doubted }: Basis, all: readonly CauseLife[]): number[] {
  const indices = new Set(doubted)
  for (const { channels } of all) for (const channel of channels) for (const index of channel.doubted) indices.add(index)
  return [...indices].sort((a, b) => a - b)
}

function readingsSeen(channels: readonly Channel[]): string {
  const count = channels.reduce((sum, { line, over, doubted }) => sum + line.length + over.length + doubted.length, 0)
  if (count === 0) return say`never measured`
  return many(count, 'reading', 'readings')
}

/** What is measured at a stage and ends it: by its medium, or as the firm said of its own kind. */
export const growthOf = ({ media, causes = [] }: Pick<WearStage, 'media' | 'causes'>): readonly Cause[] =>
  GROWTH[media] ?? causes.filter((cause) => cause === 'pressure' || cause === 'breakthrough')

/** Every cause a stage can end by, whatever the school. Of an own kind what is rated and not said to end it is left out, unless nothing else is there. */
export function allCauses(basis: Basis): CauseLife[] {
  const { stage } = basis.input
  const rated = [calendar(basis), throughput(basis), resin(basis), lamp(basis)].filter((one) => one !== null)
  const grown = growthOf(stage)
    .map((cause) => growth(cause, basis))
    .filter((one) => one !== null)
  const said: readonly Cause[] | undefined = stage.causes
  const ends = said === undefined ? rated : rated.filter(({ cause }) => said.includes(cause))
  return ends.length + grown.length > 0 ? [...ends, ...grown] : rated
}

/** The causes that take part in this school, never empty unless nothing is rated: calendar stands in, or else whatever there is. */
export function ofSchool(all: readonly CauseLife[], school: WearSchool): readonly CauseLife[] {
  if (school === 'earliest') return all
  const chosen = all.filter(({ cause }) => SCHOOL_CAUSES[school].includes(cause))
  if (chosen.length > 0) return chosen
  const standIn = all.filter(({ cause }) => cause === 'calendar')
  return standIn.length > 0 ? standIn : all
}
