import type { SimSite } from '@evenround/core/simulate'
import { familyTrain } from '@evenround/core/train'
import { addDays, dayOfYear } from '@evenround/core/units'
import { type Fact, markText, NOTHING_READ } from '@evenround/core/visit'
import { Site, Stage, System, TrainVersion } from '../db/entities/master'
import { Occupancy } from '../db/entities/wear'
import type { FirmScope } from '../db/scope'
import { type Written, writeFacts } from '../features/facts/write'
import { instantAt } from '../time/zone'
import { DEMO_CUSTOMERS, type DemoCustomer } from './customers'
import { DEMO_ORIGIN } from './history'
import { demoId } from './ids'
import { DAYS, type Gauges, knownPart, lifeOf, type SeenVisit } from './lives'
import { DEMO_FIRM } from './world'

const VISIT_BEGINS_MIN = 555
const MINUTE_MS = 60_000

interface Place {
  siteId: string
  first: string
  by: 'tam' | 'wren'
}

/** A system of the demo, by its ids. */
interface Shown {
  key: string
  systemId: string
  stageIds: readonly string[]
}

const round = (value: number | undefined, digits: number): number | null => (value === undefined ? null : Number(value.toFixed(digits)))

/** One visit's facts: readings before, parts changed with what was found, the end. */
function visitFacts({ siteId, first, by }: Place, { key, systemId, stageIds }: Shown, seen: SeenVisit): Fact[] {
  const date = addDays(first, seen.day)
  const visitId = demoId('sim-visit', key, seen.day)
  const begins = instantAt(DEMO_FIRM.timeZone, date, VISIT_BEGINS_MIN).getTime()
  const idOf = (stage: number): string => stageIds[stage] as string
  let seq = 0
  const base = (name: string) => {
    seq += 1
    const at = new Date(begins + 2 * seq * MINUTE_MS).toISOString()
    return { id: demoId('sim-fact', key, seen.day, name), at, seq, siteId, visitId, supersedes: null, voided: false }
  }
  const water = (kind: 'untreated' | 'treated', value: number): Fact => ({
    ...base(kind),
    kind: 'tds-reading',
    systemId,
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
  const gauges = (stageId: string | null, reading: Gauges, counter: number | null): Fact => ({
    ...base(`gauges-${stageId ?? 'system'}`),
    kind: 'stage-reading',
    systemId,
    stageId,
    phase: 'before',
    ...NOTHING_READ,
    counterL: counter,
    inKpa: round(reading.inKpa, 0),
    outKpa: round(reading.outKpa, 0),
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
      systemId,
      trainVersion: 1,
      engineVersion: 1,
      tasks: seen.changes.map(({ stage }) => ({ stage: idOf(stage), action: 'change' as const })),
      place: null,
    },
    gauges(null, {}, seen.counterL),
    water('untreated', seen.untreatedMgL),
    water('treated', seen.treatedMgL),
    ...seen.gauges.map(({ stage, reading }) => gauges(idOf(stage), reading, null)),
  ]
  for (const { stage, part, out } of seen.changes) {
    const { days, litres, milliequivalents, hours } = part.rated
    const { partId, partNumber } = part
    if (out !== null) facts.push({ ...base(`removed-${stage}`), kind: 'part-removed', stageId: idOf(stage), ...out })
    facts.push({
      ...base(`fitted-${stage}`),
      kind: 'part-fitted',
      stageId: idOf(stage),
      partId,
      partNumber,
      position: stage + 1,
      dateKnown: true,
      markText: markText({ position: stage + 1, partNumber, day: date, person: by === 'tam' ? 'Tam Orrin' : 'Wren Adeyo' }),
      rated: { days: days ?? null, litres: litres ?? null, milliequivalents: milliequivalents ?? null, hours: hours ?? null },
    })
  }
  // Somebody's hands, not the sheet's: so much to begin with, so much for each part.
  const lasted = Math.max(2 * (seq + 1), 11 + 8 * seen.changes.length + (seen.day % 6))
  facts.push({
    ...base('finished'),
    at: new Date(begins + lasted * MINUTE_MS).toISOString(),
    kind: 'visit-finished',
    outcome: 'done',
    monitorReset: null,
    customerTold: true,
    note: '',
    leftStanding: [],
    notRight: [],
  })
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

/** What a customer adds to the tables. */
interface Rows {
  sites: Partial<Site>[]
  stays: Partial<Occupancy>[]
  systems: Partial<System>[]
  trains: Partial<TrainVersion>[]
  stages: Partial<Stage>[]
  facts: Written[]
}

function addCustomer(rows: Rows, customer: DemoCustomer, index: number, first: string): void {
  const siteId = demoId('sim-site', index)
  const closed = customer.closed ? closedStays(first, customer.closed) : []
  const life = lifeOf(customer, index, closed)
  const { name, village, island, contact, people, source } = customer
  rows.sites.push({
    id: siteId,
    name,
    village,
    island,
    access: '',
    contact,
    phone: `Skellan ${300 + index}`,
    people,
    source,
    chlorineMgL: life.chlorineMgL,
    version: 1,
  })
  for (const [n, { from, to, share }] of closed.entries())
    rows.stays.push({ id: demoId('sim-closed', index, n), siteId, fromDay: addDays(first, from), toDay: addDays(first, to), share })
  const place: Place = { siteId, first, by: source === 'municipal' ? 'tam' : 'wren' }
  for (const [n, { name: systemName, family, visits }] of life.systems.entries()) {
    const key = `${index}/${n}`
    const systemId = demoId('sim-system', key)
    const stageIds = family.stages.map((_, at) => demoId('sim-stage', key, at))
    rows.systems.push({ id: systemId, siteId, name: systemName, trainVersion: 1 })
    rows.trains.push({ systemId, version: 1, train: familyTrain(family, stageIds) })
    for (const [at, plan] of family.stages.entries())
      rows.stages.push({ id: stageIds[at] as string, systemId, nextPartId: knownPart(plan)?.partId ?? null })
    const facts = visits.flatMap((seen) => visitFacts(place, { key, systemId, stageIds }, seen))
    rows.facts.push({ personId: demoId('person', place.by), facts })
  }
}

/** Twenty-seven customers with three years of visits, changes and readings by the simulator; the same world every time but for its dates. */
export async function writeSimulated(scope: FirmScope, today: string): Promise<void> {
  const first = addDays(today, -DAYS)
  const rows: Rows = { sites: [], stays: [], systems: [], trains: [], stages: [], facts: [] }
  for (const [index, customer] of DEMO_CUSTOMERS.entries()) addCustomer(rows, customer, index, first)
  await scope.insertMany(Site, rows.sites)
  await scope.insertMany(Occupancy, rows.stays)
  await scope.insertMany(System, rows.systems)
  await scope.insertMany(TrainVersion, rows.trains)
  await scope.insertMany(Stage, rows.stages)
  await writeFacts(scope, rows.facts, DEMO_ORIGIN)
}
