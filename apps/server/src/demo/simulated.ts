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
import { FAMILIES, type Family, type FamilyStage, familyTrain } from '@evenround/core/train'
import { addDays, dayOfYear } from '@evenround/core/units'
import { type Fact, markText } from '@evenround/core/visit'
import { Site, Stage, System, TrainVersion } from '../db/entities/master'
import { Occupancy } from '../db/entities/wear'
import type { FirmScope } from '../db/scope'
import { type Written, writeFacts } from '../features/facts/write'
import { instantAt } from '../time/zone'
import { partFor, ratedColumns } from './catalogue'
import { DEMO_CUSTOMERS, type DemoCustomer } from './customers'
import { DEMO_ORIGIN } from './history'
import { demoId } from './ids'
import { DEMO_FIRM } from './world'

const SEED = 20_231
/** Three years of past. */
const DAYS = 1095
const VISIT_BEGINS_MIN = 555
const MINUTE_MS = 60_000
const WHOLE_HOUSE = ['house', 'hose'] as const
/** One change in so many is made late, as it happens in every firm. */
const LATE = 0.12

interface Place {
  customer: DemoCustomer
  siteId: string
  site: SimSite
  first: string
  by: 'tam' | 'wren'
}

interface SystemRun {
  key: string
  systemId: string
  family: Family
  stages: { id: string; plan: FamilyStage; sim: SimStage; part: SimPart; changeAfter: number }[]
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

function ratedOf({ media, housing, washable }: FamilyStage): { partNumber: string; partId: string; rated: SimStage['rated'] } | null {
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

const round = (value: number | undefined, digits: number): number | null => (value === undefined ? null : Number(value.toFixed(digits)))

/** One visit's facts: readings before, parts changed with what was found, the end. */
function visitFacts(rng: Rng, place: Place, run: SystemRun, day: number, changed: ReadonlySet<string>, counterL: number): Fact[] {
  const { siteId, site, first } = place
  const date = addDays(first, day)
  const visitId = demoId('sim-visit', run.key, day)
  const begins = instantAt(DEMO_FIRM.timeZone, date, VISIT_BEGINS_MIN).getTime()
  let seq = 0
  const base = (name: string) => {
    seq += 1
    const at = new Date(begins + 2 * seq * MINUTE_MS).toISOString()
    return { id: demoId('sim-fact', run.key, day, name), at, seq, siteId, visitId, supersedes: null, voided: false }
  }
  const water = (kind: 'untreated' | 'treated', value: number): Fact => ({
    ...base(kind),
    kind: 'tds-reading',
    systemId: run.systemId,
    phase: 'before',
    water: kind,
    display: Number(value.toFixed(value < 100 ? 1 : 0)),
    multiplier: 1,
    quantity: 'tds',
    scale: 0.5,
    compensated: true,
    temperatureC: null,
    settled: true,
    keptDespiteDoubt: false,
  })
  const gauges = (stageId: string | null, reading: Omit<SimReading, 'day'>, counter: number | null): Fact => ({
    ...base(`gauges-${stageId ?? 'system'}`),
    kind: 'stage-reading',
    systemId: run.systemId,
    stageId,
    phase: 'before',
    counterL: counter,
    counterStartedOver: false,
    inKpa: round(reading.inKpa, 0),
    outKpa: round(reading.outKpa, 0),
    flowLMin: null,
    cleanFlowLMin: null,
    chlorineAfterMgL: round(reading.chlorineAfterMgL, 2),
    lampHours: reading.lampHours ?? null,
    intensityPercent: round(reading.intensityPercent, 0),
    productLMin: round(reading.productLMin, 3),
    waterC: round(reading.waterC, 1),
  })
  const facts: Fact[] = [
    {
      ...base('begun'),
      kind: 'visit-begun',
      stopId: null,
      systemId: run.systemId,
      trainVersion: 1,
      engineVersion: 1,
      tasks: run.stages.filter(({ id }) => changed.has(id)).map(({ id }) => ({ stage: id, action: 'change' as const })),
    },
    gauges(null, {}, Math.round(counterL)),
  ]
  const membrane = run.stages.find(({ plan }) => plan.media === 'membrane')
  const seen = run.stages.map((stage) => ({ stage, reading: readPart(rng, site, stage.sim, stage.part, day, false) }))
  const pair = seen.find(({ stage }) => stage === membrane)?.reading
  const feed = pair?.feedTdsMgL ?? site.feedTdsMgL * Math.exp(0.04 * rng.normal())
  facts.push(water('untreated', feed), water('treated', pair?.productTdsMgL ?? feed * rng.between(0.96, 1.0)))
  for (const { stage, reading } of seen) {
    const { feedTdsMgL: _, productTdsMgL: __, day: ___, ...rest } = reading
    if (Object.keys(rest).length > 0 && stage.part.fittedDay < day) facts.push(gauges(stage.id, rest, null))
  }
  run.stages.forEach((stage, index) => {
    if (!changed.has(stage.id)) return
    const known = ratedOf(stage.plan)
    if (!known) return
    const share = lifeUsed(stage.part)
    if (day > 0) {
      const found = gradeOf(rng, share)
      facts.push({
        ...base(`removed-${index}`),
        kind: 'part-removed',
        stageId: stage.id,
        found,
        dirtPast: stage.plan.media === 'sediment' ? share > 1.6 : null,
      })
    }
    const { days, litres, milliequivalents, hours } = stage.sim.rated
    facts.push({
      ...base(`fitted-${index}`),
      kind: 'part-fitted',
      stageId: stage.id,
      partId: known.partId,
      partNumber: known.partNumber,
      position: index + 1,
      dateKnown: true,
      markText: markText({
        position: index + 1,
        partNumber: known.partNumber,
        day: date,
        person: place.by === 'tam' ? 'Tam Orrin' : 'Wren Adeyo',
      }),
      rated: { days: days ?? null, litres: litres ?? null, milliequivalents: milliequivalents ?? null, hours: hours ?? null },
    })
  })
  facts.push({ ...base('finished'), kind: 'visit-finished', outcome: 'done', monitorReset: null, customerTold: true, note: '' })
  return facts
}

/** Runs one system through its three years; the technician follows habit and never sees the truth. */
function runSystem(rng: Rng, place: Place, run: SystemRun): Fact[] {
  const { site } = place
  const facts = visitFacts(rng, place, run, 0, new Set(run.stages.map(({ id }) => id)), 0)
  const everyDays = rng.between(70, 150)
  let visit = Math.round(everyDays * rng.between(0.5, 1.2))
  let counterL = 0
  for (let day = 0; day < DAYS - 2; day++) {
    const before = run.stages[0]?.part.litres ?? 0
    for (const { sim, part } of run.stages) liveDay(rng, site, sim, part, day)
    counterL += Math.max(0, (run.stages[0]?.part.litres ?? 0) - before)
    if (day + 1 < visit) continue
    const due = run.stages.filter(({ part, changeAfter }) => day + 1 - part.fittedDay >= changeAfter - everyDays / 2)
    facts.push(...visitFacts(rng, place, run, day + 1, new Set(due.map(({ id }) => id)), counterL))
    for (const stage of due) {
      stage.part = newPart(rng, site, stage.sim, USUAL_SPREAD, day + 1)
      stage.changeAfter = habit(rng, site, stage.sim)
    }
    visit = day + 1 + Math.round(everyDays * rng.between(0.7, 1.3))
  }
  return facts
}

/** Day numbers of a yearly closing, within the run and a year beyond it. */
function closedStays(first: string, [from, to]: [number, number]): SimSite['closed'] {
  const stays: SimSite['closed'] = []
  const start = dayOfYear(first)
  for (let year = -1; year < 5; year++) {
    const shut = from - start + year * 365
    const open = to - start + (to > from ? year : year + 1) * 365
    if (open > 0) stays.push({ from: Math.max(0, shut), to: open, share: 0 })
  }
  return stays
}

async function writeCustomer(scope: FirmScope, customer: DemoCustomer, index: number, first: string): Promise<Written[]> {
  const rng = seeded(SEED + index)
  const siteId = demoId('sim-site', index)
  const closed = customer.closed ? closedStays(first, customer.closed) : []
  const drawn = drawSite(rng, USUAL_SPREAD, DAYS + 400, { people: customer.people, source: customer.source, closed })
  const { name, village, island, contact, people, source } = customer
  await scope.insert(Site, {
    id: siteId,
    name,
    village,
    island,
    access: '',
    contact,
    phone: `Skellan ${300 + index}`,
    people,
    source,
    chlorineMgL: drawn.chlorineMgL,
    version: 1,
  })
  await scope.insert(
    Occupancy,
    closed.map(({ from, to, share }, n) => ({
      id: demoId('sim-closed', index, n),
      siteId,
      fromDay: addDays(first, from),
      toDay: addDays(first, to),
      share,
    })),
  )
  const place: Place = { customer, siteId, site: drawn, first, by: source === 'municipal' ? 'tam' : 'wren' }
  const written: Written[] = []
  for (const [n, { name: systemName, family: familyName }] of customer.systems.entries()) {
    const key = `${index}/${n}`
    const family: Family = FAMILIES[familyName]
    const systemId = demoId('sim-system', key)
    const wholeHouse = WHOLE_HOUSE.some((outlet) => outlet === family.outlet)
    const stages = family.stages.map((plan, at) => {
      const sim: SimStage = {
        media: plan.media,
        rated: ratedOf(plan)?.rated ?? {},
        wholeHouse,
        siteFactor: rng.spread(USUAL_SPREAD.siteCv),
      }
      return {
        id: demoId('sim-stage', key, at),
        plan,
        sim,
        part: newPart(rng, drawn, sim, USUAL_SPREAD, 0),
        changeAfter: habit(rng, drawn, sim),
      }
    })
    await scope.insert(System, { id: systemId, siteId, name: systemName, trainVersion: 1 })
    const ids = stages.map(({ id }) => id)
    await scope.insert(TrainVersion, { systemId, version: 1, train: familyTrain(family, ids) })
    await scope.insert(
      Stage,
      stages.map(({ id, plan }) => ({ id, systemId, nextPartId: ratedOf(plan)?.partId ?? null })),
    )
    written.push({ personId: demoId('person', place.by), facts: runSystem(rng, place, { key, systemId, family, stages }) })
  }
  return written
}

/** Twenty-seven customers with three years of visits, changes and readings by the simulator; the same world every time but for its dates. */
export async function writeSimulated(scope: FirmScope, today: string): Promise<void> {
  const first = addDays(today, -DAYS)
  const all: Written[] = []
  for (const [index, customer] of DEMO_CUSTOMERS.entries()) all.push(...(await writeCustomer(scope, customer, index, first)))
  await writeFacts(scope, all, DEMO_ORIGIN)
}
