import type { Fact, FactKind } from '@evenround/core/visit'
import { In } from 'typeorm'
import { Site } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { writeFacts } from '../facts/write'
import { counting } from '../records/counting'
import { storedFact } from '../records/map'
import { storedRows } from '../records/rows'
import { markSystems } from '../wear/stale'

/** What a list can have made. */
const KINDS = ['part-fitted', 'tds-reading', 'stage-reading'] as const

interface Undoing {
  intakeId: string
  at: Date
  personId: string
  deviceId: string
  now: Date
  newId: () => string
}

/** Systems the list touched, with whether anybody did something there since. */
const SYSTEMS = `
with own as (
  select id from system where firm_id = $1 and intake_id = $2
  union select system_id from fact_tds_reading where firm_id = $1 and device_id = $2
  union select system_id from fact_stage_reading where firm_id = $1 and device_id = $2
  union select stage.system_id from fact_part_fitted f join stage on stage.firm_id = f.firm_id and stage.id = f.stage_id
    where f.firm_id = $1 and f.device_id = $2),
later as (
  select system_id from fact_visit_begun where firm_id = $1 and arrived_at >= $3 and device_id <> $2
  union select system_id from fact_tds_reading where firm_id = $1 and arrived_at >= $3 and device_id <> $2
  union select system_id from fact_stage_reading where firm_id = $1 and arrived_at >= $3 and device_id <> $2
  union select stage.system_id from fact_part_fitted f join stage on stage.firm_id = f.firm_id and stage.id = f.stage_id
    where f.firm_id = $1 and f.arrived_at >= $3 and f.device_id <> $2
  union select system_id from stop where firm_id = $1
  union select system_id from device where firm_id = $1)
select y.id, y.site_id, y.intake_id = $2 as made, exists (select 1 from later where later.system_id = y.id) as touched
from system y where y.firm_id = $1 and y.id in (select id from own)`

interface SystemRow {
  id: string
  site_id: string
  /** Null for a system that was there before any list. */
  made: boolean | null
  touched: boolean
}

/** Takes back the list's own facts at these systems, each by a fact that supersedes it. */
async function voidFacts(
  scope: FirmScope,
  systems: ReadonlySet<string>,
  { intakeId, personId, deviceId, now, newId }: Undoing,
): Promise<void> {
  const stageOf = new Map(
    (await scope.query<{ id: string; system_id: string }>('select id, system_id from stage where firm_id = $1')).map((row) => [
      row.id,
      row.system_id,
    ]),
  )
  const facts: Fact[] = []
  for (const kind of KINDS) {
    const table = kind === 'part-fitted' ? 'fact_part_fitted' : kind === 'tds-reading' ? 'fact_tds_reading' : 'fact_stage_reading'
    const counted = new Set(
      (
        await scope.query<{ id: string }>(`select f.id from ${table} f where f.firm_id = $1 and f.device_id = $2 and ${counting(table)}`, [
          intakeId,
        ])
      ).map(({ id }) => id),
    )
    for (const row of await storedRows(scope, kind, { deviceId: intakeId })) {
      const { fact } = storedFact<FactKind>(kind, row)
      const systemId = fact.kind === 'part-fitted' ? stageOf.get(fact.stageId) : 'systemId' in fact ? fact.systemId : undefined
      if (counted.has(fact.id) && systemId !== undefined && systems.has(systemId))
        facts.push({ ...fact, id: newId(), seq: facts.length, supersedes: fact.id, voided: true } as Fact)
    }
  }
  await writeFacts(scope, [{ personId, facts }], { deviceId, from: 'intake-undone', arrivedAt: now })
}

/**
 * Takes a list back. Where somebody worked since, what it brought stays, and the names of those sites come back: a visit must not
 * lose the part it found. Everything else is voided, and sites and systems that only the list knew are gone from all screens.
 */
export async function takeBack(scope: FirmScope, undoing: Undoing): Promise<string[]> {
  const { intakeId, at, now } = undoing
  const systems = await scope.query<SystemRow>(SYSTEMS, [intakeId, at])
  const free = systems.filter(({ touched }) => !touched)
  await voidFacts(scope, new Set(free.map(({ id }) => id)), undoing)
  await scope.query('update system set gone_at = $3 where firm_id = $1 and intake_id = $2 and id = any($4)', [
    intakeId,
    now,
    free.filter(({ made }) => made === true).map(({ id }) => id),
  ])
  // A site the list made goes with its last system, unless somebody edited it or hung another system there.
  await scope.query(
    `update site set gone_at = $3 where firm_id = $1 and intake_id = $2 and version = 1 and not exists (
       select 1 from system where system.firm_id = site.firm_id and system.site_id = site.id and system.gone_at is null)`,
    [intakeId, now],
  )
  await markSystems(
    scope,
    now,
    free.map(({ id }) => id),
  )
  const touched = await scope.find(Site, { id: In(systems.filter((row) => row.touched).map(({ site_id }) => site_id)) }, { name: 'ASC' })
  const edited = await scope.find(Site, { intakeId }, { name: 'ASC' })
  const standing = edited.filter(({ goneAt }) => goneAt === null)
  return [...new Set([...touched, ...standing].map(({ name }) => name))]
}
