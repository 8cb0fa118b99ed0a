import { driveMinutes } from '@evenround/core/round/roads'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'
import { ISLAND_PLACES, islandTravel } from './islands'
import { travelBetween } from './matrix'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let owner: Person
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'strait')
  owner = await world.signIn(firm.email('owner'))
})
afterAll(() => world.close())

const FERRY = {
  kind: 'ferry',
  name: 'Holm ferry',
  from: { area: '', lat: 50.01, lon: 0 },
  to: { area: 'Holm', lat: 50.19, lon: 0 },
  minutes: 20,
  boardMin: 5,
  departures: [660, 540, 540],
  returns: [600, 900],
  open: [],
}
const put = (person: Person, id: string, version: number, more: object = {}) =>
  person.ask('PUT', `/api/times/crossings/${id}`, { ...FERRY, ...more, version })
const between = () =>
  world.deps.inFirm(firm.firmId, (scope) =>
    travelBetween(
      scope,
      islandTravel,
      [
        { id: 'yard', name: 'yard', island: '', lat: 50, lon: 0 },
        { id: 'house', name: 'house', island: 'Holm', lat: 50.2, lon: 0 },
      ],
      { now: world.clock.now, winding: 1.3 },
    ),
  )

test('two who are the first to ask for the ways at the same time both get them', async () => {
  const ways = (winding: number) =>
    world.deps.inFirm(firm.firmId, (scope) =>
      travelBetween(scope, islandTravel, ISLAND_PLACES.slice(0, 3), { now: world.clock.now, winding }),
    )
  // Each has a connection already, and the map is worked out: what is left is who writes first.
  await Promise.all([ways(1.2), ways(1.25)])
  const [one, other] = await Promise.all([ways(1.3), ways(1.3)])
  expect(one.places).toHaveLength(3)
  expect(other).toEqual(one)
})

test('two who ask for the same ways the other way round go on, both of them', async () => {
  const twice = (...windings: number[]) =>
    world.deps.inFirm(firm.firmId, async (scope) => {
      for (const winding of windings) await travelBetween(scope, islandTravel, ISLAND_PLACES.slice(0, 3), { now: world.clock.now, winding })
      return 'done'
    })
  await Promise.all([twice(1.31), twice(1.32)])
  // With nothing to throw away neither waits for the other at that.
  await peek(world.database, 'delete from travel_matrix')
  expect(await Promise.all([twice(1.33, 1.34), twice(1.34, 1.33)])).toEqual(['done', 'done'])
})

test('a ferry is added, edited on the version that was seen, and the ways follow it at once', async () => {
  const id = uuidv7()
  // Twenty-two kilometres through the air: over land, until somebody says that water lies between.
  expect(driveMinutes(await between(), 'yard', 'house', 480)).toBe(33)
  const added = await put(owner, id, 0)
  expect(added.body.crossings).toEqual([{ ...FERRY, id, departures: [540, 660], version: 1 }])
  expect(driveMinutes(await between(), 'yard', 'house', 480)).toBe(86)
  expect((await put(owner, id, 1, { departures: [490] })).body.crossings[0]).toMatchObject({ departures: [490], version: 2 })
  const stale = await put(owner, id, 1)
  expect([stale.status, stale.body.error.current.version]).toEqual([409, 2])
  expect((await owner.ask('DELETE', `/api/times/crossings/${id}`)).body.crossings).toEqual([])
  expect(driveMinutes(await between(), 'yard', 'house', 480)).toBe(33)
})

test.each([
  ['to', { to: { ...FERRY.to, area: '' } }],
  ['departures', { returns: [] }],
  ['open', { kind: 'causeway', open: [[600, 500]] }],
  ['minutes', { minutes: 0 }],
])('what cannot be is refused at %s', async (field, more) => {
  const { status, body } = await put(owner, uuidv7(), 0, more)
  expect([status, body.error.fields.map(({ path }: { path: string }) => path)]).toEqual([400, [field]])
})

test('other sailings in winter and a table of safe times are kept, sorted and without what the kind does not have', async () => {
  const id = uuidv7()
  const winter = { from: '11-01', to: '03-31', departures: [700, 600], returns: [840] }
  const ferry = (await put(owner, id, 0, { seasons: [winter], tides: { '2026-12-01': [[480, 720]] } })).body.crossings[0]
  expect([ferry.seasons, ferry.tides]).toEqual([[{ ...winter, departures: [600, 700] }], undefined])
  const tides = { '2026-12-01': [[480, 720]], '2026-12-02': [] }
  const causeway = (await put(owner, id, 1, { kind: 'causeway', departures: [], returns: [], tides })).body.crossings[0]
  expect([causeway.seasons, causeway.tides]).toEqual([undefined, tides])
  // A program that knows nothing of them leaves them; one that says there are none takes them out.
  expect((await put(owner, id, 2, { kind: 'causeway', departures: [], returns: [] })).body.crossings[0].tides).toEqual(tides)
  expect((await put(owner, id, 3, { kind: 'causeway', departures: [], returns: [], tides: {} })).body.crossings[0].tides).toBeUndefined()
  for (const [field, more] of [
    ['seasons', { seasons: [{ ...winter, returns: [] }] }],
    ['seasons[0].from', { seasons: [{ ...winter, from: '13-01' }] }],
    ['tides', { kind: 'causeway', tides: { '2026-12-01': [[720, 480]] } }],
  ] as const) {
    const { status, body } = await put(owner, id, 4, more)
    expect([status, body.error.fields.map(({ path }: { path: string }) => path)]).toEqual([400, [field]])
  }
  expect((await owner.ask('DELETE', `/api/times/crossings/${id}`)).status).toBe(200)
})

test('a technician looks and changes nothing', async () => {
  const technician = await world.signIn(firm.email('technician'))
  expect((await technician.ask('GET', '/api/times/crossings')).status).toBe(200)
  expect((await put(technician, uuidv7(), 0)).status).toBe(403)
})
