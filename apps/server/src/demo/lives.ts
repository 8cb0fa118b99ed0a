import {
  drawSite,
  gradeOf,
  lifeUsed,
  liveDay,
  medianLives,
  newPart,
  type Rng,
  readPart,
  type SimPart,
  type SimReading,
  type SimSite,
  type SimStage,
  seeded,
  USUAL_SPREAD,
} from '@evenround/core/simulate'
import { FAMILIES, type Family, type FamilyStage } from '@evenround/core/train'
import type { FoundGrade } from '@evenround/core/wear'
import { partFor, ratedColumns } from './catalogue'
import type { DemoCustomer } from './customers'
import { demoId } from './ids'

/** Three years of past. */
export const DAYS = 1095
const SEED = 20_231
/** One change in so many is made late, as it happens in every firm. */
const LATE = 0.12

export interface KnownPart {
  partNumber: string
  partId: string
  rated: SimStage['rated']
}
/** What is read at a stage beside the two waters. */
export type Gauges = Omit<SimReading, 'day' | 'feedTdsMgL' | 'productTdsMgL'>

/** What was seen and done at one system on one day; days are counted from the first. */
export interface SeenVisit {
  day: number
  counterL: number
  untreatedMgL: number
  treatedMgL: number
  gauges: { stage: number; reading: Gauges }[]
  /** What came out was found so; nothing came out where the first parts went in. */
  changes: { stage: number; part: KnownPart; out: { found: FoundGrade; dirtPast: boolean | null } | null }[]
}
interface SystemLife {
  name: string
  family: Family
  visits: readonly SeenVisit[]
}
interface CustomerLife {
  chlorineMgL: SimSite['chlorineMgL']
  systems: readonly SystemLife[]
}

interface RunStage {
  plan: FamilyStage
  known: KnownPart | null
  sim: SimStage
  part: SimPart
  changeAfter: number
}

export function knownPart({ media, housing, washable }: FamilyStage): KnownPart | null {
  const part = partFor(media, housing, washable === true)
  if (!part) return null
  const { ratedDays, ratedLitres, ratedMilliequivalents, ratedHours } = ratedColumns(part)
  const rated = {
    ...(ratedDays === null ? {} : { days: ratedDays }),
    ...(ratedLitres === null ? {} : { litres: ratedLitres }),
    ...(ratedMilliequivalents === null ? {} : { milliequivalents: ratedMilliequivalents }),
    ...(ratedHours === null ? {} : { hours: ratedHours }),
  }
  return { partNumber: part.partNumber, partId: demoId('part', part.partNumber), rated }
}

/** Days after which this firm changes a part: the trade's table for the place, by its usual draw; the place's luck it does not know. */
function habit(rng: Rng, site: SimSite, stage: SimStage): number {
  const perDay = stage.wholeHouse ? site.houseLitresPerDay : site.tapLitresPerDay
  const { throughput, pressure, resin, lamp, ...inDays } = medianLives(site, stage)
  const days = [
    ...Object.values(inDays),
    throughput === undefined ? undefined : throughput / perDay,
    pressure === undefined ? undefined : pressure / perDay,
    resin === undefined ? undefined : resin / ((perDay * site.feedTdsMgL) / 50),
    lamp === undefined ? undefined : lamp / 24,
  ].filter((one): one is number => typeof one === 'number')
  const usual = days.length > 0 ? Math.min(...days) : 730
  return Math.max(14, Math.round(usual * rng.between(0.6, 0.95) * (rng.chance(LATE) ? 1.6 : 1)))
}

/** One visit: readings before, parts changed with what was found. */
function seeVisit(
  rng: Rng,
  site: SimSite,
  stages: readonly RunStage[],
  day: number,
  changed: ReadonlySet<RunStage>,
  counterL: number,
): SeenVisit {
  const readings = stages.map(({ sim, part }) => readPart(rng, site, sim, part, day, false))
  const pair = readings[stages.findIndex(({ plan }) => plan.media === 'membrane')]
  const untreatedMgL = pair?.feedTdsMgL ?? site.feedTdsMgL * Math.exp(0.04 * rng.normal())
  const treatedMgL = pair?.productTdsMgL ?? untreatedMgL * rng.between(0.96, 1.0)
  const gauges = stages.flatMap(({ part }, stage): SeenVisit['gauges'] => {
    const { feedTdsMgL: _, productTdsMgL: __, day: ___, ...reading } = readings[stage] as SimReading
    return Object.keys(reading).length > 0 && part.fittedDay < day ? [{ stage, reading }] : []
  })
  const changes = stages.flatMap((one, stage): SeenVisit['changes'] => {
    if (!changed.has(one) || one.known === null) return []
    if (day === 0) return [{ stage, part: one.known, out: null }]
    const share = lifeUsed(one.part)
    return [{ stage, part: one.known, out: { found: gradeOf(rng, share), dirtPast: one.plan.media === 'sediment' ? share > 1.6 : null } }]
  })
  return { day, counterL: Math.round(counterL), untreatedMgL, treatedMgL, gauges, changes }
}

/** Runs one system through its three years; the technician follows habit and never sees the truth. */
function liveSystem(rng: Rng, site: SimSite, stages: readonly RunStage[]): SeenVisit[] {
  const visits = [seeVisit(rng, site, stages, 0, new Set(stages), 0)]
  const everyDays = rng.between(70, 150)
  let visit = Math.round(everyDays * rng.between(0.5, 1.2))
  let counterL = 0
  for (let day = 0; day < DAYS - 2; day++) {
    const before = stages[0]?.part.litres ?? 0
    for (const { sim, part } of stages) liveDay(rng, site, sim, part, day)
    counterL += Math.max(0, (stages[0]?.part.litres ?? 0) - before)
    if (day + 1 < visit) continue
    const due = stages.filter(({ part, changeAfter }) => day + 1 - part.fittedDay >= changeAfter - everyDays / 2)
    visits.push(seeVisit(rng, site, stages, day + 1, new Set(due), counterL))
    for (const stage of due) {
      stage.part = newPart(rng, site, stage.sim, USUAL_SPREAD, day + 1)
      stage.changeAfter = habit(rng, site, stage.sim)
    }
    visit = day + 1 + Math.round(everyDays * rng.between(0.7, 1.3))
  }
  return visits
}

function lived({ people, source, systems }: DemoCustomer, index: number, closed: SimSite['closed']): CustomerLife {
  const rng = seeded(SEED + index)
  const site = drawSite(rng, USUAL_SPREAD, DAYS + 400, { people, source, closed })
  return {
    chlorineMgL: site.chlorineMgL,
    systems: systems.map(({ name, family: familyName }): SystemLife => {
      const family: Family = FAMILIES[familyName]
      const wholeHouse = family.outlet === 'house'
      const stages = family.stages.map((plan): RunStage => {
        const known = knownPart(plan)
        const sim: SimStage = { media: plan.media, rated: known?.rated ?? {}, wholeHouse, siteFactor: rng.spread(USUAL_SPREAD.siteCv) }
        return { plan, known, sim, part: newPart(rng, site, sim, USUAL_SPREAD, 0), changeAfter: habit(rng, site, sim) }
      })
      return { name, family, visits: liveSystem(rng, site, stages) }
    }),
  }
}

const lives = new Map<string, CustomerLife>()

/** Three years of one customer by the simulator. Only yearly closings tie it to a date, so a process that makes many demos lives it once. */
export function lifeOf(customer: DemoCustomer, index: number, closed: SimSite['closed']): CustomerLife {
  const key = JSON.stringify([index, closed])
  const life = lives.get(key) ?? lived(customer, index, closed)
  lives.set(key, life)
  return life
}
