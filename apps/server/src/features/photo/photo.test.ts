import sharp from 'sharp'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let technician: Person
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'otterbank')
  technician = await world.signIn(firm.email('technician'))
})
afterAll(() => world.close())

/** A wide picture held sideways, with everything a camera writes into it. */
const taken = (): Promise<Buffer> =>
  sharp({ create: { width: 2400, height: 1200, channels: 3, background: '#884422' } })
    .withExif({ IFD0: { Make: 'Loom & Tarn', Artist: 'Tam Orrin' }, IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '58/1 18/1 0/1' } })
    .withMetadata({ orientation: 6 })
    .jpeg()
    .toBuffer()

async function send(id: string, body: Buffer | string, who = technician, place: Partial<{ siteId: string; stageId: string }> = {}) {
  const query = new URLSearchParams({
    siteId: firm.siteId,
    visitId: uuidv7(),
    stageId: firm.stageIds[0],
    takenAt: '2026-11-25T10:00:00.000Z',
    ...place,
  })
  return world.app.request(`/api/photos/${id}?${query}`, {
    method: 'PUT',
    headers: { cookie: who.cookie, 'content-type': 'image/jpeg' },
    body: new Uint8Array(Buffer.from(body)),
  })
}
const count = async (table: string) => Number((await peek<{ n: string }>(world.database, `select count(*) as n from ${table}`))[0]?.n)

test('a photo is kept once: upright, shrunk, and without a word of the camera or the place', async () => {
  const id = uuidv7()
  const original = await taken()
  expect((await sharp(original).metadata()).exif).toBeDefined()
  expect((await send(id, original)).status).toBe(200)
  expect((await send(id, original)).status).toBe(200)
  expect([await count('photo'), await count('photo_bytes')]).toEqual([1, 1])
  const answer = await world.app.request(`/api/photos/${id}`, { headers: { cookie: technician.cookie } })
  expect(answer.headers.get('content-type')).toBe('image/jpeg')
  const kept = await sharp(Buffer.from(await answer.arrayBuffer())).metadata()
  // Turned a quarter: 2,400 × 1,200 stands as 1,200 × 2,400, shrunk to 1,600 on the long side.
  expect([kept.width, kept.height]).toEqual([800, 1600])
  expect([kept.exif, kept.orientation, kept.xmp]).toEqual([undefined, undefined, undefined])
})

test('what is no picture, too heavy, nobody’s stage or not allowed is refused and nothing is kept', async () => {
  const before = await count('photo')
  const refused = await send(uuidv7(), 'this is text')
  expect([refused.status, (await refused.json()).error.fields]).toEqual([
    400,
    [{ path: '$', message: 'expected a picture (JPEG, PNG or WebP) that can be read' }],
  ])
  expect((await send(uuidv7(), Buffer.alloc(2_200_000))).status).toBe(413)
  expect((await send(uuidv7(), await taken(), technician, { stageId: uuidv7() })).status).toBe(404)
  expect((await send(uuidv7(), await taken(), await world.signIn(firm.email('viewer')))).status).toBe(403)
  expect((await technician.ask('GET', `/api/photos/${uuidv7()}`)).status).toBe(404)
  expect(await count('photo')).toBe(before)
})

test('a photo of the installation or of a label stays with the system, at its site; a photo of nothing is refused', async () => {
  const put = async (id: string, said: Record<string, string>) =>
    world.app.request(`/api/photos/${id}?${new URLSearchParams({ takenAt: '2026-11-25T10:00:00.000Z', siteId: firm.siteId, ...said })}`, {
      method: 'PUT',
      headers: { cookie: technician.cookie, 'content-type': 'image/jpeg' },
      body: new Uint8Array(await taken()),
    })
  const [installation, label] = [uuidv7(), uuidv7()]
  expect((await put(installation, { what: 'installation', systemId: firm.systemId })).status).toBe(200)
  expect((await put(label, { what: 'label', systemId: firm.systemId, takenAt: '2026-11-25T11:00:00.000Z' })).status).toBe(200)
  expect((await put(uuidv7(), { what: 'label' })).status).toBe(400)
  expect((await put(uuidv7(), { what: 'label', systemId: uuidv7() })).status).toBe(404)
  expect((await put(uuidv7(), { visitId: uuidv7() })).status).toBe(400)
  const page = (await technician.ask('GET', `/api/sites/${firm.siteId}`)).body
  expect(page.photos).toMatchObject([
    { id: label, what: 'label', systemId: firm.systemId },
    { id: installation, what: 'installation', systemId: firm.systemId, width: 800, height: 1600 },
  ])
})

/** A WebP or PNG that is small to send and large to unfold. */
const unfolds = async (format: 'png' | 'webp', width: number, height: number): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: '#ffffff' }, limitInputPixels: false })
    .toFormat(format, format === 'png' ? { compressionLevel: 9 } : { lossless: true, effort: 0 })
    .toBuffer()
/** Kept by the firm's quiet technician: whoever asks, the server goes on answering. */
const problemOf = async (answer: Response): Promise<[number, string]> => [
  answer.status,
  ((await answer.json()) as { error: { fields: { message: string }[] } }).error.fields[0]?.message ?? '',
]

test('what is no photograph is refused by its first bytes: drawings, documents, moving pictures and what names itself otherwise', async () => {
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="20000" height="20000">${'<circle r="9000"/>'.repeat(400)}</svg>`
  const expected = [400, 'expected a picture (JPEG, PNG or WebP) that can be read']
  for (const bytes of [
    Buffer.from(drawing),
    Buffer.from('GIF89a\xff\xff\xff\xff', 'latin1'),
    Buffer.from('P6 60000 60000 255\n'),
    Buffer.from('%PDF-1.7\n'),
    Buffer.from([0xff, 0xd8, 0xff, 0xe0]),
    Buffer.from('II*\0\x08\0\0\0', 'latin1'),
  ])
    expect(await problemOf(await send(uuidv7(), bytes))).toEqual(expected)
})

test('a small file that unfolds to a large picture is refused by its head, before it is unfolded', async () => {
  const trap = await unfolds('png', 12_000, 12_000)
  expect(trap.length).toBeLessThan(1_000_000)
  expect(await problemOf(await send(uuidv7(), trap))).toEqual([400, 'expected one picture of at most 16 million points'])
  expect(await problemOf(await send(uuidv7(), await unfolds('webp', 5000, 5000)))).toEqual([
    400,
    'expected one picture of at most 16 million points',
  ])
})

test('a heap of pictures of one firm waits its turn or is turned away, and everybody else is answered meanwhile', async () => {
  const picture = await taken()
  const heap = Array.from({ length: 40 }, () => send(uuidv7(), picture))
  const others = await Promise.all([1, 2, 3].map(() => technician.ask('GET', '/api/me')))
  expect(others.map(({ status }) => status)).toEqual([200, 200, 200])
  const statuses = (await Promise.all(heap)).map(({ status }) => status)
  expect(new Set(statuses)).toEqual(new Set([200, 503]))
  expect(statuses.filter((status) => status === 200).length).toBeGreaterThanOrEqual(12)
})
