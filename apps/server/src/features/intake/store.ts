import { type IntakePlan, type PlannedSystem, shapeOfSystem } from '@evenround/core/intake'
import { familyTrain } from '@evenround/core/train'
import { type Fact, NOTHING_READ } from '@evenround/core/visit'
import { USUAL_RULE } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { Part, Site, Stage, System, TrainVersion } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { instantAt } from '../../time/zone'
import { writeFacts } from '../facts/write'
import { kindsOf, withFirmKinds } from '../wear/kinds'
import { grouped } from '../wear/rows'
import { chooseRule } from '../wear/rules'
import { markSystems } from '../wear/stale'

interface Writing {
  intakeId: string
  personId: string
  timeZone: string
  today: string
  now: Date
  newId: () => string
}

/** How much of the work the sites and systems are, and how many facts are written between two looks whether to go on. */
const PLACES_SHARE = 0.3
const FACTS_AT_ONCE = 1000

/** Lists know days and no hours: their facts happened at noon. */
const NOON_MIN = 720

interface Placed {
  systemId: string
  siteId: string
  stageIds: Map<number, string>
  visitId: string
}

/** Sites, systems, trains and stages of a plan; where each planned system stands now. */
async function writePlaces(
  scope: FirmScope,
  plan: IntakePlan,
  { intakeId, newId }: Writing,
): Promise<{ placed: Map<string, Placed>; siteIds: Map<string, string> }> {
  const siteIds = new Map(plan.sites.map((site) => [site.key, site.id ?? newId()]))
  const fresh = plan.sites.filter(({ id }) => id === null)
  await scope.insertMany(
    Site,
    fresh.map(({ key, id: _, ...site }) => ({ ...site, id: siteIds.get(key) as string, version: 1, intakeId })),
  )
  const parts = await scope.find(Part)
  const kinds = await kindsOf(scope)
  const fitted = new Map(plan.parts.map((part) => [`${part.systemKey} ${part.position}`, part]))
  const placed = new Map<string, Placed>()
  const rows = { systems: [] as object[], trains: [] as object[], stages: [] as object[] }
  for (const system of plan.systems) {
    const siteId = siteIds.get(system.siteKey) as string
    const systemId = system.id ?? newId()
    const stageIds = new Map(system.stages.map((stage) => [stage.position, stage.id ?? newId()]))
    placed.set(system.key, { systemId, siteId, stageIds, visitId: newId() })
    if (system.id !== null) continue
    rows.systems.push({ id: systemId, siteId, name: system.name, serialNo: system.serialNo ?? '', trainVersion: 1, intakeId })
    rows.trains.push({ systemId, version: 1, train: withFirmKinds(trainOf(system, [...stageIds.values()]), kinds) })
    for (const stage of system.stages) {
      const planned = fitted.get(`${system.key} ${stage.position}`)
      const usual = parts.find((part) => part.media === stage.media && part.housing === stage.housing)
      rows.stages.push({ id: stageIds.get(stage.position) as string, systemId, nextPartId: planned?.partId ?? usual?.id ?? null })
    }
  }
  await scope.insertMany(System, rows.systems)
  await scope.insertMany(TrainVersion, rows.trains)
  await scope.insertMany(Stage, rows.stages)
  return { placed, siteIds }
}

/**
 * The rules of the day to change that the list says: of a whole system where all its lines say the same, else of the part a line speaks
 * of; of the site where a line names no system. A month of the year counts from its first day.
 */
async function writeContracts(
  scope: FirmScope,
  { contracts }: IntakePlan,
  placed: ReadonlyMap<string, Placed>,
  siteIds: ReadonlyMap<string, string>,
  { today, now }: Writing,
): Promise<void> {
  for (const [key, own] of grouped(contracts, ({ siteKey, systemKey }) => systemKey ?? siteKey)) {
    const place = placed.get(key)
    const alike = own.every(({ months, month }) => months === own[0]?.months && month === own[0]?.month)
    for (const { siteKey, position, months, month } of alike ? own.slice(0, 1) : own) {
      const stageId = alike || position === null ? undefined : place?.stageIds.get(position)
      const [level, about] = place
        ? stageId === undefined
          ? (['system', place.systemId] as const)
          : (['stage', stageId] as const)
        : (['site', siteIds.get(siteKey) as string] as const)
      const anchor = month === null ? null : `${today.slice(0, 4)}-${String(month).padStart(2, '0')}-01`
      await chooseRule(scope, { level, about, rule: { ...USUAL_RULE, by: 'contract', months, anchor } }, now)
    }
  }
}

/** Nobody of us has stood before it: its inlets are asked for at the first visit. */
const trainOf = (system: PlannedSystem, stageIds: readonly string[]) => familyTrain(shapeOfSystem(system), stageIds, false)

function factsOf(plan: IntakePlan, placed: ReadonlyMap<string, Placed>, { timeZone, today, newId }: Writing): Fact[] {
  const facts: Fact[] = []
  // A list speaks of a few hundred days in thousands of lines.
  const noons = new Map<string, number>()
  const noonOf = (day: string): number => {
    const known = noons.get(day) ?? instantAt(timeZone, day, NOON_MIN).getTime()
    noons.set(day, known)
    return known
  }
  const base = (place: Placed, day: string, minute = 0) => ({
    id: newId(),
    at: new Date(noonOf(day) + minute * 60_000).toISOString(),
    seq: facts.length,
    siteId: place.siteId,
    visitId: place.visitId,
    supersedes: null,
    voided: false,
  })
  for (const part of plan.parts) {
    const place = placed.get(part.systemKey) as Placed
    const day = part.fittedOn ?? today
    facts.push({
      ...base(place, day),
      kind: 'part-fitted',
      stageId: place.stageIds.get(part.position) as string,
      partId: part.partId,
      partNumber: part.partNumber,
      position: part.position,
      markText: say`from a list`,
      dateKnown: part.fittedOn !== null,
      rated: part.rated,
    })
  }
  const fittings = new Set(plan.parts.map(({ systemKey, fittedOn }) => `${systemKey} ${fittedOn}`))
  for (const reading of plan.readings) {
    // On the day of a fitting the list gives what the new parts make; on any other what the old ones still do.
    const phase = fittings.has(`${reading.systemKey} ${reading.on}`) ? ('after' as const) : ('before' as const)
    const place = placed.get(reading.systemKey) as Placed
    // Readings of one line share a visit of their own, so that a pair is a pair and two days are two.
    const own = { ...place, visitId: newId() }
    for (const water of ['untreated', 'treated'] as const) {
      const one = reading[water]
      if (one === undefined) continue
      facts.push({
        ...base(own, reading.on, 1),
        kind: 'tds-reading',
        systemId: place.systemId,
        phase,
        water,
        display: one.value,
        multiplier: 1,
        quantity: one.quantity,
        scale: 0.5,
        compensated: true,
        temperatureC: null,
        settled: true,
        keptDespiteDoubt: false,
      })
    }
    const { counterL, inKpa, outKpa, flowLMin, lampHours } = reading
    const shared = { ...NOTHING_READ, kind: 'stage-reading' as const, systemId: place.systemId, phase }
    if (counterL !== undefined) facts.push({ ...base(own, reading.on, 1), ...shared, stageId: null, counterL })
    if (reading.position !== null)
      facts.push({
        ...base(own, reading.on, 1),
        ...shared,
        stageId: place.stageIds.get(reading.position) as string,
        inKpa: inKpa ?? null,
        outKpa: outKpa ?? null,
        flowLMin: flowLMin ?? null,
        lampHours: lampHours ?? null,
      })
  }
  return facts
}

/** Writes a whole plan in the transaction of the scope: all of it stands, or nothing does. */
export async function writeIntake(
  scope: FirmScope,
  plan: IntakePlan,
  writing: Writing,
  onShare: (share: number) => Promise<void> = async () => undefined,
): Promise<void> {
  const { placed, siteIds } = await writePlaces(scope, plan, writing)
  await onShare(PLACES_SHARE)
  await writeContracts(scope, plan, placed, siteIds, writing)
  const facts = factsOf(plan, placed, writing)
  const { intakeId, personId, now } = writing
  for (let at = 0; at < facts.length; at += FACTS_AT_ONCE) {
    await writeFacts(scope, [{ personId, facts: facts.slice(at, at + FACTS_AT_ONCE) }], {
      deviceId: intakeId,
      from: 'intake',
      arrivedAt: now,
    })
    await onShare(PLACES_SHARE + ((1 - PLACES_SHARE) * Math.min(facts.length, at + FACTS_AT_ONCE)) / facts.length)
  }
  await markSystems(
    scope,
    now,
    [...placed.values()].map(({ systemId }) => systemId),
  )
}
