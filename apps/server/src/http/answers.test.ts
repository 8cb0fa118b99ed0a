import { gunzipSync } from 'node:zlib'
import { addFirm, openWorld, type Person, type World } from '../testing/world'

let world: World
let owner: Person
beforeAll(async () => {
  world = await openWorld('demo')
  await addFirm(world, 'answers')
  owner = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

const get = (path: string, headers: Record<string, string> = {}) =>
  world.app.request(path, { headers: { cookie: owner.cookie, ...headers } })

test('what has not changed is not sent again, and says so without a body', async () => {
  const first = await get('/api/firm')
  const tag = first.headers.get('etag') ?? ''
  expect(tag).toMatch(/^"[0-9a-f]{40}"$/)
  for (const asked of [tag, `W/${tag}`, `"other", ${tag}`]) {
    const again = await get('/api/firm', { 'if-none-match': asked })
    expect([again.status, await again.text(), again.headers.get('etag'), again.headers.get('content-type')]).toEqual([304, '', tag, null])
  }
  expect((await get('/api/firm', { 'if-none-match': '"other"' })).status).toBe(200)
})

test('a large answer goes packed to whoever unpacks it, a small one as it is, each with its length', async () => {
  const plain = await get('/api/sites')
  const text = await plain.text()
  expect(text.length).toBeGreaterThan(4096)
  expect([plain.headers.get('content-encoding'), plain.headers.get('content-length')]).toEqual([null, String(Buffer.byteLength(text))])
  const packed = await get('/api/sites', { 'accept-encoding': 'br, gzip' })
  const bytes = Buffer.from(await packed.arrayBuffer())
  expect([packed.headers.get('content-encoding'), packed.headers.get('content-length')]).toEqual(['gzip', String(bytes.length)])
  expect(gunzipSync(bytes).toString()).toBe(text)
  expect(packed.headers.get('etag')).toBe(plain.headers.get('etag'))
  expect(packed.headers.get('vary')).toContain('accept-encoding')
  expect((await get('/api/firm', { 'accept-encoding': 'gzip' })).headers.get('content-encoding')).toBeNull()
})

test('a refusal, a file and a change carry no tag', async () => {
  expect((await get('/api/stops/nine')).headers.get('etag')).toBeNull()
  expect((await get('/api/round.ics')).headers.get('etag')).toBeNull()
  expect((await owner.ask('POST', '/api/round/open')).headers.get('etag')).toBeNull()
})
