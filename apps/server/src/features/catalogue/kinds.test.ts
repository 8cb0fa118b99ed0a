import type { DueRow } from '@evenround/contract/due'
import type { KindDto } from '@evenround/contract/kinds'
import type { SystemDto } from '@evenround/contract/site'
import { insertAfter } from '@evenround/core/train'
import { v7 as uuidv7 } from 'uuid'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let owner: Person
let technician: Person
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'tilework')
  owner = await world.signIn(firm.email('owner'))
  technician = await world.signIn(firm.email('technician'))
})
afterAll(() => world.close())

const CANDLE = {
  causes: ['calendar', 'pressure'],
  lifeMonths: 12,
  ratedLitres: null,
  soakHours: 0.5,
  flush: { litres: 6, minutes: 12, alone: true },
  endUp: 'arrow',
  cautions: ['Brittle: never by its neck.'],
}
const kinds = async (who = owner): Promise<KindDto[]> => (await who.ask('GET', '/api/shelf')).body.kinds
const LIST = 'Customer,System,Pos,Part,Kind,Fitted\nKiln House,Sink,1,CC-1,Ceramic candle,2026-03-01\n'
const COLUMNS = ['site', 'system', 'position', 'partNumber', 'medium', 'fittedOn']
const kilnSystem = async (): Promise<SystemDto> => {
  const { rows } = (await owner.ask('GET', '/api/due?media=own%3Aceramic%20candle&limit=10')).body as { rows: DueRow[] }
  return (await owner.ask('GET', `/api/sites/${rows[0]?.siteId}`)).body.systems[0]
}

test('a kind is named by those who may, once; its name is one whatever its capitals', async () => {
  expect((await technician.ask('POST', '/api/kinds', { name: 'Ceramic candle', ...CANDLE })).status).toBe(403)
  const added = await owner.ask('POST', '/api/kinds', { name: 'Ceramic candle', ...CANDLE })
  expect(added).toMatchObject({ status: 200, body: { id: 'own:ceramic candle', name: 'ceramic candle', version: 1, ...CANDLE } })
  const twice = await owner.ask('POST', '/api/kinds', { name: 'ceramic CANDLE', ...CANDLE })
  expect(twice).toMatchObject({ status: 409, body: { error: { fields: [{ path: 'name' }] } } })
  expect((await kinds()).map(({ name }) => name)).toEqual(['ceramic candle'])
})

test.each([
  ['litres end it and none are said', { causes: ['throughput'], lifeMonths: null }, 'ratedLitres'],
  ['time ends it and no life is said', { lifeMonths: null }, 'lifeMonths'],
  ['nothing ends it', { causes: [] }, 'causes'],
])('what does not hang together is refused where it is wrong: %s', async (_, change, path) => {
  const answer = await owner.ask('POST', '/api/kinds', { name: 'odd', ...CANDLE, ...change })
  expect(answer).toMatchObject({ status: 400, body: { error: { fields: [{ path }] } } })
})

test('a list brings parts of it in; they are forecast by its life and carry what was said of it', async () => {
  const check = await owner.ask('POST', '/api/intakes/check', { name: 'l', text: LIST, columns: COLUMNS, order: 'day-first' })
  expect(check.body.problems ?? []).toEqual([])
  await owner.ask('POST', '/api/intakes', { id: uuidv7(), name: 'l', text: LIST, columns: COLUMNS, order: 'day-first' })
  const system = await kilnSystem()
  const [stage] = system.stages
  expect(stage).toMatchObject({ media: 'own:ceramic candle', part: { partNumber: 'CC-1', rated: { days: 365, litres: null } } })
  expect(system.train.nodes.find(({ id }) => id === stage?.id)).toMatchObject({ own: { name: 'ceramic candle', soakHours: 0.5 } })
  // A year from the first of March by its median, half a year for a big household, one and a half for one person; three people here.
  expect(stage?.forecast?.causes.map(({ cause }) => cause)).toEqual(expect.arrayContaining(['calendar', 'pressure']))
  expect(Math.abs(new Date(stage?.forecast?.p50 ?? 0).getTime() - new Date('2027-02-01').getTime())).toBeLessThan(90 * 86_400_000)
})

test('what is changed of it reaches every system that holds one, as a new version of its plumbing', async () => {
  const before = await kilnSystem()
  const edited = await owner.ask('PUT', '/api/kinds/ceramic%20candle', { version: 1, ...CANDLE, lifeMonths: 6, soakHours: null })
  expect(edited).toMatchObject({ status: 200, body: { version: 2, lifeMonths: 6, soakHours: null } })
  const after = await kilnSystem()
  expect(after.trainVersion).toBe(before.trainVersion + 1)
  expect(after.train.nodes.find(({ id }) => id === after.stages[0]?.id)).toMatchObject({ own: { soakHours: null, lifeMonths: 6 } })
  const late = await owner.ask('PUT', '/api/kinds/ceramic%20candle', { version: 1, ...CANDLE })
  expect(late).toMatchObject({ status: 409, body: { error: { code: 'STALE_VERSION', current: { version: 2 } } } })
  expect((await owner.ask('PUT', '/api/kinds/marble', { version: 1, ...CANDLE })).status).toBe(404)
})

test('a train holds kinds of its own firm, as the firm describes them; another’s is refused', async () => {
  const path = `/api/systems/${firm.systemId}/train`
  const { version, name, train } = (await owner.ask('GET', path)).body
  const withKind = (media: string) =>
    insertAfter(train, firm.stageIds[0], { id: uuidv7(), kind: 'stage', media: media as 'own:x', housing: 'sump-small', position: 0 })
  const refused = await owner.ask('PUT', path, { version, name, train: withKind('own:never named') })
  expect(refused).toMatchObject({ status: 400, body: { error: { code: 'BAD_INPUT' } } })
  const saved = await owner.ask('PUT', path, { version, name, train: withKind('own:ceramic candle') })
  expect(saved.status).toBe(200)
  expect(saved.body.train.nodes.filter(({ own }: { own?: unknown }) => own)).toMatchObject([{ own: { lifeMonths: 6 } }])
  const other = await addFirm(world, 'glazehouse')
  const stranger = await world.signIn(other.email('owner'))
  expect(await kinds(stranger)).toEqual([])
  const part = {
    id: uuidv7(),
    partNumber: 'CC-2',
    maker: 'M',
    name: 'N',
    media: 'own:ceramic candle',
    housing: 'sump-small',
    priceMinor: 1,
  }
  const rated = { days: 100, litres: null, milliequivalents: null, hours: null }
  expect((await stranger.ask('POST', '/api/parts', { ...part, rated })).status).toBe(400)
  expect((await owner.ask('POST', '/api/parts', { ...part, rated })).status).toBe(200)
})
