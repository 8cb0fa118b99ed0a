import { FAMILIES, familyTrain } from '@evenround/core/train'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, fitted } from '../../testing/facts'
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
  street: '7 Smoke Lane',
  postcode: '4050-120',
  country: '',
  email: 'odd@quay.example',
  contacts: [{ name: 'Ines Larn', role: 'caretaker', phone: 'Quay 9', email: '' }],
  lat: 58.31,
  lon: -21.62,
}

test('a site is added with the id its device made, once, and comes back as it was written', async () => {
  const id = uuidv7()
  const added = await owner.ask('POST', '/api/sites', { id, ...FIELDS })
  expect([added.status, added.body]).toEqual([200, { id, ...FIELDS, version: 1 }])
  // Sent again by a device that did not hear the answer it is the same site, as it stands.
  expect((await owner.ask('POST', '/api/sites', { id, ...FIELDS, name: 'Typed anew' })).body).toEqual({ id, ...FIELDS, version: 1 })
  const { site } = (await owner.ask('GET', `/api/sites/${id}`)).body
  expect(site).toEqual({ id, ...FIELDS, version: 1 })
  const [row] = await peek<{ chlorine_mg_l: number | null; people: number }>(
    world.database,
    'select chlorine_mg_l, people from site where id = $1',
    [id],
  )
  expect(row).toEqual({ chlorine_mg_l: null, people: 4 })
})

test('a technician adds a site with what hangs there in one request, and a part that is in it by a fact', async () => {
  const technician = await world.signIn(firm.email('technician'))
  const [id, systemId] = [uuidv7(), uuidv7()]
  const stageIds = [uuidv7(), uuidv7()]
  const train = familyTrain(FAMILIES['under-sink-2'], stageIds)
  const whole = { id, ...FIELDS, systems: [{ id: systemId, name: 'Cellar', train }] }
  expect((await technician.ask('POST', '/api/sites', whole)).status).toBe(200)
  expect((await technician.ask('POST', '/api/sites', whole)).status).toBe(200)
  const place = { siteId: id, systemId, visitId: uuidv7() }
  const { body } = await technician.ask('POST', '/api/facts', batch(fitted(place, stageIds[0] as string)))
  expect(body.results[0].status).toBe('accepted')
  const { systems } = (await technician.ask('GET', `/api/sites/${id}`)).body
  expect(systems).toHaveLength(1)
  expect(systems[0].stages.map(({ part }: { part: { partNumber: string } | null }) => part?.partNumber ?? null)).toEqual([
    'BRK-SED-10',
    null,
  ])
  // Correcting it as master data is the office's.
  expect((await technician.ask('PUT', `/api/sites/${id}`, { ...FIELDS, version: 1 })).status).toBe(403)
})

test('half a position is refused, and so is a system that cannot be', async () => {
  const half = await owner.ask('POST', '/api/sites', { id: uuidv7(), ...FIELDS, lon: null })
  expect(half.body.error.fields).toEqual([{ path: 'lat', message: 'expected latitude and longitude, both or neither' }])
  const id = uuidv7()
  const bad = await owner.ask('POST', '/api/sites', {
    id,
    ...FIELDS,
    systems: [{ id: uuidv7(), name: 'x', train: { nodes: [], pipes: [] } }],
  })
  expect([bad.status, (await owner.ask('GET', `/api/sites/${id}`)).status]).toEqual([400, 404])
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

test('an edit made without a network is merged field by field: theirs stands where both changed the same, sent twice it is the same', async () => {
  const id = uuidv7()
  await owner.ask('POST', '/api/sites', { id, ...FIELDS })
  const site = async () => (await owner.ask('GET', `/api/sites/${id}`)).body.site
  // Meanwhile the office changed the telephone, and the position.
  await owner.ask('PUT', `/api/sites/${id}`, { version: 1, ...FIELDS, phone: 'Quay 8', lat: 58.4 })
  const changes = {
    before: { phone: 'Quay 7', access: 'Ring twice', street: '7 Smoke Lane', lat: 58.31, lon: -21.62 },
    after: { phone: 'Quay 70', access: 'Ring once', street: '9 Smoke Lane', lat: 58.32, lon: -21.63 },
  }
  const send = () => owner.ask('POST', `/api/sites/${id}/changes`, changes)
  // A position is changed whole or not at all: half of each would be a place nobody meant.
  expect((await send()).body).toEqual({ theirs: ['lat', 'lon', 'phone'] })
  const merged = { id, ...FIELDS, phone: 'Quay 8', lat: 58.4, access: 'Ring once', street: '9 Smoke Lane', version: 3 }
  expect(await site()).toEqual(merged)
  expect((await send()).body).toEqual({ theirs: ['lat', 'lon', 'phone'] })
  expect(await site()).toEqual(merged)
  // What is left out takes no default.
  expect((await owner.ask('POST', `/api/sites/${id}/changes`, { before: { people: 4 }, after: { people: 5 } })).body).toEqual({
    theirs: [],
  })
  expect(await site()).toEqual({ ...merged, people: 5, version: 4 })
  expect((await owner.ask('POST', `/api/sites/${id}/changes`, { before: {}, after: { people: 6 } })).status).toBe(400)
  expect((await owner.ask('POST', `/api/sites/${id}/changes`, { before: { people: 5 }, after: { people: 0 } })).status).toBe(400)
  const technician = await world.signIn(firm.email('technician'))
  expect((await technician.ask('POST', `/api/sites/${id}/changes`, changes)).status).toBe(403)
})

test('other sites of the same customer are named: by telephone, e-mail or full name, and not by a shared extension', async () => {
  const add = async (name: string, more: object): Promise<string> => {
    const id = uuidv7()
    const bare = { ...FIELDS, contact: '', phone: '', email: '', contacts: [] }
    expect((await owner.ask('POST', '/api/sites', { id, ...bare, name, ...more })).status).toBe(200)
    return id
  }
  const own = await add('Kelp house', { phone: '+351 555 0147', email: 'kelp@weir.example', contact: 'Wick' })
  await add('Kelp shed', { phone: '351-5550147' })
  await add('Kelp office', { email: 'KELP@weir.example' })
  await add('Somebody else’s', { contact: 'Wick' })
  const named = async (id: string): Promise<string[]> =>
    (await owner.ask('GET', `/api/sites/${id}`)).body.sameCustomer.map(({ name }: { name: string }) => name)
  expect(await named(own)).toEqual(['Kelp office', 'Kelp shed'])
  const [first] = [
    await add('Tide house', { contact: 'Hale Wick', phone: '7' }),
    await add('Tide loft', { contact: 'hale wick', phone: '9' }),
  ]
  await add('Tide mill', { phone: '7' })
  expect(await named(first)).toEqual(['Tide loft'])
})
