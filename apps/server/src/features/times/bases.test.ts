import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

test('two bases of one name are refused at the name; the same one may move', async () => {
  const id = uuidv7()
  const quay = { name: 'Quay', lat: 58.31, lon: -21.62 }
  expect((await isla.ask('PUT', `/api/times/places/${id}`, quay)).status).toBe(200)
  expect((await isla.ask('PUT', `/api/times/places/${id}`, { ...quay, lat: 58.4 })).status).toBe(200)
  const twice = await isla.ask('PUT', `/api/times/places/${uuidv7()}`, quay)
  expect([twice.status, twice.body.error.fields[0].path]).toEqual([400, 'name'])
})

test('a base on the other side of the earth is kept, and today goes on', async () => {
  expect((await isla.ask('PUT', `/api/times/places/${uuidv7()}`, { name: 'far', lat: -21.39, lon: 179.79 })).status).toBe(200)
  expect((await isla.ask('PUT', `/api/times/places/${uuidv7()}`, { name: 'pole', lat: 82.2, lon: -36.1 })).status).toBe(200)
  const [system] = await peek<{ id: string }>(world.database, 'select id from system limit 1')
  expect((await isla.ask('POST', '/api/round/today/spots', { systemId: system?.id, workMin: 40 })).status).toBe(200)
})
