import type { IntakePreview } from '@evenround/contract/intake'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, begun, measured } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'
import { workIntake } from './work'

let world: World
let owner: Person
let technician: Person
let firm: Awaited<ReturnType<typeof addFirm>>

beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'otterbank')
  owner = await world.signIn(firm.email('owner'))
  technician = await world.signIn(firm.email('technician'))
})
afterAll(() => world.close())

const LIST = [
  'Customer;Village;People;System;Pos;Part;Kind;Fitted;TDS in;TDS out;Counter (gal);Read on',
  'Otter Cottage;Quay;4;Kitchen;1;OB-1;sediment;06.03.2025;410;"20,5";"1,5k";01.06.2025',
  'Otter Cottage;Quay;4;Kitchen;2;OB-2;carbon;;;;;',
  'Heron Bank;Quay;;Sink;1;OB-1;sediment;31.02.2025;;;;',
  ';;;;;;;;;;;',
  'Heron Bank;Quay;;Sink;2;OB-2;carbon;March 2025;;;;',
].join('\r\n')

const check = async (text: string, more: object = {}): Promise<IntakePreview> => {
  const { status, body } = await owner.ask('POST', '/api/intakes/check', { name: 'list.csv', text, ...more })
  expect(status).toBe(200)
  return body
}
const bringIn = async (text: string, id = uuidv7()) => {
  const { columns, order } = await check(text)
  return {
    id,
    answer: await owner.ask('POST', '/api/intakes', { id, name: 'list.csv', text, columns: columns.map(({ field }) => field), order }),
  }
}
const rows = (sql: string) => peek<Record<string, unknown>>(world.database, sql, [firm.firmId])

test('a list is looked through: what it would make, what is wrong and where, and nothing is written', async () => {
  const preview = await check(LIST)
  expect(preview.columns.map(({ field }) => field)).toEqual([
    'site',
    'village',
    'people',
    'system',
    'position',
    'partNumber',
    'medium',
    'fittedOn',
    'untreated',
    'treated',
    'counter',
    'readOn',
  ])
  expect(preview).toMatchObject({ lines: 4, good: 3, bad: 1, order: 'day-first', orderTold: true })
  expect(preview.counts).toEqual({ sites: 2, systems: 2, parts: 3, undated: 1, readings: 1 })
  expect(preview.problems).toEqual([
    { line: 4, problems: [{ field: 'fittedOn', heading: 'Fitted', value: '31.02.2025', message: 'There is no such day: 31.02.2025' }] },
  ])
  expect(preview.notes).toEqual([{ line: 6, notes: ['“March 2025” is taken as the middle of that month'] }])
  expect(preview.systems[0]).toEqual({
    site: 'Otter Cottage',
    system: 'Kitchen',
    isNew: true,
    stages: ['1 sediment: OB-1, 2025-03-06', '2 carbon: OB-2, day not known'],
  })
  expect(await rows('select 1 from site where firm_id = $1')).toHaveLength(1)
})

test('brought in whole, once however often it is sent; forecasts follow, the unknown day says so; taken back whole', async () => {
  const { id, answer } = await bringIn(LIST)
  expect(answer.status).toBe(200)
  expect(answer.body).toMatchObject({
    name: 'list.csv',
    personName: 'owner of otterbank',
    undoneAt: null,
    state: 'done',
    progress: 1,
    left: 1,
  })
  expect((await bringIn(LIST, id)).answer.status).toBe(200)
  const sites = (await owner.ask('GET', '/api/sites')).body.sites as { id: string; name: string; systems: number; nextDue: string | null }[]
  expect(sites.map(({ name, systems }) => [name, systems])).toEqual([
    ['Heron Bank', 1],
    ['Otter Cottage', 1],
    ['Site of otterbank', 1],
  ])
  const otter = sites.find(({ name }) => name === 'Otter Cottage')
  const page = (await owner.ask('GET', `/api/sites/${otter?.id}`)).body
  expect(page.site).toMatchObject({ people: 4, source: 'municipal' })
  expect(page.systems[0].stages.map((stage: { part: unknown }) => stage.part)).toMatchObject([
    { partNumber: 'OB-1', fittedOn: '2025-03-06', dateKnown: true },
    { partNumber: 'OB-2', dateKnown: false },
  ])
  expect(page.systems[0].stages[1].forecast).not.toBeNull()
  // 1,500 US gallons at 3.785411784 L.
  expect((await rows('select counter_l from fact_stage_reading where firm_id = $1'))[0]?.counter_l).toBeCloseTo(5678.117676, 5)
  const due = (await owner.ask('GET', '/api/due')).body
  expect(due.rows.map((row: { siteName: string }) => row.siteName).sort()).toEqual(['Heron Bank', 'Otter Cottage', 'Otter Cottage'])

  const undone = await owner.ask('POST', `/api/intakes/${id}/undo`)
  expect(undone.body).toMatchObject({ kept: [] })
  expect(undone.body.undoneAt).not.toBeNull()
  expect(((await owner.ask('GET', '/api/sites')).body.sites as unknown[]).length).toBe(1)
  expect((await owner.ask('GET', `/api/sites/${otter?.id}`)).status).toBe(404)
  expect((await owner.ask('GET', '/api/due')).body.rows).toEqual([])
  // The facts are there with what took them back: three parts, two waters, one counter.
  const count = async (table: string) => Number((await rows(`select count(*) as n from ${table} where firm_id = $1`))[0]?.n)
  expect([await count('fact_part_fitted'), await count('fact_tds_reading'), await count('fact_stage_reading')]).toEqual([6, 4, 2])
  expect((await owner.ask('POST', `/api/intakes/${id}/undo`)).body).toEqual(undone.body)
})

test('taken back after work was done there: that site stays, the rest goes; work sent later brings a site back', async () => {
  const { id } = await bringIn(LIST)
  const found = (await owner.ask('GET', '/api/sites')).body.sites as { id: string; name: string }[]
  const idOf = (name: string): string => found.find((site) => site.name === name)?.id ?? ''
  const systemOf = async (siteId: string): Promise<string> => (await owner.ask('GET', `/api/sites/${siteId}`)).body.systems[0].id
  const place = async (name: string) => ({ siteId: idOf(name), systemId: await systemOf(idOf(name)), visitId: uuidv7() })
  const otter = await place('Otter Cottage')
  const heron = await place('Heron Bank')
  world.clock.now = new Date(world.clock.now.getTime() + 60_000)
  await technician.ask('POST', '/api/facts', batch(begun(otter), measured(otter, 400)))
  const undone = (await owner.ask('POST', `/api/intakes/${id}/undo`)).body
  expect(undone.kept).toEqual(['Otter Cottage'])
  const names = async () => ((await owner.ask('GET', '/api/sites')).body.sites as { name: string }[]).map(({ name }) => name)
  expect(await names()).toEqual(['Otter Cottage', 'Site of otterbank'])
  expect((await owner.ask('GET', `/api/sites/${otter.siteId}`)).body.systems[0].stages[0].part.partNumber).toBe('OB-1')
  const late = (await technician.ask('POST', '/api/facts', batch(begun(heron)))).body
  expect(late.results[0].status).toBe('accepted')
  expect(await names()).toEqual(['Heron Bank', 'Otter Cottage', 'Site of otterbank'])
})

test('lists that cannot be read are refused with the reason; who may not edit sites brings nothing in', async () => {
  const refused = async (text: string, more: object = {}) =>
    (await owner.ask('POST', '/api/intakes/check', { name: 'x', text, ...more })).body.error.fields
  expect(await refused('Customer\n')).toEqual([{ path: 'text', message: 'expected a line of headings and at least one line under it' }])
  expect(await refused('Customer,Pos\n"Otter,1\n')).toEqual([{ path: 'text', message: expect.stringContaining('quotation mark') }])
  // Two columns parted by semicolons, with the empty last line every spreadsheet leaves.
  expect((await check('Site;People\nOtter;3\nHeron;2\n\n')).counts).toMatchObject({ sites: 2 })
  expect(await refused('A,B\n1,2\n', { columns: ['site', 'site'] })).toEqual([
    { path: 'columns', message: 'expected each field once: two columns hold site' },
  ])
  const bad = { id: uuidv7(), name: 'x', text: 'Customer\n""\n', columns: ['site'], order: 'day-first' }
  // What has no good line is kept as a list of which nothing came in, with the reason.
  const none = await owner.ask('POST', '/api/intakes', { ...bad, text: 'Customer,Pos\n,1\n', columns: ['site', 'position'] })
  expect(none.body).toMatchObject({ state: 'failed', failure: expect.stringMatching(/No line of this list/), progress: 0 })
  expect((await owner.ask('POST', `/api/intakes/${none.body.id}/undo`)).status).toBe(409)
  expect((await technician.ask('POST', '/api/intakes', bad)).status).toBe(403)
  expect((await technician.ask('POST', '/api/intakes/check', { name: 'x', text: 'a\nb' })).status).toBe(403)
  expect((await owner.ask('POST', `/api/intakes/${uuidv7()}/undo`)).status).toBe(404)
})

test('contracts come in with the list: of a system where its parts say the same, of a part where they differ', async () => {
  const lines = [
    'Customer;System;Pos;Part;Kind;Fitted;Contract;Service month',
    'Plover Lodge;Kitchen;1;OB-1;sediment;06.03.2025;6 months;',
    'Plover Lodge;Kitchen;2;OB-2;carbon;06.03.2025;6 months;',
    'Plover Lodge;Bar;1;OB-1;sediment;06.03.2025;quarterly;',
    'Plover Lodge;Bar;2;OB-2;carbon;06.03.2025;yearly;May',
  ]
  const { answer } = await bringIn(lines.join('\r\n'))
  expect(answer.status).toBe(200)
  const rules = await rows(
    `select r.level, r.months, r.anchor, coalesce(y.name, s.id::text) as about from due_rule r
     left join system y on y.id::text = r.about left join stage s on s.id::text = r.about where r.firm_id = $1 order by r.level, r.months`,
  )
  expect(rules).toMatchObject([
    { level: 'stage', months: 3, anchor: null },
    { level: 'stage', months: 12, anchor: expect.stringMatching(/^\d{4}-05-01$/) },
    { level: 'system', months: 6, anchor: null, about: 'Kitchen' },
  ])
  const due = (await owner.ask('GET', '/api/due?text=plover&limit=100')).body.rows
  expect(due.map(({ due: { rule } }: { due: { rule: { months: number } } }) => rule.months).sort()).toEqual([12, 3, 6, 6])
})

test('columns that were put right by hand are so again for the next list with the same headings', async () => {
  const first = 'Client,Ort,Telefono,Wert\nSmokehouse,Quay,1 2,7\n'
  expect((await check(first)).columns.map(({ field }) => field)).not.toEqual(['site', 'village', 'phone', null])
  const answer = await owner.ask('POST', '/api/intakes', {
    id: uuidv7(),
    name: 'from the old program.csv',
    text: first,
    columns: ['site', 'village', 'phone', null],
    order: 'day-first',
  })
  expect(answer.status).toBe(200)
  const again = await check('Client,Ort,Telefono,Wert\nTern House,Quay,3 4,9\n')
  expect(again.columns.map(({ field }) => field)).toEqual(['site', 'village', 'phone', null])
  expect(again.remembered).toBe('from the old program.csv')
  expect((await check('Client,Ort,Telefono\nTern House,Quay,3 4\n')).remembered).toBeNull()
})

test('a list is stopped while it waits or while it is written: nothing of it stands; handed in again it comes in whole', async () => {
  const text = ['Customer;System;Pos;Kind', ...Array.from({ length: 30 }, (_, at) => `Stop ${at};Kitchen;1;sediment`)].join('\n')
  const { columns, order } = await check(text)
  const list = { id: uuidv7(), name: 'long.csv', text, columns: columns.map(({ field }) => field), order }
  const there = async () => (await rows(`select 1 from site where firm_id = $1 and name like 'Stop %'`)).length
  const { bringInSoon } = world.deps
  world.deps.bringInSoon = async () => undefined
  expect((await owner.ask('POST', '/api/intakes', list)).body).toMatchObject({ state: 'waiting', progress: 0 })
  expect((await technician.ask('POST', `/api/intakes/${list.id}/stop`)).status).toBe(403)
  expect((await owner.ask('POST', `/api/intakes/${list.id}/stop`)).body.state).toBe('stopped')
  const { now, newId, inFirm } = world.deps
  expect(await workIntake({ inFirm, now, newId }, firm.firmId, list.id)).toBe(false)

  expect((await owner.ask('POST', '/api/intakes', list)).body.state).toBe('waiting')
  // Stopped by somebody else after the sites are written.
  const said: number[] = []
  const watched: typeof inFirm = async (id, work) => {
    const [row] = await rows(`select progress from intake where firm_id = $1 and id = '${list.id}'`)
    said.push(Number(row?.progress))
    if (said.filter((share) => share > 0).length === 1) await owner.ask('POST', `/api/intakes/${list.id}/stop`)
    return inFirm(id, work)
  }
  expect(await workIntake({ inFirm: watched, now, newId, saidEveryMs: 0 }, firm.firmId, list.id)).toBe(false)
  expect(said).toEqual([...said].sort((a, b) => a - b))
  expect((await owner.ask('GET', `/api/intakes/${list.id}`)).body).toMatchObject({ state: 'stopped', failure: null })
  expect(await there()).toBe(0)

  world.deps.bringInSoon = bringInSoon
  expect((await owner.ask('POST', '/api/intakes', list)).body).toMatchObject({ state: 'done', progress: 1, left: 0 })
  expect(await there()).toBe(30)
  // A process that died in the middle left it at work: it is begun again, and once it is in, not a second time.
  expect(await workIntake({ inFirm, now, newId }, firm.firmId, list.id)).toBe(false)
  expect(await there()).toBe(30)
})
