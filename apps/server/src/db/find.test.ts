import fc from 'fast-check'
import { escapeLiteral } from 'pg'
import { Between, type EntityTarget, type FindOptionsOrder, type FindOptionsWhere, In, IsNull, MoreThanOrEqual } from 'typeorm'
import { peek } from '../testing/database'
import { openWorld, type World } from '../testing/world'
import { FACT_TABLES, FactReceipt } from './entities/facts'
import { Firm, type FirmRow, Part, Person, Site, Stage, Stop, System, TrainVersion } from './entities/master'
import { literalOf, written } from './find'
import type { FirmScope } from './scope'

let world: World
let firmId: string
beforeAll(async () => {
  world = await openWorld('demo')
  const [firm] = await peek<{ firm_id: string }>(world.database, 'select firm_id from firm')
  firmId = firm?.firm_id ?? ''
})
afterAll(() => world.close())

const inFirm = <T>(work: (scope: FirmScope) => Promise<T>): Promise<T> => world.deps.inFirm(firmId, work)

test('a literal is written as the driver writes it, whatever stands in it', async () => {
  const signs = fc.string({ unit: fc.constantFrom("'", '\\', '"', '$1', 'a', '\n', 'é', '😀', ';', '--') })
  fc.assert(fc.property(fc.oneof(signs, fc.string(), fc.json()), (text) => literalOf(text) === escapeLiteral(text)))
  const hard = "it's \\ \"so\" \\' or ''; --"
  const [row] = await inFirm((scope) => scope.query<{ same: string }>(`select ${literalOf(hard)} as same where $1::uuid is not null`))
  expect(row?.same).toBe(hard)
})

/** What the mapper itself finds, as plain objects. */
const byMapper = async <E extends FirmRow>(entity: EntityTarget<E>, where: FindOptionsWhere<E>, order: FindOptionsOrder<E>) =>
  inFirm(async ({ manager }) =>
    (await manager.find(entity, { where: { ...where, firmId } as FindOptionsWhere<E>, order })).map((row) => ({ ...row })),
  )

test('what is found is what the mapper finds: every column of every kind, by value, among some, between two, from one on, and nothing', async () => {
  const days = (await inFirm((scope) => scope.find(Stop))).map(({ day }) => day).sort()
  const sites = (await inFirm((scope) => scope.find(Site))).map(({ id }) => id)
  const [first = '', middle = ''] = [days[0], days[Math.floor(days.length / 2)]]
  const same = async <E extends FirmRow>(entity: EntityTarget<E>, where: FindOptionsWhere<E> = {}, order: FindOptionsOrder<E> = {}) => {
    const [own, theirs] = [await inFirm((scope) => scope.find(entity, where, order)), await byMapper(entity, where, order)]
    const sorted = (rows: object[]) => rows.map((row) => JSON.stringify(row, Object.keys(row).sort())).sort()
    expect(sorted(own)).toEqual(sorted(theirs))
    expect(own.length).toBeGreaterThan(0)
    return own
  }
  for (const entity of [Firm, Person, Site, System, TrainVersion, Part, Stage, Stop, FactReceipt]) await same(entity)
  for (const kind of ['visit-begun', 'tds-reading', 'part-fitted', 'visit-finished'] as const) await same(FACT_TABLES[kind])
  await same(Site, { id: In(sites.slice(0, 3)), goneAt: IsNull() })
  await same(Stop, { day: Between(first, middle) })
  await same(Stop, { day: MoreThanOrEqual(middle) })
  const named = await same(Site, {}, { name: 'DESC' })
  expect(named.map(({ name }) => name)).toEqual((await byMapper(Site, {}, { name: 'DESC' })).map(({ name }) => name))
  expect(await inFirm((scope) => scope.find(Site, { id: In([]) }))).toEqual([])
})

test('a condition that is not known, or on a column that is not there, is refused and looks nothing up', async () => {
  const bad = { nothing: 1 } as FindOptionsWhere<Site>
  await expect(inFirm((scope) => scope.find(Site, bad))).rejects.toThrow('site has no nothing')
})

test('asked in one go, each question has its own answer, whatever its parameters are', async () => {
  const odd = [`it’s "quoted" \\ and 'quoted'`, 'a, b {c}', '$1 $2', '', 'ü — 雨']
  const at = new Date('2026-11-25T10:11:12.345Z')
  const answers = await inFirm((scope) =>
    Promise.all([
      ...odd.map((text) => scope.query<{ said: string }>('select $2::text as said', [text])),
      scope.query<{ all: string[] }>('select $2::text[] as all', [odd]),
      scope.query<{ at: Date; none: null; flag: boolean; n: number }>(
        'select $2::timestamptz as at, $3::text as none, $4::boolean as flag, $5::int as n',
        [at, null, true, 7],
      ),
      scope.find(Site, { id: In([]) }),
      scope.query<{ tree: object }>('select $2::jsonb as tree', [JSON.stringify({ a: [odd] })]),
    ]),
  )
  expect(answers).toEqual([
    ...odd.map((said) => [{ said }]),
    [{ all: odd }],
    [{ at, none: null, flag: true, n: 7 }],
    [],
    [{ tree: { a: [odd] } }],
  ])
})

test('what cannot be written into a statement goes beside it; one that fails fails them all, and nothing of them stays', async () => {
  expect(written({ sql: 'select $1', params: [Buffer.from('bytes')] })).toBeNull()
  expect(written({ sql: 'select $1', params: ['no\0thing'] })).toBeNull()
  expect(() => written({ sql: 'select $2', params: ['one'] })).toThrow('no parameter 2')
  await expect(
    inFirm((scope) =>
      Promise.all([scope.query('select $1::uuid, $2::text', ['a']), scope.query('select $1::uuid, $2::text', ['no\0thing'])]),
    ),
  ).rejects.toMatchObject({ code: '22021' })
  await expect(inFirm((scope) => Promise.all([scope.query('select $1::uuid'), scope.query('select $7::text')]))).rejects.toThrow(
    'no parameter 7',
  )
  const before = await inFirm((scope) => scope.findOne(Firm, {}))
  await expect(
    inFirm((scope) => Promise.all([scope.query(`update firm set name = 'Other' where firm_id = $1`), scope.query('select 1 / 0')])),
  ).rejects.toMatchObject({ code: '22012' })
  expect(await inFirm((scope) => scope.findOne(Firm, {}))).toEqual(before)
})

test('one statement by itself sees its firm alone and counts as a transaction', async () => {
  const [row] = await world.deps.askFirm<{ own: number; others: number }>(firmId, () => ({
    sql: 'select (select count(*)::int from site where firm_id = $1) as own, (select count(*)::int from site where firm_id <> $1) as others',
    params: [],
  }))
  expect(row?.own).toBeGreaterThan(0)
  expect(row?.others).toBe(0)
  // The connection it went over sees nothing afterwards.
  expect(await world.source.query('select count(*)::int as n from site')).toEqual([{ n: 0 }])
  await expect(world.deps.askFirm('nobody', () => ({ sql: 'select 1', params: [] }))).rejects.toThrow('not the id of a firm')
})
