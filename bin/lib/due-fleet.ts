// Twenty thousand systems with a million readings, written as the rows the server would have written.

import { seeded } from '@evenround/core/simulate'
import { FAMILIES, familyTrain } from '@evenround/core/train'
import type { Client } from 'pg'

export const SYSTEMS = 20_000
export const READINGS = 1_000_000
const BATCH = 1000
const DAY_MS = 86_400_000
const ISLANDS = ['Great Skellan', 'Little Skellan', 'Thrawn', 'Murrow Holm', 'The Anvil']

const id = (kind: number, n: number): string =>
  `0190${kind.toString(16).padStart(4, '0')}-0000-7000-8000-${n.toString(16).padStart(12, '0')}`

interface Columns {
  [type: string]: unknown[]
}
/** One insert a batch: columns as arrays, so that a thousand rows are one statement. */
async function insert(client: Client, table: string, names: string, columns: Columns[], constants = ''): Promise<void> {
  const arrays = columns.flatMap((column) => Object.entries(column))
  const places = arrays.map(([type], index) => `$${index + 1}::${type}[]`).join(', ')
  await client.query(
    `insert into ${table} (${names}) select u.*${constants} from unnest(${places}) u`,
    arrays.map(([, values]) => values),
  )
}

/** Fills the firm; `personId` is who measured. Returns how many stages there are. */
export async function fillFirm(client: Client, firmId: string, personId: string, now: Date, systems = SYSTEMS): Promise<number> {
  const rng = seeded(42)
  const family = FAMILIES['under-sink-3']
  const stages = family.stages.length
  for (let from = 0; from < systems; from += BATCH) {
    const ns = Array.from({ length: Math.min(BATCH, systems - from) }, (_, i) => from + i)
    const all = <T>(value: (n: number) => T): T[] => ns.map(value)
    await insert(client, 'site', 'firm_id, id, name, village, island, access, contact, phone, people, source, version', [
      { uuid: all(() => firmId) },
      { uuid: all((n) => id(1, n)) },
      { text: all((n) => `House ${n}`) },
      { text: all((n) => `Village ${n % 97}`) },
      { text: all((n) => ISLANDS[n % ISLANDS.length]) },
      { text: all(() => '') },
      { text: all(() => '') },
      { text: all(() => '') },
      { int: all(() => 1 + Math.floor(rng.between(0, 6))) },
      { text: all(() => 'municipal') },
      { int: all(() => 1) },
    ])
    await insert(client, 'system', 'firm_id, id, site_id, name, train_version', [
      { uuid: all(() => firmId) },
      { uuid: all((n) => id(2, n)) },
      { uuid: all((n) => id(1, n)) },
      { text: all(() => 'Kitchen') },
      { int: all(() => 1) },
    ])
    const stageIds = (n: number): string[] => family.stages.map((_, i) => id(3, n * stages + i))
    await insert(client, 'train_version', 'firm_id, system_id, version, train', [
      { uuid: all(() => firmId) },
      { uuid: all((n) => id(2, n)) },
      { int: all(() => 1) },
      { jsonb: all((n) => JSON.stringify(familyTrain(family, stageIds(n)))) },
    ])
    const each = ns.flatMap((n) => stageIds(n).map((stage, i) => ({ n, stage, i })))
    await insert(client, 'stage', 'firm_id, id, system_id', [
      { uuid: each.map(() => firmId) },
      { uuid: each.map(({ stage }) => stage) },
      { uuid: each.map(({ n }) => id(2, n)) },
    ])
    await insert(
      client,
      'fact_part_fitted',
      'firm_id, id, at, arrived_at, person_id, device_id, seq, site_id, visit_id, voided, stage_id, part_number, position, mark_text, rated_days, rated_litres, flags',
      [
        { uuid: each.map(() => firmId) },
        { uuid: each.map(({ n, i }) => id(4, n * stages + i)) },
        { timestamptz: each.map(() => new Date(now.getTime() - rng.between(10, 330) * DAY_MS)) },
        { timestamptz: each.map(() => now) },
        { uuid: each.map(() => personId) },
        { uuid: each.map(() => id(5, 1)) },
        { bigint: each.map((_, k) => k) },
        { uuid: each.map(({ n }) => id(1, n)) },
        { uuid: each.map(({ n }) => id(6, n)) },
        { boolean: each.map(() => false) },
        { uuid: each.map(({ stage }) => stage) },
        { text: each.map(({ i }) => ['BRK-SED-10', 'BRK-CB-10', 'LT-POST-5'][i] ?? 'BRK-SED-10') },
        { int: each.map(({ i }) => i + 1) },
        { text: each.map(() => 'mark') },
        { 'double precision': each.map(({ i }) => (i === 0 ? 183 : 365)) },
        { 'double precision': each.map(({ i }) => (i === 0 ? null : 2200)) },
      ],
      ", '{}'::text[]",
    )
  }
  await client.query(
    `insert into fact_stage_reading (firm_id, id, at, arrived_at, person_id, device_id, seq, site_id, visit_id, voided, flags, system_id, stage_id, phase,
       counter_started_over, counter_l, in_kpa, out_kpa)
     select $1, gen_random_uuid(), $3::timestamptz - k * interval '6 days', $3, $2, gen_random_uuid(), k, s.site_id, gen_random_uuid(), false, '{}',
       s.id, null, 'before', false, (400 - k * 6) * 9, null, null
     from system s, generate_series(0, $4 - 1) as k where s.firm_id = $1 and s.name = 'Kitchen'`,
    [firmId, personId, now, READINGS / SYSTEMS],
  )
  return systems * stages
}

/** People who drive, beside the demo's own. */
const MORE_PEOPLE = 12

/** Puts what `fillFirm` wrote at places of the firm's own land, and lets more people drive there. */
export async function layOut(client: Client, firmId: string): Promise<void> {
  await client.query(
    `with p as (select island, name, lat, lon, row_number() over (order by id) - 1 as n, count(*) over () as c from place where firm_id = $1),
          s as (select id, row_number() over (order by id) as n from site where firm_id = $1 and name like 'House %')
     update site set island = p.island, village = p.name, lat = p.lat + 0.0008 * (s.n / 100 % 3), lon = p.lon + 0.0008 * (s.n / 300 % 2)
     from s join p on p.n = s.n % p.c where site.firm_id = $1 and site.id = s.id`,
    [firmId],
  )
  await client.query(
    'insert into stale_stage (firm_id, stage_id, marked_at) select firm_id, id, now() from stage where firm_id = $1 on conflict do nothing',
    [firmId],
  )
  for (let n = 0; n < MORE_PEOPLE; n++) {
    await client.query(
      `insert into person (firm_id, id, name, email, role, skills, active, version)
       select firm_id, $2, $3, $4, role, skills, true, 1 from person where firm_id = $1 and email = 'tam@fennick.example'`,
      [firmId, id(9, n), `Driver ${n}`, `driver-${n}@fennick.example`],
    )
    await client.query(
      `insert into work_time (firm_id, id, base, weekdays, from_min, to_min, overtime_min, version)
       select t.firm_id, $2, t.base, t.weekdays, t.from_min, t.to_min, t.overtime_min, 1 from work_time t
       join person p on p.firm_id = t.firm_id and p.id = t.id where t.firm_id = $1 and p.email = 'tam@fennick.example'`,
      [firmId, id(9, n)],
    )
  }
}
