import { v7 as uuidv7 } from 'uuid'
import { addFirm, openWorld, PASSWORD, type Person, type World } from '../../testing/world'
import { deviceName } from './people'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let owner: Person
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'harbour')
  owner = await world.signIn(firm.email('owner'))
})
afterAll(() => world.close())

const person = (more: object = {}) => ({
  id: uuidv7(),
  name: 'Sorrel Vane',
  email: `sorrel-${uuidv7()}@harbour.example`,
  role: 'technician',
  skills: [],
  van: null,
  password: PASSWORD,
  ...more,
})

test('who is signed in, what they may, and the firm with its day', async () => {
  const me = (await owner.ask('GET', '/api/me')).body
  expect(me.person).toMatchObject({ id: firm.ownerId, role: 'owner', active: true })
  expect(me.rights).toEqual(expect.arrayContaining(['manage-people', 'publish-round']))
  expect(me.firm).toMatchObject({ name: 'harbour', timeZone: 'Atlantic/Azores', currency: 'EUR' })
  const viewer = await world.signIn(firm.email('viewer'))
  expect((await viewer.ask('GET', '/api/me')).body.rights).not.toContain('manage-people')
})

test('a person is added, signs in with the first password, and is listed', async () => {
  const fresh = person()
  expect((await owner.ask('POST', '/api/people', fresh)).status).toBe(200)
  const { people } = (await owner.ask('GET', '/api/people')).body
  expect(people).toContainEqual(expect.objectContaining({ id: fresh.id, name: 'Sorrel Vane', email: fresh.email, active: true }))
  expect(JSON.stringify(people)).not.toContain(PASSWORD)
  const signedIn = await world.signIn(fresh.email)
  expect((await signedIn.ask('GET', '/api/me')).body.person.id).toBe(fresh.id)
})

test('an e-mail belongs to one person; capitals make no other', async () => {
  const first = person({ email: 'linnet@harbour.example' })
  await owner.ask('POST', '/api/people', first)
  const again = await owner.ask('POST', '/api/people', person({ email: 'LINNET@harbour.example' }))
  expect(again.status).toBeGreaterThanOrEqual(400)
  expect(again.body.error.code).toBe('CONFLICT')
})

test.each([
  ['password', 'short'],
  ['email', 'nobody'],
  ['role', 'admiral'],
  ['skills', ['flying']],
  ['name', ''],
])('%s of %p is refused at its place', async (field, value) => {
  const answer = await owner.ask('POST', '/api/people', person({ [field]: value }))
  expect(answer.status).toBe(400)
  expect(answer.body.error.fields[0].path).toMatch(new RegExp(`^${field}`))
})

test('the firm’s schools and units are edited with a version', async () => {
  const { version, schools } = (await owner.ask('GET', '/api/firm')).body
  const edit = { version, name: 'Harbour Water', gallon: 'imperial', units: { volume: 'gal', pressure: 'psi', temperature: 'F' }, schools }
  const saved = await owner.ask('PUT', '/api/firm', edit)
  expect(saved.body).toMatchObject({ name: 'Harbour Water', gallon: 'imperial', version: version + 1, units: edit.units })
  const late = await owner.ask('PUT', '/api/firm', { ...edit, name: 'Quay Water' })
  expect([late.status, late.body.error.current.name]).toEqual([409, 'Harbour Water'])
  // Units left out stay as they are: an older program does not know them.
  const { units: _, ...older } = { ...edit, version: version + 1, schools: { ...schools, seals: 'new' } }
  expect((await owner.ask('PUT', '/api/firm', older)).body).toMatchObject({ units: edit.units, schools: { seals: 'new' } })
  const technician = await world.signIn(firm.email('technician'))
  expect((await technician.ask('PUT', '/api/firm', { ...older, version: version + 2 })).body.error.code).toBe('NO_RIGHT')
})

test('one’s own sign-ins are seen with the device they are on; another’s only by who manages people', async () => {
  const mine = (await owner.ask('GET', `/api/people/${firm.ownerId}/sign-ins`)).body.signIns
  expect(mine.filter(({ current }: { current: boolean }) => current)).toHaveLength(1)
  expect(mine[0].device).toBe('Chromium on Android')
  const technician = await world.signIn(firm.email('technician'))
  expect((await technician.ask('GET', `/api/people/${firm.technicianId}/sign-ins`)).status).toBe(200)
  expect((await technician.ask('GET', `/api/people/${firm.ownerId}/sign-ins`)).body.error.code).toBe('NO_RIGHT')
})

test.each([
  ['Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0', 'Firefox on Linux'],
  ['Mozilla/5.0 (Windows NT 10.0) Chrome/150 Safari/537.36 Edg/150', 'Edge on Windows'],
  ['Mozilla/5.0 (iPhone; CPU iPhone OS 19_0) AppleWebKit Version/19 Safari/604', 'Safari on iOS'],
  ['Mozilla/5.0 (Macintosh; Intel Mac OS X 15) Version/19 Safari/605', 'Safari on macOS'],
  ['curl/8', 'A program on an unknown system'],
  [null, 'A program on an unknown system'],
])('the device of %p is %p', (agent, name) => {
  expect(deviceName(agent)).toBe(name)
})
