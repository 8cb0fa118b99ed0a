import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let owner: Person
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'quayside')
  owner = await world.signIn(firm.email('owner'))
})
afterAll(() => world.close())

const FIELDS = {
  name: 'Smokehouse',
  village: 'Quay',
  island: 'Thrawn',
  access: 'Ring twice',
  contact: 'Odd Larn',
  phone: 'Quay 7',
  people: 4,
  source: 'drilled-well',
  chlorineMgL: null,
  kind: 'home',
}

test('a site is added with the id its device made, once, and comes back as it was written', async () => {
  const id = uuidv7()
  const added = await owner.ask('POST', '/api/sites', { id, ...FIELDS })
  expect([added.status, added.body]).toEqual([200, { id, ...FIELDS, version: 1 }])
  expect((await owner.ask('POST', '/api/sites', { id, ...FIELDS })).body.error.code).toBe('CONFLICT')
  const { site } = (await owner.ask('GET', `/api/sites/${id}`)).body
  expect(site).toEqual({ id, ...FIELDS, version: 1 })
  const [row] = await peek<{ chlorine_mg_l: number | null; people: number }>(
    world.database,
    'select chlorine_mg_l, people from site where id = $1',
    [id],
  )
  expect(row).toEqual({ chlorine_mg_l: null, people: 4 })
})

test('two who edit at once: the second sees what stands, and nothing of the first is lost', async () => {
  const id = uuidv7()
  await owner.ask('POST', '/api/sites', { id, ...FIELDS })
  const first = await owner.ask('PUT', `/api/sites/${id}`, { ...FIELDS, people: 6, version: 1 })
  expect(first.body).toMatchObject({ people: 6, version: 2 })
  const second = await owner.ask('PUT', `/api/sites/${id}`, { ...FIELDS, phone: 'Quay 8', version: 1 })
  expect([second.status, second.body.error.code]).toEqual([409, 'STALE_VERSION'])
  expect(second.body.error.current).toMatchObject({ people: 6, phone: 'Quay 7', version: 2 })
})

test.each([
  ['name', '   '],
  ['name', 'x'.repeat(121)],
  ['people', 0],
  ['people', 2.5],
  ['people', 5001],
  ['source', 'river'],
  ['chlorineMgL', -0.1],
  ['chlorineMgL', 21],
  ['access', 'bell\u0000'],
])('%s of %p is refused at its place', async (field, value) => {
  const answer = await owner.ask('POST', '/api/sites', { id: uuidv7(), ...FIELDS, [field]: value })
  expect([answer.status, answer.body.error.fields.map(({ path }: { path: string }) => path)]).toEqual([400, [field]])
})

test('a field nobody knows is refused, not dropped', async () => {
  const answer = await owner.ask('POST', '/api/sites', { id: uuidv7(), ...FIELDS, colour: 'green' })
  expect(answer.status).toBe(400)
})

test('whoever only looks on adds and edits none', async () => {
  const viewer = await world.signIn(firm.email('viewer'))
  expect((await viewer.ask('POST', '/api/sites', { id: uuidv7(), ...FIELDS })).body.error.code).toBe('NO_RIGHT')
  expect((await viewer.ask('PUT', `/api/sites/${firm.siteId}`, { ...FIELDS, version: 1 })).body.error.code).toBe('NO_RIGHT')
})

test('a site that is not there is not there for an edit either', async () => {
  expect((await owner.ask('PUT', `/api/sites/${uuidv7()}`, { ...FIELDS, version: 1 })).body.error.code).toBe('NOT_FOUND')
  expect((await owner.ask('GET', `/api/sites/${uuidv7()}`)).body.error.code).toBe('NOT_FOUND')
})
