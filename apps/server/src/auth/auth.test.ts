import { peek } from '../testing/database'
import { addFirm, asker, openWorld, PASSWORD, type World } from '../testing/world'
import { waitAfter } from './failures'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'quay')
})
afterAll(() => world.close())

const post = (path: string, input: unknown, cookie = '') => asker(world.app, cookie)('POST', path, input)

test('the cookie is HttpOnly and SameSite, the hash is Argon2id, nothing is to be had without signing in', async () => {
  const answer = await post('/api/auth/sign-in', { email: firm.email('owner'), password: PASSWORD })
  expect(answer.status).toBe(200)
  const cookie = answer.headers.getSetCookie().join('\n')
  expect(cookie).toMatch(/HttpOnly/)
  expect(cookie).toMatch(/SameSite=Lax/)
  const [account] = await peek<{ password: string }>(world.database, 'select password from auth_account where user_id = $1', [firm.ownerId])
  expect(account?.password).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/)
  const documented = (await (await world.signIn(firm.email('owner'))).ask('GET', '/api/openapi.json')).body as {
    paths: Record<string, Record<string, unknown>>
  }
  for (const [path, methods] of Object.entries(documented.paths)) {
    for (const method of Object.keys(methods)) {
      const response = await world.app.request(path.replaceAll(/\{\w+\}/g, firm.siteId), { method: method.toUpperCase() })
      expect({ path, method, status: response.status, code: ((await response.json()) as { error: { code: string } }).error.code }).toEqual({
        path,
        method,
        status: 401,
        code: 'NOT_SIGNED_IN',
      })
    }
  }
})

test('a wrong password and an unknown e-mail sound the same', async () => {
  const wrong = await post('/api/auth/sign-in', { email: firm.email('viewer'), password: 'wrong wrong' })
  const unknown = await post('/api/auth/sign-in', { email: 'nobody@nowhere.example', password: 'wrong wrong' })
  expect([wrong.status, unknown.status]).toEqual([401, 401])
  expect(wrong.body).toEqual(unknown.body)
})

test('missing fields are named at their place', async () => {
  const answer = await post('/api/auth/sign-in', { email: 'not an address', password: '' })
  expect(answer.status).toBe(400)
  expect(answer.body.error.fields.map(({ path }: { path: string }) => path)).toEqual(['email', 'password'])
})

test('repeated failures are slowed, for that e-mail only, and the right password waits too', async () => {
  const email = firm.email('technician')
  for (let tries = 0; tries < 5; tries++) expect((await post('/api/auth/sign-in', { email, password: 'wrong wrong' })).status).toBe(401)
  const slowed = await post('/api/auth/sign-in', { email, password: PASSWORD })
  expect(slowed.status).toBe(429)
  expect(slowed.body.error).toMatchObject({ code: 'SLOW_DOWN', retryable: true })
  expect(Number(slowed.headers.get('retry-after'))).toBeGreaterThan(0)
  expect((await post('/api/auth/sign-in', { email: firm.email('owner'), password: PASSWORD })).status).toBe(200)
  world.clock.now = new Date(world.clock.now.getTime() + 6_000)
  expect((await post('/api/auth/sign-in', { email, password: PASSWORD })).status).toBe(200)
  expect(await peek(world.database, 'select 1 from sign_in_failure where who = $1', [email])).toHaveLength(0)
})

test('the wait doubles from the fifth failure on, up to a quarter of an hour', () => {
  expect([1, 4, 5, 6, 7, 12, 40].map(waitAfter)).toEqual([0, 0, 5, 10, 20, 640, 900])
})

test('a changed password ends the other sign-ins and keeps this one', async () => {
  const [here, there] = [await world.signIn(firm.email('technician')), await world.signIn(firm.email('technician'))]
  expect(
    (await here.ask('POST', '/api/me/password', { currentPassword: 'not the one', newPassword: 'a new long password' })).body.error.fields,
  ).toEqual([{ path: 'currentPassword', message: 'not the current password' }])
  expect((await here.ask('POST', '/api/me/password', { currentPassword: PASSWORD, newPassword: 'a new long password' })).status).toBe(200)
  expect((await here.ask('GET', '/api/me')).status).toBe(200)
  expect((await there.ask('GET', '/api/me')).status).toBe(401)
  await expect(world.signIn(firm.email('technician'))).rejects.toThrow('401')
  await world.signIn(firm.email('technician'), 'a new long password')
})

test('an owner resets a password and revokes a lost device; a technician may do neither', async () => {
  const owner = await world.signIn(firm.email('owner'))
  const lost = await world.signIn(firm.email('viewer'))
  const listed = await owner.ask('GET', `/api/people/${firm.viewerId}/sign-ins`)
  expect(listed.body.signIns[0]).toMatchObject({ device: 'Chromium on Android', current: false })
  for (const { id } of listed.body.signIns)
    expect((await owner.ask('DELETE', `/api/people/${firm.viewerId}/sign-ins/${id}`)).status).toBe(200)
  expect((await lost.ask('GET', '/api/me')).status).toBe(401)
  const viewer = await world.signIn(firm.email('viewer'))
  expect((await viewer.ask('POST', `/api/people/${firm.ownerId}/password`, { password: 'mine now, all mine' })).body.error.code).toBe(
    'NO_RIGHT',
  )
  expect((await viewer.ask('GET', `/api/people/${firm.ownerId}/sign-ins`)).status).toBe(403)
  expect((await owner.ask('POST', `/api/people/${firm.viewerId}/password`, { password: 'fresh and long enough' })).status).toBe(200)
  expect((await viewer.ask('GET', '/api/me')).status).toBe(401)
  await world.signIn(firm.email('viewer'), 'fresh and long enough')
})

test('somebody switched off is out at once and cannot come back', async () => {
  const owner = await world.signIn(firm.email('owner'))
  const viewer = await world.signIn(firm.email('viewer'), 'fresh and long enough')
  const edit = { version: 1, name: 'Viewer', role: 'viewer', skills: [], van: null, active: false }
  expect((await owner.ask('PUT', `/api/people/${firm.viewerId}`, edit)).status).toBe(200)
  expect((await viewer.ask('GET', '/api/me')).status).toBe(401)
  const again = await world.signIn(firm.email('viewer'), 'fresh and long enough')
  expect((await again.ask('GET', '/api/me')).status).toBe(401)
})

test('the last owner stays one', async () => {
  const owner = await world.signIn(firm.email('owner'))
  const edit = { version: 1, name: 'Owner', role: 'viewer', skills: [], van: null, active: true }
  expect((await owner.ask('PUT', `/api/people/${firm.ownerId}`, edit)).body.error.code).toBe('CONFLICT')
})

test('rights are asked for at every route that changes something', async () => {
  const technician = await world.signIn(firm.email('technician'), 'a new long password')
  const site = {
    name: 'x',
    village: 'x',
    island: 'x',
    access: '',
    contact: '',
    phone: '',
    people: 1,
    source: 'municipal',
    chlorineMgL: null,
  }
  const schools = { change: 'calendar', membrane: 'fixed-floor', closing: 'hand-only', seals: 'new', order: 'all-out', tankWater: 'drain' }
  const tries: [string, string, unknown][] = [
    ['PUT', '/api/firm', { version: 1, name: 'x', gallon: 'us', schools }],
    ['GET', '/api/people', undefined],
    [
      'POST',
      '/api/people',
      { id: firm.siteId, name: 'x', email: 'x@x.example', role: 'owner', skills: [], van: null, password: 'long enough for this' },
    ],
    ['PUT', `/api/people/${firm.ownerId}`, { version: 1, name: 'x', role: 'owner', skills: [], van: null, active: true }],
    ['PUT', `/api/sites/${firm.siteId}`, { version: 1, ...site }],
  ]
  for (const [method, path, input] of tries) {
    const { status, body } = await technician.ask(method, path, input)
    expect({ path, status, code: body.error?.code }).toEqual({ path, status: 403, code: 'NO_RIGHT' })
  }
})
