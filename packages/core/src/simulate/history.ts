import { gradeOf, readPart, type SimGrade, type SimReading } from './measure'
import { lifeUsed, liveDay, newPart, type SimCause, type SimPart, type SimStage } from './part'
import type { Rng } from './rng'
import type { SimSite, SimSpread } from './water'

export interface SimPast {
  fittedDay: number
  removedDay: number
  litres?: number
  found: SimGrade
}

/** A stage's life as the firm knows it at one moment, and the day on which its part will really be done. */
export interface SimMoment {
  askDay: number
  fittedDay: number
  past: SimPast[]
  readings: SimReading[]
  /** The truth; nobody is told. */
  endDay: number
}

export interface SimVisits {
  /** Mean days between visits. */
  everyDays: number
  counter: boolean
  /** How many parts are changed before the one that is asked about. */
  changes: number
  /** Days after fitting at which the question is put. */
  askAge: number
  /** What ends a part here; every cause when left out. */
  causes?: readonly SimCause[]
}

const LONGEST_LIFE = 14_600

/** A fixed habit of changing, between too early and too late; the habit does not know the truth. */
function habitDays(rng: Rng, stage: SimStage, litresPerDay: number): number {
  const { days, litres, milliequivalents, hours } = stage.rated
  const guess = Math.min(
    days ?? Number.POSITIVE_INFINITY,
    (litres ?? Number.POSITIVE_INFINITY) / litresPerDay,
    (milliequivalents ?? Number.POSITIVE_INFINITY) / (litresPerDay * 4),
    (hours ?? Number.POSITIVE_INFINITY) / 24,
  )
  return Math.max(10, Math.round(guess * rng.between(0.5, 1.3)))
}

const gap = (rng: Rng, everyDays: number): number => Math.max(7, Math.round(everyDays * rng.between(0.6, 1.4)))

/**
 * Runs a stage from day 0: some parts changed by habit, then one that is watched at visits and asked about at an age, whether or not it
 * is over by then: visits read and do not change it.
 */
export function runToMoment(rng: Rng, site: SimSite, stage: SimStage, spread: SimSpread, visits: SimVisits): SimMoment {
  const past: SimPast[] = []
  let day = 0
  const litresPerDay = stage.wholeHouse ? site.houseLitresPerDay : site.tapLitresPerDay
  for (let i = 0; i < visits.changes; i++) {
    const part = newPart(rng, site, stage, spread, day)
    const removed = day + habitDays(rng, stage, litresPerDay)
    for (; day < removed; day++) liveDay(rng, site, stage, part, day)
    const found = gradeOf(rng, lifeUsed(part))
    past.push({
      fittedDay: part.fittedDay,
      removedDay: removed,
      found,
      ...(visits.counter ? { litres: part.litres * Math.exp(0.005 * rng.normal()) } : {}),
    })
  }
  const part = newPart(rng, site, stage, spread, day)
  const askDay = day + visits.askAge
  const readings: SimReading[] = [readPart(rng, site, stage, part, day, visits.counter)]
  let visit = day + gap(rng, visits.everyDays)
  let overOn: number | null = null
  for (; day < askDay; day++) {
    liveDay(rng, site, stage, part, day)
    if (overOn === null && lifeUsed(part, visits.causes) >= 1) overOn = day + 1
    if (day + 1 === visit) {
      readings.push(readPart(rng, site, stage, part, day + 1, visits.counter))
      visit += gap(rng, visits.everyDays)
    }
  }
  const endDay = overOn ?? runToEnd(rng, site, stage, part, day, visits.causes)
  return { askDay, fittedDay: part.fittedDay, past, readings, endDay }
}

/** The day on which a part is done, from the state it is in on `day`. */
export function runToEnd(
  rng: Rng | null,
  site: SimSite,
  stage: SimStage,
  part: SimPart,
  day: number,
  causes?: readonly SimCause[],
): number {
  let now = day
  while (lifeUsed(part, causes) < 1 && now - day < LONGEST_LIFE) liveDay(rng, site, stage, part, now++)
  return now
}
