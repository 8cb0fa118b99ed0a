import { v7 as uuidv7 } from 'uuid'
import { asApiError } from '../http/failures'
import { peek } from '../testing/database'
import { addFirm, openWorld, type World } from '../testing/world'
import { Site, System, TrainVersion } from './entities/master'
import { MOST_WAITING } from './scope'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'otterbank')
})
afterAll(() => world.close())

const site = (n: number) => ({
  id: uuidv7(),
  name: `House ${n}’s “café”, no. ${n}`,
  village: 'Quay',
  island: 'Thrawn',
  access: 'line one\nline two',
  contact: '',
  phone: '',
  people: 3,
  source: 'municipal' as const,
  chlorineMgL: n % 2 === 0 ? 0.5 : null,
  version: 1,
})

test('thousands of rows go in as they are, under the firm’s own name', async () => {
  const rows = Array.from({ length: 2345 }, (_, n) => site(n))
  await world.deps.inFirm(firm.firmId, (scope) => scope.insertMany(Site, rows))
  const stored = await world.deps.inFirm(firm.firmId, (scope) => scope.find(Site))
  const byId = new Map(stored.map((row) => [row.id, row]))
  for (const row of rows) expect(byId.get(row.id)).toMatchObject({ ...row, firmId: firm.firmId, intakeId: null, goneAt: null })
})

test('trees, instants and defaults come through', async () => {
  const [one, system] = [site(1), uuidv7()]
  const goneAt = new Date('2026-11-25T10:11:12.345Z')
  const train = { nodes: [{ id: 'source', kind: 'source' as const }], pipes: [] }
  await world.deps.inFirm(firm.firmId, async (scope) => {
    await scope.insertMany(Site, [{ ...one, goneAt }])
    await scope.insertMany(System, [{ id: system, siteId: one.id, name: 'Kitchen', trainVersion: 1 }])
    await scope.insertMany(TrainVersion, [{ systemId: system, version: 1, train: train as never }])
    await scope.insertMany(System, [])
    expect((await scope.findOne(Site, { id: one.id }))?.goneAt).toEqual(goneAt)
    expect((await scope.findOne(TrainVersion, { systemId: system }))?.train).toEqual(train)
  })
  expect(await peek(world.database, 'select search from system where id = $1', [system])).toEqual([{ search: 'kitchen' }])
})

test('one bad row leaves none', async () => {
  const rows = [site(1), { ...site(2), people: 0 }]
  await expect(world.deps.inFirm(firm.firmId, (scope) => scope.insertMany(Site, rows))).rejects.toThrow('check constraint')
  expect(await world.deps.inFirm(firm.firmId, (scope) => scope.findOne(Site, { id: rows[0]?.id ?? '' }))).toBeNull()
})

test('another firm’s name in a row is not taken', async () => {
  const rival = await addFirm(world, 'rival')
  const row = { ...site(7), firmId: rival.firmId }
  await world.deps.inFirm(firm.firmId, (scope) => scope.insertMany(Site, [row as never]))
  expect(await peek(world.database, 'select firm_id from site where id = $1', [row.id])).toEqual([{ firm_id: firm.firmId }])
})

test('so many may wait for a connection; whoever comes then is told at once to come again, and those who wait are served', async () => {
  const ask = () => world.deps.inFirm(firm.firmId, (scope) => scope.query<{ one: number }>('select 1 as one where $1::uuid is not null'))
  let open: () => void = () => undefined
  const held = new Promise<void>((resolve) => {
    open = resolve
  })
  // Every connection of the world is at work.
  let begun = 0
  const holders = Array.from({ length: 4 }, () =>
    world.deps.inFirm(firm.firmId, () => {
      begun += 1
      return held
    }),
  )
  while (begun < 4) await new Promise((resolve) => setTimeout(resolve, 5))
  const waiting = Array.from({ length: MOST_WAITING }, ask)
  const beyond = await Promise.allSettled([ask(), ask(), ask()])
  expect(beyond.map(({ status }) => status)).toEqual(['rejected', 'rejected', 'rejected'])
  const refused = asApiError((beyond[0] as PromiseRejectedResult).reason)
  expect([refused.code, refused.status, refused.more.retryAfterS]).toEqual(['BUSY', 503, 1])
  open()
  await Promise.all(holders)
  expect(await Promise.all(waiting)).toHaveLength(MOST_WAITING)
})
