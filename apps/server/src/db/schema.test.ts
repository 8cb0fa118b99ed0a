import { peek, type TestDatabase, testDatabase } from '../testing/database'
import { dataSource, MIGRATIONS } from './data-source'
import { refusePowerfulRole } from './guard'
import { migrate } from './migrate'

let database: TestDatabase
beforeAll(async () => {
  database = await testDatabase('bare')
})
afterAll(() => database.drop())

const tables = async (): Promise<string[]> =>
  (
    await peek<{ name: string }>(
      database,
      `select relname as name from pg_class where relkind in ('r', 'p') and relnamespace = 'public'::regnamespace and relname <> 'schema_migration' order by 1`,
    )
  ).map(({ name }) => name)

test('every migration runs up, down and up again to the same schema', async () => {
  const owner = dataSource({ url: database.ownerUrl, poolSize: 1 })
  await owner.initialize()
  try {
    expect(await migrate(owner, new Date('2026-11-25T12:00:00Z'))).toBe(MIGRATIONS.length)
    const first = await tables()
    expect(first).toEqual(expect.arrayContaining(['firm', 'fact_step_done', 'fact_step_done_202611', 'fact_step_done_rest']))
    for (const _ of MIGRATIONS) await owner.undoLastMigration({ transaction: 'each' })
    expect(await tables()).toEqual([])
    expect(await migrate(owner, new Date('2026-11-25T12:00:00Z'))).toBe(MIGRATIONS.length)
    expect(await tables()).toEqual(first)
    expect(await migrate(owner, new Date('2026-12-25T12:00:00Z'))).toBe(0)
    expect(await tables()).toEqual(expect.arrayContaining(['fact_step_done_202704']))
  } finally {
    await owner.destroy()
  }
})

test('every table of a firm is locked by row, also for its owner', async () => {
  const open = await peek(
    database,
    `select relname from pg_class where relkind in ('r', 'p') and relnamespace = 'public'::regnamespace and not relispartition and relname <> 'schema_migration' and not (relrowsecurity and relforcerowsecurity)`,
  )
  // What search finds by, and how often a firm's records changed, are read by one function each of their owner's; nobody else may touch them.
  expect(open).toEqual([{ relname: 'firm_revision' }, { relname: 'search_entry' }])
  expect(
    await peek(
      database,
      `select grantee from information_schema.role_table_grants where table_name in ('firm_revision', 'search_entry') and grantee <> 'evenround_owner'`,
    ),
  ).toEqual([])
  // Who signs in belongs to no firm yet: what is counted and challenged at the door stands outside of all.
  const keys = await peek<{ relname: string; first: string }>(
    database,
    `select c.relname, a.attname as first from pg_index i join pg_class c on c.oid = i.indrelid join pg_attribute a on a.attrelid = c.oid and a.attnum = i.indkey[0]
     where i.indisprimary and c.relnamespace = 'public'::regnamespace and c.relname not in ('schema_migration', 'sign_in_failure', 'rate_limit', 'auth_verification', 'backup_attempt', 'dump_guard') and a.attname <> 'firm_id'`,
  )
  expect(keys).toEqual([])
})

test('every table of a firm raises its revision when it is written, but for sign-ins and logs', async () => {
  const silent = await peek<{ relname: string }>(
    database,
    `select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'firm_id' and not a.attisdropped
     where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
       and not exists (select 1 from pg_trigger t where t.tgrelid = c.oid and t.tgname = 'raise_revision') order by 1`,
  )
  expect(silent.map(({ relname }) => relname)).toEqual([
    'audit',
    'auth_account',
    'auth_passkey',
    'auth_session',
    'auth_two_factor',
    'auth_user',
    'customer_look',
    'firm_revision',
    'search_entry',
  ])
})

test('the server refuses to work as a superuser or as the owner, and says what to do', async () => {
  const asRole = async (url: string, asAppRole = false) => {
    const source = dataSource({ url, poolSize: 1, asAppRole })
    await source.initialize()
    try {
      await refusePowerfulRole(source)
      return 'taken'
    } catch (error) {
      return (error as Error).message
    } finally {
      await source.destroy()
    }
  }
  expect(await asRole(database.adminUrl)).toMatch(/superuser[\s\S]*create role/)
  expect(await asRole(database.ownerUrl)).toMatch(/owns the tables[\s\S]*create role/)
  expect(await asRole(database.appUrl)).toBe('taken')
})

test('migrating as a superuser is refused before anything is made', async () => {
  const bare = await testDatabase('bare')
  const owner = dataSource({ url: bare.adminUrl, poolSize: 1 })
  await owner.initialize()
  await expect(migrate(owner, new Date())).rejects.toThrow('superuser')
  await owner.destroy()
  expect(await peek(bare, `select 1 from pg_class where relname = 'firm'`)).toEqual([])
  await bare.drop()
})
