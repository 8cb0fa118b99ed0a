import { addFirm, METRICS_TOKEN, openWorld, PASSWORD, type Person, type World } from '../testing/world'
import { depthOf, loggedPath, requestIdOf } from './front'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let owner: Person
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'tarrow')
  owner = await world.signIn(firm.email('owner'))
})
afterAll(() => world.close())

const NAMED = { version: 1, name: 'x', gallon: 'us', schools: {} }
const change = (headers: Record<string, string>, body: string = JSON.stringify(NAMED)) =>
  world.app.request('http://even.example/api/firm', {
    method: 'PUT',
    headers: { host: 'even.example', cookie: owner.cookie, 'content-type': 'application/json', ...headers },
    body,
  })

test.each([
  [{ origin: 'http://elsewhere.example' }, 403],
  [{ origin: 'null' }, 403],
  [{ origin: 'http://even.example.elsewhere.example' }, 403],
  [{ 'sec-fetch-site': 'cross-site' }, 403],
  [{ 'sec-fetch-site': 'same-site' }, 403],
  // Let through, to be refused for what it says.
  [{ origin: 'http://even.example', 'sec-fetch-site': 'same-origin' }, 400],
  [{ origin: 'https://round.example' }, 400],
  [{}, 400],
])('a change asked for by a page with %p answers %p', async (headers, status) => {
  expect((await change(headers as Record<string, string>)).status).toBe(status)
})

test('a stranger’s page signs nobody in and out', async () => {
  for (const path of ['/api/auth/sign-in', '/api/auth/sign-out', '/api/auth/forgot', '/api/setup']) {
    const answer = await world.app.request(path, {
      method: 'POST',
      headers: { origin: 'https://elsewhere.example', 'content-type': 'application/json' },
      body: JSON.stringify({ email: firm.email('owner'), password: PASSWORD }),
    })
    expect({ path, status: answer.status, cookies: answer.headers.getSetCookie() }).toEqual({ path, status: 403, cookies: [] })
  }
})

test.each([
  ['text/plain', JSON.stringify(NAMED), 'expected the content type application/json'],
  ['application/x-www-form-urlencoded', 'version=1', 'expected the content type application/json'],
  ['application/json', `${'['.repeat(65)}${']'.repeat(65)}`, 'expected JSON no deeper than 64 levels'],
  ['application/json', '{"a":'.repeat(100_000), 'expected JSON no deeper than 64 levels'],
])('a body of %s is refused with what is wrong', async (type, body, said) => {
  const answer = await change({ 'content-type': type }, body)
  expect([answer.status, (await answer.json()).error.fields]).toEqual([400, [{ path: '$', message: said }]])
})

test('a packed body is not unpacked, signed in or not', async () => {
  expect((await change({ 'content-encoding': 'gzip' })).status).toBe(400)
  const out = await world.app.request('/api/auth/sign-in', {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'content-encoding': 'br' },
    body: '{}',
  })
  expect(out.status).toBe(400)
})

test('what a signed-out door takes is small', async () => {
  const answer = await world.app.request('/api/auth/sign-in', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'a@b.example', password: 'x'.repeat(40_000) }),
  })
  expect(answer.status).toBe(413)
})

test('depth is counted without reading what stands in texts', () => {
  expect([depthOf('1'), depthOf('[]'), depthOf('{"a":[{"b":1}]}'), depthOf('["[[[["]'), depthOf('"\\"[["'), depthOf('[[')]).toEqual([
    0, 1, 3, 1, 0, 2,
  ])
})

test('secret addresses stand in no log, and names of requests are short and plain', () => {
  expect(loggedPath('/api/feeds/c2VjcmV0.ics')).toBe('/api/feeds/…')
  expect(loggedPath('/api/sites')).toBe('/api/sites')
  expect(requestIdOf('from-the-edge')).toBe('from-the-edge')
  for (const bad of [undefined, '', 'x'.repeat(65), 'line\nbreak', '<script>']) expect(requestIdOf(bad)).toMatch(/^[0-9a-f-]{36}$/)
})

test('metrics are for whoever has their token, the description for people who are in', async () => {
  expect((await world.app.request('/api/metrics')).status).toBe(404)
  expect((await world.app.request('/api/metrics', { headers: { authorization: 'Bearer something else' } })).status).toBe(404)
  expect((await world.app.request('/api/metrics', { headers: { authorization: `Bearer ${METRICS_TOKEN}` } })).status).toBe(200)
  expect((await world.app.request('/api/openapi.json')).status).toBe(401)
  expect((await owner.ask('GET', '/api/openapi.json')).status).toBe(200)
})

test('an answer may stand in no frame, as the older header says too', async () => {
  expect((await world.app.request('/api/health')).headers.get('x-frame-options')).toBe('DENY')
})
