import { setTimeout as sleep } from 'node:timers/promises'
import { type DemoDevice, demoDeviceKey, demoDevices, REPORTING_DAYS } from './devices'

/** The demo's devices as a process of its own: it knows an address and keys, and sends what they show as real ones would. */
const url = process.env.EVEN_ROUND_URL
const demoDay = process.env.DEMO_DAY
if (!url || !demoDay) throw new Error('EVEN_ROUND_URL and DEMO_DAY are required')

const HOUR_MS = 3_600_000
const BATCH = 500
const EVERY_MS = 60_000
const AGAIN_MS = 5_000

const startMs = Date.parse(`${demoDay}T00:00:00Z`) - REPORTING_DAYS * 24 * HOUR_MS

async function send(device: DemoDevice, instants: readonly number[]): Promise<boolean> {
  // The instant is the sequence number too: what is sent twice is the same reading.
  const readings = instants.map((atMs) => ({ at: new Date(atMs).toISOString(), seq: Math.floor(atMs / 1000), value: device.valueAt(atMs) }))
  const response = await fetch(`${url}/api/telemetry`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', authorization: `Device ${demoDeviceKey(device.id)}` },
    body: JSON.stringify({ readings }),
  }).catch(() => null)
  if (response?.status === 401) return true // the firm took this device away: it stays silent
  return response?.ok === true
}

/** What was missed while nobody listened, hour by hour, then one reading a minute. */
async function report(device: DemoDevice): Promise<never> {
  let next = startMs
  for (;;) {
    const now = Date.now()
    const waiting: number[] = []
    for (let at = next; at <= now && waiting.length < BATCH; at += HOUR_MS) waiting.push(at)
    const last = waiting.at(-1)
    if (last !== undefined) {
      if (await send(device, waiting)) next = last + HOUR_MS
      else await sleep(AGAIN_MS)
      continue
    }
    await send(device, [now])
    await sleep(EVERY_MS)
  }
}

await Promise.all(demoDevices(startMs).map(report))
