import { openWorld, type Person, type World } from '../testing/world'
import { demoDeviceKey, demoDevices, REPORTING_DAYS } from './devices'
import { demoId } from './ids'

let world: World
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

const HOUR_MS = 3_600_000

async function report(id: string, readings: { at: string; seq: number; value: number }[]): Promise<{ stored: number; alreadyHad: number }> {
  const response = await world.app.request('/api/telemetry', {
    method: 'POST',
    headers: { 'content-type': 'application/json', authorization: `Device ${demoDeviceKey(id)}` },
    body: JSON.stringify({ readings }),
  })
  expect(response.status).toBe(200)
  return (await response.json()) as { stored: number; alreadyHad: number }
}

test('the demo’s devices report by their own keys; what they show is of the instant, so a repeat is a repeat', async () => {
  const start = world.clock.now.getTime() - REPORTING_DAYS * 24 * HOUR_MS
  for (const device of demoDevices(start)) {
    const again = demoDevices(start).find(({ id }) => id === device.id)
    const hours = Array.from({ length: 24 * REPORTING_DAYS }, (_, hour) => start + hour * HOUR_MS)
    const readings = hours.map((at) => ({ at: new Date(at).toISOString(), seq: Math.floor(at / 1000), value: device.valueAt(at) }))
    const values = readings.map(({ value }) => value)
    expect(values.every((value, index) => index === 0 || value >= (values[index - 1] ?? 0))).toBe(true)
    expect(again?.valueAt(start + 5 * HOUR_MS)).toBe(device.valueAt(start + 5 * HOUR_MS))
    expect(await report(device.id, readings)).toEqual({ stored: readings.length, alreadyHad: 0 })
    expect(await report(device.id, readings.slice(0, 50))).toEqual({ stored: 0, alreadyHad: 50 })
  }
})

test('a lamp’s hours and a house’s litres reach their stages', async () => {
  await world.deps.refreshSoon((await isla.ask('GET', '/api/firm')).body.id)
  const series = async (site: string, position: number): Promise<{ quantity: string; points: unknown[] }[]> =>
    (await isla.ask('GET', `/api/stages/${demoId('stage', site, position)}`)).body.series
  const lamp = (await series('school', 4)).find(({ quantity }) => quantity === 'lamp-hours')
  expect(lamp?.points).toHaveLength(1)
  const litres = (await series('choir-school', 1)).find(({ quantity }) => quantity === 'litres')
  expect((litres?.points ?? []).length).toBeGreaterThan(30)
})
