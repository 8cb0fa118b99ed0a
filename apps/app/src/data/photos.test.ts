import { type Answer, serverThat, until } from '../testing/device'
import { base, TICK } from '../testing/facts'
import { useOutbox } from './outbox'
import { dropPhoto, keepPhoto, openPhotos, sendPhotos, usePhotos } from './photos'

const PLACE = { siteId: 'site', visitId: 'visit', stageId: 'stage' } as const
const OWNER = 'firm/tam'
let side = { width: 4000, height: 3000 }
let drawn: [number, number][] = []

beforeAll(() => {
  Object.defineProperty(globalThis, 'createImageBitmap', {
    value: async (file: Blob) => {
      if (file.type !== 'image/jpeg') throw new Error('no picture')
      return { ...side, close: () => undefined }
    },
  })
  Object.defineProperty(HTMLCanvasElement.prototype, 'getContext', {
    value: () => ({ drawImage: (_: unknown, __: number, ___: number, width: number, height: number) => drawn.push([width, height]) }),
  })
  HTMLCanvasElement.prototype.toBlob = (done) => done(new Blob(['small'], { type: 'image/jpeg' }))
})
beforeEach(async () => {
  drawn = []
  useOutbox.setState({ entries: [] })
  for (const { id } of usePhotos.getState().photos) await dropPhoto(id)
  await openPhotos(OWNER)
})
const picture = new Blob(['a picture'], { type: 'image/jpeg' })
const photos = () => usePhotos.getState().photos
const good: Answer = { status: 200, body: { ok: true } }

test('a photo is drawn small, sent once, and is then off the device', async () => {
  const { asked } = serverThat(() => good)
  await keepPhoto(OWNER, PLACE, picture)
  await until(() => photos().length === 0)
  expect(drawn).toEqual([[1600, 1200]])
  expect(asked.map(({ method }) => method)).toEqual(['PUT'])
  const { searchParams, pathname } = new URL(asked[0]?.path ?? '', 'http://device')
  expect(pathname).toMatch(/^\/api\/photos\/[0-9a-f-]{36}$/)
  expect(Object.fromEntries(searchParams)).toMatchObject(PLACE)
})

test('what is small already is not blown up; what is no picture is said to whoever took it', async () => {
  serverThat(() => good)
  side = { width: 640, height: 480 }
  await keepPhoto(OWNER, PLACE, picture)
  await until(() => photos().length === 0)
  expect(drawn).toEqual([[640, 480]])
  await expect(keepPhoto(OWNER, PLACE, new Blob(['pdf'], { type: 'application/pdf' }))).rejects.toThrow('no picture')
  expect(photos()).toEqual([])
})

test('without a network it waits, and goes out once there is one', async () => {
  let network = false
  serverThat(() => (network ? good : 'no network'))
  await keepPhoto(OWNER, PLACE, picture)
  await until(() => usePhotos.getState().trouble)
  expect(photos().map(({ state }) => state)).toEqual(['waiting'])
  network = true
  window.dispatchEvent(new Event('online'))
  await until(() => photos().length === 0)
  expect(usePhotos.getState().trouble).toBe(false)
})

test('a refused photo is kept to be looked at, and none behind it waits', async () => {
  let first = true
  serverThat(() => {
    const answer: Answer = first ? { status: 400, body: { error: { code: 'BAD_INPUT', message: 'no picture', retryable: false } } } : good
    first = false
    return answer
  })
  useOutbox.setState({ entries: [] })
  await keepPhoto(OWNER, PLACE, picture)
  await until(() => photos()[0]?.state === 'refused')
  await keepPhoto(OWNER, PLACE, picture)
  await until(() => photos().length === 1)
  expect(photos().map(({ state }) => state)).toEqual(['refused'])
  await dropPhoto(photos()[0]?.id ?? '')
  expect(photos()).toEqual([])
})

test('facts come first: a photo waits while one of them does', async () => {
  const { asked } = serverThat(() => good)
  useOutbox.setState({ entries: [{ fact: { ...TICK, ...base('f') }, owner: OWNER, state: 'waiting' }] })
  await keepPhoto(OWNER, PLACE, picture)
  await sendPhotos()
  expect(asked).toEqual([])
  useOutbox.setState({ entries: [] })
  await until(() => photos().length === 0)
  expect(asked).toHaveLength(1)
})

test('another person of the device does not see it', async () => {
  serverThat(() => 'no network')
  await keepPhoto(OWNER, PLACE, picture)
  await openPhotos('firm/wren')
  expect(photos()).toEqual([])
  await openPhotos(OWNER)
  expect(photos()).toHaveLength(1)
})
