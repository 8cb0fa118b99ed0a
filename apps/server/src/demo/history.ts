import type { FamilyStage } from '@evenround/core/train'
import { addDays } from '@evenround/core/units'
import { type Fact, markText, type PartFitted } from '@evenround/core/visit'
import { FACT_TABLES, FactReceipt } from '../db/entities/facts'
import type { FirmScope } from '../db/scope'
import { writeFacts } from '../features/facts/write'
import { instantAt } from '../time/zone'
import { partFor, ratedColumns } from './catalogue'
import { demoId } from './ids'
import { workMinutes } from './stops'
import { DEMO_FIRM, DEMO_PEOPLE, type DemoSite, type DemoVisit } from './world'

/** Past visits begin at half past nine. */
const BEGIN_MIN = 570
const DEVICE = demoId('device')

interface Writer {
  scope: FirmScope
  today: string
}

/** The past is written as one device's. */
export const DEMO_ORIGIN = { deviceId: DEVICE, from: 'demo', arrivedAt: null } as const

/** A visit takes what its work takes, a few minutes more or less: never the same twice. */
const lastedMin = ({ key }: DemoSite, { ago, changed }: DemoVisit): number => {
  const tasks = changed.map((position) => ({ stage: demoId('stage', key, position), action: 'change' as const }))
  return Math.max(30, workMinutes(key, tasks) - 3 + ((ago * 7) % 9))
}

function visitFacts(site: DemoSite, stages: readonly FamilyStage[], visit: DemoVisit, today: string): Fact[] {
  const day = addDays(today, -visit.ago)
  const siteId = demoId('site', site.key)
  const visitId = demoId('visit', site.key, visit.ago)
  const systemId = demoId('system', site.key)
  let seq = 0
  const base = (name: string, minute: number) => {
    seq += 1
    const at = instantAt(DEMO_FIRM.timeZone, day, BEGIN_MIN + minute).toISOString()
    return { id: demoId('fact', site.key, visit.ago, name), at, seq, siteId, visitId, supersedes: null, voided: false }
  }
  const reading = (phase: 'before' | 'after', water: 'untreated' | 'treated', value: number, minute: number): Fact => ({
    ...base(`${phase}-${water}`, minute),
    kind: 'tds-reading',
    systemId,
    phase,
    water,
    display: value,
    multiplier: 1,
    quantity: 'tds',
    scale: 0.5,
    compensated: true,
    temperatureC: 12,
    settled: true,
    keptDespiteDoubt: false,
  })
  const person = DEMO_PEOPLE.find(({ key }) => key === (visit.by ?? 'tam'))
  const fitted = (position: number): Fact[] => {
    const stage = stages[position - 1]
    const part = stage ? partFor(stage.media, stage.housing, stage.washable === true) : null
    if (!stage || !part) return []
    const { ratedDays: days, ratedLitres: litres, ratedMilliequivalents: milliequivalents, ratedHours: hours } = ratedColumns(part)
    const stageId = demoId('stage', site.key, position)
    const one: PartFitted = {
      ...base(`fitted-${position}`, 20 + position),
      kind: 'part-fitted',
      stageId,
      partId: demoId('part', part.partNumber),
      partNumber: part.partNumber,
      position,
      dateKnown: true,
      markText: markText({ position, partNumber: part.partNumber, day, person: person?.name ?? '' }),
      rated: { days, litres, milliequivalents, hours },
    }
    // What was never fitted before cannot come out.
    const there = site.visits.some(({ ago, changed }) => ago > visit.ago && changed.includes(position))
    if (!visit.found || !there) return [one]
    return [
      {
        ...base(`removed-${position}`, 15 + position),
        kind: 'part-removed',
        stageId,
        found: visit.found,
        dirtPast: visit.found === 'spent',
      },
      one,
    ]
  }
  const lasted = lastedMin(site, visit)
  return [
    {
      ...base('begun', 0),
      kind: 'visit-begun',
      stopId: null,
      systemId,
      trainVersion: 1,
      engineVersion: 1,
      tasks: visit.changed.map((position) => ({ stage: demoId('stage', site.key, position), action: 'change' as const })),
      place: null,
    },
    reading('before', 'untreated', visit.before[0], 3),
    reading('before', 'treated', visit.before[1], 5),
    ...visit.changed.flatMap(fitted),
    reading('after', 'untreated', visit.after[0], lasted - 7),
    reading('after', 'treated', visit.after[1], lasted - 5),
    {
      ...base('finished', lasted),
      kind: 'visit-finished',
      outcome: 'done',
      monitorReset: null,
      customerTold: true,
      note: visit.note ?? '',
      leftStanding: [],
      notRight: [],
    },
  ]
}

/** Writes the past of one site: visits, readings, parts, and a hold that is still on. */
export async function writeHistory({ scope, today }: Writer, site: DemoSite, stages: readonly FamilyStage[]): Promise<void> {
  for (const visit of site.visits) {
    await writeFacts(scope, [{ personId: demoId('person', visit.by ?? 'tam'), facts: visitFacts(site, stages, visit, today) }], DEMO_ORIGIN)
  }
  const last = site.visits.at(-1)
  if (!site.hold || !last) return
  const id = demoId('hold', site.key)
  const at = instantAt(DEMO_FIRM.timeZone, addDays(today, -last.ago), BEGIN_MIN + 50)
  const shared = {
    id,
    arrivedAt: at,
    personId: demoId('person', last.by ?? 'tam'),
    deviceId: DEVICE,
    visitId: demoId('visit', site.key, last.ago),
    flags: [],
  }
  await scope.insert(FactReceipt, { ...shared, kind: 'hold-begun', bodyHash: 'demo' })
  await scope.insert(FACT_TABLES['hold-begun'], {
    ...shared,
    at,
    seq: 99,
    siteId: demoId('site', site.key),
    supersedes: null,
    voided: false,
    holdKind: site.hold.kind,
    until: null,
    text: site.hold.text,
  })
}
