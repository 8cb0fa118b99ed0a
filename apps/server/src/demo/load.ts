import type { Units } from '@evenround/contract/firm'
import { FAMILIES, type Family, familyTrain } from '@evenround/core/train'
import { summarise, USUAL_RULE } from '@evenround/core/wear'
import type { DataSource } from 'typeorm'
import { PartEquivalent } from '../db/entities/catalogue'
import { Firm, Part, Site, Stage, System, TrainVersion } from '../db/entities/master'
import { DueRuleRow, StatedUseRow } from '../db/entities/wear'
import { type FirmScope, firmScopes } from '../db/scope'
import { addPerson } from '../features/firm/people'
import { addDevice } from '../features/telemetry/store'
import { refreshFirm } from '../features/wear/refresh'
import { markFirm } from '../features/wear/stale'
import { dayIn } from '../time/zone'
import { DEMO_EQUIVALENTS, DEMO_PARTS, partFor, ratedColumns } from './catalogue'
import { demoDeviceKey, demoDevices } from './devices'
import { writeDisinfections } from './disinfections'
import { writeHistory } from './history'
import { demoId } from './ids'
import { writeSimulated } from './simulated'
import { writeStops } from './stops'
import { writeTimes } from './times'
import { DEFAULT_SCHOOLS, DEMO_FIRM, DEMO_PASSWORD, DEMO_PEOPLE, DEMO_SITES, type DemoSite } from './world'

export const DEMO_FIRM_ID = demoId('firm')

export const DEFAULT_UNITS: Units = { volume: 'L', pressure: 'kPa', temperature: 'C' }

export async function writeSite(scope: FirmScope, site: DemoSite, today: string): Promise<void> {
  const family: Family = FAMILIES[site.family]
  const { key, name, village, island, access, contact, phone, people, source, chlorineMgL, kind = 'home' } = site
  const siteId = demoId('site', key)
  const systemId = demoId('system', key)
  const stageIds = family.stages.map((_, index) => demoId('stage', key, index + 1))
  await scope.insert(Site, { id: siteId, name, village, island, access, contact, phone, people, source, chlorineMgL, kind, version: 1 })
  if (site.contract) {
    const { months, except } = site.contract
    await scope.insert(DueRuleRow, { level: 'site', about: siteId, ...USUAL_RULE, by: 'contract', months })
    const others = except.map((position) => ({ level: 'stage' as const, about: stageIds[position - 1] as string, ...USUAL_RULE }))
    await scope.insert(DueRuleRow, others)
  }
  if (site.use) await scope.insert(StatedUseRow, { level: 'system', about: systemId, ...site.use })
  await scope.insert(System, { id: systemId, siteId, name: site.system, trainVersion: 1 })
  await scope.insert(TrainVersion, { systemId, version: 1, train: familyTrain(family, stageIds) })
  const stages = family.stages.map((stage, index) => {
    const next = partFor(stage.media, stage.housing, stage.washable === true)
    return { id: stageIds[index] as string, systemId, nextPartId: next ? demoId('part', next.partNumber) : null }
  })
  await scope.insert(Stage, stages)
  await writeHistory({ scope, today }, site, family.stages)
}

/** Writes the whole demo world, dated from `now`, in one transaction. */
export async function loadDemo(source: DataSource, now: Date, newId: () => string): Promise<void> {
  const today = dayIn(DEMO_FIRM.timeZone, now)
  await firmScopes(source)(DEMO_FIRM_ID, async (scope) => {
    await scope.insert(Firm, { ...DEMO_FIRM, gallon: 'us', units: DEFAULT_UNITS, schools: DEFAULT_SCHOOLS, version: 1 })
    for (const { key, skills, ...person } of DEMO_PEOPLE) {
      await addPerson(scope, { ...person, skills: [...skills], id: demoId('person', key), password: DEMO_PASSWORD }, now, newId)
    }
    await scope.insert(
      Part,
      DEMO_PARTS.map((entry) => {
        const { partNumber, maker, name, media, housing, priceMinor } = entry
        return { id: demoId('part', partNumber), partNumber, maker, name, media, housing, priceMinor, ...ratedColumns(entry), version: 1 }
      }),
    )
    const pairs = DEMO_EQUIVALENTS.map((pair) => pair.map((partNumber) => demoId('part', partNumber)).sort())
    await scope.insert(
      PartEquivalent,
      pairs.map(([partId, otherId]) => ({ partId: partId as string, otherId: otherId as string })),
    )
    for (const site of DEMO_SITES) await writeSite(scope, site, today)
    await writeSimulated(scope, today)
    await writeTimes(scope, today)
    await writeStops(scope, today)
    await writeDisinfections(scope, today, now)
    for (const { id, systemId, name, kind } of demoDevices(0)) await addDevice(scope, { id, systemId, name, kind }, demoDeviceKey(id))
    await markFirm(scope, now)
  })
  const inFirm = firmScopes(source)
  await refreshFirm({ inFirm, now: () => now, summarise: async (stages) => stages.map(summarise) }, DEMO_FIRM_ID)
}

/** The day the demo was dated from; null where it is not loaded. */
export async function demoDay(source: DataSource): Promise<string | null> {
  return firmScopes(source)(DEMO_FIRM_ID, async (scope) => {
    const [row] = await scope.query<{ day: string | null }>('select min(day) as day from stop where firm_id = $1 and job_id is null')
    return row?.day ?? null
  })
}
