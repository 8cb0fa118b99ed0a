import { daysBetween } from '../units'
import { calendarFactor, throughputFactor, usualLitresPerDay } from './factors'
import { PRIORS, sigmaOfCv } from './priors'
import type { Cause, WearInput, WearReading, WearSchool } from './types'

/** One cause's end, in days after fitting, before the site factor: log-normal with this median and sigma. */
export interface CauseLife {
  cause: Cause
  medianDays: number
  sigma: number
  evidence: string
}

const SCHOOL_CAUSES: Record<Exclude<WearSchool, 'earliest'>, readonly Cause[]> = {
  calendar: ['calendar'],
  usage: ['throughput', 'resin', 'lamp'],
  condition: ['pressure', 'passage', 'production', 'breakthrough', 'intensity'],
}

const unitSigma = sigmaOfCv(PRIORS.unitCv)

interface Usage {
  litresPerDay: number
  sigma: number
  evidence: string
}

function latestCounter(readings: readonly WearReading[]): { on: string; counterL: number } | null {
  let latest: { on: string; counterL: number } | null = null
  for (const { on, counterL } of readings) {
    if (counterL !== undefined && (latest === null || on > latest.on)) latest = { on, counterL }
  }
  return latest
}

function usage(input: WearInput): Usage {
  const counter = latestCounter(input.readings)
  const days = counter === null ? 0 : daysBetween(input.stage.fittedOn, counter.on)
  if (counter !== null && days >= PRIORS.counterSpeaksAfterDays && counter.counterL > 0) {
    const litresPerDay = counter.counterL / days
    return { litresPerDay, sigma: sigmaOfCv(PRIORS.countedUsageCv), evidence: `counter read on ${counter.on}` }
  }
  const { litresPerDay } = input.stage.site
  const evidence = litresPerDay === undefined ? `${input.stage.site.people} people, no counter` : 'the site’s own figure'
  return { litresPerDay: usualLitresPerDay(input.stage), sigma: sigmaOfCv(PRIORS.usageCv), evidence }
}

function throughput(input: WearInput): CauseLife | null {
  const { litres } = input.stage.rated
  if (litres === undefined) return null
  const use = usage(input)
  if (use.litresPerDay <= 0) return null
  const medianDays = (litres * throughputFactor(input.stage)) / use.litresPerDay
  return { cause: 'throughput', medianDays, sigma: Math.hypot(unitSigma, use.sigma), evidence: use.evidence }
}

function calendar(input: WearInput): CauseLife | null {
  const { days } = input.stage.rated
  if (days === undefined) return null
  return {
    cause: 'calendar',
    medianDays: days * calendarFactor(input.stage),
    sigma: unitSigma,
    evidence: `fitted on ${input.stage.fittedOn}`,
  }
}

function lamp(input: WearInput): CauseLife | null {
  const { hours } = input.stage.rated
  if (hours === undefined) return null
  return { cause: 'lamp', medianDays: hours / PRIORS.lampHoursPerDay, sigma: unitSigma, evidence: 'lit day and night' }
}

function resin(input: WearInput): CauseLife | null {
  const { milliequivalents } = input.stage.rated
  if (milliequivalents === undefined) return null
  const feeds = input.readings.flatMap(({ feedTdsMgL }) => (feedTdsMgL === undefined ? [] : [feedTdsMgL]))
  const use = usage(input)
  if (feeds.length === 0 || use.litresPerDay <= 0) return null
  const feed = feeds.reduce((sum, value) => sum + value, 0) / feeds.length
  if (feed <= 0) return null
  const perDay = (use.litresPerDay * feed) / 50
  return {
    cause: 'resin',
    medianDays: milliequivalents / perDay,
    sigma: Math.hypot(unitSigma, use.sigma),
    evidence: `${Math.round(feed)} mg/L in, ${use.evidence}`,
  }
}

/**
 * The causes that take part for this stage and school, never empty: when the school leaves none, calendar stands in.
 * Growth causes (pressure, passage, production, breakthrough, intensity) join with the full model.
 */
export function causesOf(input: WearInput): CauseLife[] {
  const all = [calendar(input), throughput(input), resin(input), lamp(input)].filter((life) => life !== null)
  const { school } = input
  const chosen = school === 'earliest' ? all : all.filter(({ cause }) => SCHOOL_CAUSES[school].includes(cause))
  if (chosen.length > 0) return chosen
  const standIn = all.find(({ cause }) => cause === 'calendar')
  return standIn ? [standIn] : all.slice(0, 1)
}
