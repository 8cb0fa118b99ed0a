import { peek } from '../testing/database'
import { PLAIN_SITE } from '../testing/plain-site'
import { addFirm, openWorld, type Person, type World } from '../testing/world'

let world: World
let owner: Person
let firm: Awaited<ReturnType<typeof addFirm>>
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'weir')
  owner = await world.signIn(firm.email('owner'))
})
afterAll(() => world.close())

const SITE = {
  name: 'Net loft',
  ...PLAIN_SITE,
}
const NEW_ID = '01a210be-51fe-72a1-83c2-5e99bc301c4f'
const PERSON = {
  id: NEW_ID,
  name: 'Jory',
  email: 'jory@weir.example',
  role: 'viewer',
  skills: [],
  van: null,
  password: 'long enough for this',
}
const SCHOOLS = { change: 'calendar', membrane: 'fixed-floor', closing: 'hand-only', seals: 'new', order: 'all-out', tankWater: 'drain' }
const FIRM = { version: 1, name: 'Weir', gallon: 'us', schools: SCHOOLS }

const stored = async (): Promise<unknown> =>
  peek(
    world.database,
    `select (select md5(string_agg(site::text, '')) from site) as sites, (select md5(string_agg(person::text, '')) from person) as people, (select md5(string_agg(firm::text, '')) from firm) as firms, (select count(*) from fact_receipt) as facts`,
  )

test.each([
  ['POST', '/api/sites', { id: NEW_ID, ...SITE, name: ' ' }, 'name'],
  ['POST', '/api/sites', { id: NEW_ID, ...SITE, people: 0 }, 'people'],
  ['POST', '/api/sites', { id: NEW_ID, ...SITE, people: '3' }, 'people'],
  ['POST', '/api/sites', { id: NEW_ID, ...SITE, source: 'sea' }, 'source'],
  ['POST', '/api/sites', { id: NEW_ID, ...SITE, chlorineMgL: 21 }, 'chlorineMgL'],
  ['POST', '/api/sites', { id: 'nine', ...SITE }, 'id'],
  ['POST', '/api/sites', { id: NEW_ID, ...SITE, firmId: NEW_ID }, 'firmId'],
  ['PUT', `/api/sites/${NEW_ID}`, { version: 1, ...SITE, island: 'x'.repeat(81) }, 'island'],
  ['PUT', `/api/sites/${NEW_ID}`, SITE, 'version'],
  ['PUT', `/api/people/${NEW_ID}`, { version: 1, name: 'x', role: 'viewer', skills: [], van: '', active: true }, 'van'],
  ['POST', `/api/people/${NEW_ID}/password`, { password: 'short' }, 'password'],
  ['DELETE', `/api/people/${NEW_ID}/sign-ins/nine`, undefined, 'signInId'],
  ['POST', '/api/people', { ...PERSON, email: 'nowhere' }, 'email'],
  ['POST', '/api/people', { ...PERSON, password: 'short' }, 'password'],
  ['POST', '/api/people', { ...PERSON, role: 'king' }, 'role'],
  ['POST', '/api/people', { ...PERSON, skills: ['diving'] }, 'skills[0]'],
  ['PUT', '/api/firm', { ...FIRM, schools: { ...SCHOOLS, seals: 'glue' } }, 'schools.seals'],
  ['PUT', '/api/firm', { ...FIRM, gallon: 'wine' }, 'gallon'],
  ['POST', '/api/facts', { protocol: 1, deviceId: NEW_ID, sentAt: 'now', facts: [{}] }, 'sentAt'],
  ['POST', '/api/facts', { protocol: 1, deviceId: NEW_ID, sentAt: '2026-11-25T09:00:00Z', facts: [] }, 'facts'],
  ['POST', '/api/me/password', { currentPassword: 'x', newPassword: 'short' }, 'newPassword'],
  ['PUT', `/api/people/${NEW_ID}`, { version: 3_000_000_000, name: 'x', role: 'owner', skills: [], van: null, active: true }, 'version'],
  ['GET', '/api/week?from=soon', undefined, 'from'],
  ['GET', '/api/week?from=9999-12-31', undefined, 'from'],
  ['GET', '/api/round/week?week=0000-01-01', undefined, 'week'],
  ['GET', '/api/van?from=0000-01-01', undefined, 'from'],
  ['GET', '/api/book?before=soon', undefined, 'before'],
  ['GET', '/api/stops/nine', undefined, 'id'],
  ['POST', '/api/calc/readings.tds', { display: -1 }, 'display'],
])('%s %s with a bad %s', async (method, path, input, field) => {
  const before = await stored()
  const { status, body } = await owner.ask(method, path, input)
  expect(status).toBe(400)
  expect(body.error).toMatchObject({ code: 'BAD_INPUT', retryable: false })
  expect(body.error.fields.map(({ path: at }: { path: string }) => at)).toContain(field)
  expect(body.error.message.length).toBeGreaterThan(10)
  expect(await stored()).toEqual(before)
})

test('what is no JSON, too large, or no route says so in the one shape', async () => {
  expect(await owner.ask('POST', '/api/sites', '{"name":')).toMatchObject({ status: 400, body: { error: { code: 'BAD_INPUT' } } })
  expect(await owner.ask('POST', '/api/facts', JSON.stringify({ facts: ['x'.repeat(3_000_000)] }))).toMatchObject({
    status: 413,
    body: { error: { code: 'TOO_LARGE' } },
  })
  expect(await owner.ask('GET', '/api/nothing-here')).toMatchObject({ status: 404, body: { error: { code: 'NOT_FOUND' } } })
  expect(await owner.ask('POST', '/api/calc/readings.nope', {})).toMatchObject({ status: 404 })
})

test('an e-mail that is taken is said at its field', async () => {
  const { status, body } = await owner.ask('POST', '/api/people', { ...PERSON, email: firm.email('viewer') })
  expect(status).toBe(409)
  expect(body.error.fields).toEqual([{ path: 'email', message: 'already in use' }])
})

test('the scriptable core answers as the command does', async () => {
  const input = { inTdsMgL: 180, outTdsMgL: 1, targetTdsMgL: 10, resinL: 18, litresSinceFill: 2000, litresPerDay: 0 }
  const { status, body } = await owner.ask('POST', '/api/calc/readings.resin', [input, input])
  expect(status).toBe(200)
  expect(body).toHaveLength(2)
  expect(body[0]).toMatchObject({ capacityL: expect.closeTo(2750, 9), usedFraction: expect.closeTo(0.72727, 5), daysLeft: null })
})
