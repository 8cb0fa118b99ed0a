import fc from 'fast-check'
import { v7 as uuidv7 } from 'uuid'
import { demoId } from '../../demo/ids'
import { peek } from '../../testing/database'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'
import { thinTelemetry } from './store'

let world: World
let isla: Person
const systemId = demoId('system', 'kelp-press')
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

const addDevice = async (name = 'Counter', who = isla, system?: string) => {
  const [any] = await peek<{ id: string }>(
    world.database,
    `select system.id from system join site on site.id = system.site_id where site.name = 'Kelp press'`,
  )
  const answer = await who.ask('POST', '/api/devices', {
    id: uuidv7(),
    systemId: system ?? any?.id ?? systemId,
    name,
    kind: 'pulse-counter',
  })
  return answer.body as { device: { id: string; systemId: string }; key: string }
}
const send = async (key: string, readings: unknown) => {
  const response = await world.app.request('/api/telemetry', {
    method: 'POST',
    headers: { authorization: `Device ${key}`, 'content-type': 'application/json' },
    body: JSON.stringify({ readings }),
  })
  return { status: response.status, body: await response.json() }
}
const DAY = 86_400_000
const at = (daysAgo: number, hour = 12) => new Date(Date.parse('2026-11-20T00:00:00Z') - daysAgo * DAY + hour * 3_600_000).toISOString()
const days = (id: string) =>
  peek<{ day: string; first_value: number; last_value: number; readings: number }>(
    world.database,
    `select day::text, first_value, last_value, readings from device_day where device_id = $1 order by day`,
    [id],
  )

test('readings fall into their days; a repeat changes nothing', async () => {
  const { device, key } = await addDevice()
  const batch = [1, 2, 3].map((seq) => ({ at: at(1, 10 + seq), seq, value: 100 * seq }))
  expect((await send(key, batch)).body).toEqual({ stored: 3, alreadyHad: 0 })
  expect((await send(key, batch)).body).toEqual({ stored: 0, alreadyHad: 3 })
  expect(await days(device.id)).toEqual([{ day: '2026-11-19', first_value: 100, last_value: 300, readings: 3 }])
})

test('late and unordered ones find their place: any order of any batches gives the same days', async () => {
  const readings = Array.from({ length: 12 }, (_, i) => ({ at: at(3 - Math.floor(i / 4), i + 1), seq: i, value: 50 * i }))
  const told: unknown[] = []
  await fc.assert(
    fc.asyncProperty(fc.shuffledSubarray(readings, { minLength: 12 }), fc.integer({ min: 1, max: 5 }), async (shuffled, size) => {
      const { device, key } = await addDevice()
      for (let from = 0; from < shuffled.length; from += size) await send(key, shuffled.slice(from, from + size))
      told.push(await days(device.id))
    }),
    { numRuns: 6 },
  )
  for (const one of told) expect(one).toEqual(told[0])
})

test('raw readings are thinned, the days keep their totals', async () => {
  const { device, key } = await addDevice()
  await send(
    key,
    [80, 79, 1].map((ago, seq) => ({ at: at(ago), seq, value: 1000 + seq })),
  )
  const before = await days(device.id)
  const [firm] = await peek<{ firm_id: string }>(world.database, 'select firm_id from firm limit 1')
  const gone = await world.deps.inFirm(firm?.firm_id ?? '', (scope) => thinTelemetry(scope, new Date('2026-11-25T00:00:00Z')))
  expect(gone).toBeGreaterThanOrEqual(2)
  expect(await days(device.id)).toEqual(before)
  expect(await peek(world.database, 'select 1 from device_reading where device_id = $1', [device.id])).toHaveLength(1)
})

test('a counter that reports moves the forecasts of its system', async () => {
  const [stage] = await peek<{ stage_id: string; system_id: string; fitted_on: string }>(
    world.database,
    `select stage_id, system_id, fitted_on::text from stage_forecast where media = 'fluoride-media' limit 1`,
  )
  const page = async () => (await isla.ask('GET', `/api/stages/${stage?.stage_id}`)).body
  const before = await page()
  const { key } = await addDevice('Tap counter', isla, stage?.system_id)
  const from = Date.parse(`${stage?.fitted_on}T12:00:00Z`)
  const span = Math.floor((Date.now() - from) / DAY)
  await send(
    key,
    [0, 1, 2, 3, 4].map((i) => ({
      at: new Date(from + (i * span * DAY) / 4 + 3_600_000).toISOString(),
      seq: i,
      value: i * 40 * (span / 4),
    })),
  )
  const after = await page()
  const litres = (one: { forecast: { causes: { cause: string; p50: string }[] } }) =>
    one.forecast.causes.find(({ cause }) => cause === 'throughput')?.p50 ?? ''
  // Forty litres a day is several times what so few people usually draw.
  expect(litres(after) < litres(before)).toBe(true)
})

test('a wrong key, an ended device and bad readings are refused in words', async () => {
  const { device, key } = await addDevice()
  expect((await send('nobody-has-this-key-at-all', [{ at: at(1), seq: 1, value: 1 }])).status).toBe(401)
  const bad = await send(key, [{ at: 'noon', seq: -1, value: 'many' }])
  expect([bad.status, bad.body.error.fields.map(({ path }: { path: string }) => path)]).toEqual([
    400,
    ['readings[0].at', 'readings[0].seq', 'readings[0].value'],
  ])
  expect((await send(key, [])).status).toBe(400)
  await isla.ask('DELETE', `/api/devices/${device.id}`)
  expect((await send(key, [{ at: at(1), seq: 1, value: 1 }])).status).toBe(401)
})

test('a key opens its own firm only; a technician adds none', async () => {
  const rival = await addFirm(world, 'rival-telemetry')
  const owner = await world.signIn(rival.email('owner'))
  const { key } = await addDevice('Theirs', owner, rival.systemId)
  await send(key, [{ at: at(1), seq: 1, value: 7 }])
  const rows = await peek<{ firm_id: string }>(world.database, 'select distinct firm_id from device_reading where value = 7')
  expect(rows).toEqual([{ firm_id: rival.firmId }])
  const tam = await world.signIn('tam@fennick.example')
  expect((await tam.ask('POST', '/api/devices', { id: uuidv7(), systemId: rival.systemId, name: 'x', kind: 'pulse-counter' })).status).toBe(
    403,
  )
})
