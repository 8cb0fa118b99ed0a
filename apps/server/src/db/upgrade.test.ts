import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { peek, type TestDatabase, testDatabase } from '../testing/database'
import { batch, measured } from '../testing/facts'
import { openWorldOn } from '../testing/world'
import { dataSource, MIGRATIONS } from './data-source'
import { migrate } from './migrate'

/** A dump of the demo as the first version of the program that anybody could have run wrote it, on 30 November 2026. */
const FIRST = join(__dirname, '../testing/data/first-version.sql.gz')
const THEN = new Date('2026-11-30T10:00:00Z')

const counted = (database: TestDatabase, tables: readonly string[]): Promise<object[]> =>
  Promise.all(tables.map(async (table) => ({ table, ...(await peek<object>(database, `select count(*)::int as n from ${table}`))[0] })))

test('a database of the first version comes forward with all that is in it, and people go on working', async () => {
  const database = await testDatabase('bare')
  const sql = gunzipSync(readFileSync(FIRST))
  const restored = spawnSync('psql', ['-q', '-v', 'ON_ERROR_STOP=1', '-d', database.ownerUrl], { input: sql, encoding: 'utf8' })
  expect(restored.stderr).toBe('')
  const kept = [
    'firm',
    'person',
    'site',
    'system',
    'stage',
    'fact_receipt',
    'fact_tds_reading',
    'fact_part_fitted',
    'fact_part_removed',
    'fact_hold_begun',
  ]
  const before = await counted(database, kept)
  expect(before.every((one) => Number(Reflect.get(one, 'n')) > 0)).toBe(true)
  const owner = dataSource({ url: database.ownerUrl, poolSize: 1 })
  await owner.initialize()
  expect(await migrate(owner, THEN)).toBe(MIGRATIONS.length - 1)
  await owner.destroy()
  expect(await counted(database, kept)).toEqual(before)
  const world = await openWorldOn(database)
  try {
    world.clock.now = THEN
    const tam = await world.signIn('tam@fennick.example')
    expect((await tam.ask('GET', '/api/sites')).body.sites).toHaveLength(13)
    const { stops } = (await tam.ask('GET', '/api/today')).body
    expect(stops.length).toBeGreaterThan(0)
    const [{ id, site, system }] = stops
    expect((await tam.ask('GET', `/api/stops/${id}`)).status).toBe(200)
    const place = { siteId: site.id, systemId: system.id, visitId: world.deps.newId() }
    const sent = await tam.ask('POST', '/api/facts', batch(measured(place, 212, { at: THEN.toISOString() })))
    expect([sent.status, sent.body.results[0].status]).toEqual([200, 'accepted'])
  } finally {
    await world.close()
  }
})

interface ColumnThere {
  place: string
  type: string
  /** Somebody who writes as before would be refused. */
  wanted: boolean
}
const columns = (database: TestDatabase): Promise<ColumnThere[]> =>
  peek(
    database,
    `select table_name || '.' || column_name as place, data_type as type, is_nullable = 'NO' and column_default is null as wanted
     from information_schema.columns where table_schema = 'public' order by 1`,
  )

/** From here on servers of the release before go on working while a release goes in (docs/operate.md). */
const ROLLING_FROM = 'Limits00409900000000040'

test('migrations only ever add: whoever works with yesterday’s tables goes on working', async () => {
  const database = await testDatabase('bare')
  const owner = dataSource({ url: database.ownerUrl, poolSize: 1 })
  await owner.initialize()
  try {
    await migrate(owner, THEN)
    const first = MIGRATIONS.findIndex((one) => new one().name === ROLLING_FROM)
    for (const _ of MIGRATIONS.slice(first)) await owner.undoLastMigration({ transaction: 'each' })
    const before = await columns(database)
    await migrate(owner, THEN)
    const after = new Map((await columns(database)).map((one) => [one.place, one]))
    const tables = new Set(before.map(({ place }) => place.split('.')[0]))
    // Each column is there as it was, and none of a table that was there asks for more than it did.
    expect(before.map(({ place }) => after.get(place))).toEqual(before)
    const asked = [...after.values()].filter(({ place, wanted }) => wanted && tables.has(place.split('.')[0] ?? ''))
    expect(asked).toEqual(before.filter(({ wanted }) => wanted))
  } finally {
    await owner.destroy()
    await database.drop()
  }
})
