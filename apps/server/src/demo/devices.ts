import { createHash } from 'node:crypto'
import { lampControllerAt, pulseCounterAt } from '@evenround/core/simulate'
import { demoId } from './ids'
import { DEMO_PASSWORD, DEMO_SITES } from './world'

/** Counters and controllers of the demo that report by themselves. */
export interface DemoDevice {
  id: string
  systemId: string
  name: string
  kind: 'pulse-counter' | 'lamp-controller'
  /** What it shows at an instant. */
  valueAt: (atMs: number) => number
}

/** Its key is as public as the demo's passwords, and as worthless outside it. */
export const demoDeviceKey = (id: string): string => createHash('sha256').update(`${DEMO_PASSWORD}/${id}`).digest('base64url')

const KINDS = [
  { site: 'school', name: 'Fountains, counter', kind: 'pulse-counter', litresPerDay: 340 },
  { site: 'school', name: 'Fountains, lamp', kind: 'lamp-controller' },
  { site: 'choir-school', name: 'House main, counter', kind: 'pulse-counter', litresPerDay: 4600 },
  { site: 'weaving-mill', name: 'Well line, counter', kind: 'pulse-counter', litresPerDay: 2900 },
  { site: 'lighthouse', name: 'Cistern line, lamp', kind: 'lamp-controller' },
] as const

const seedOf = (id: string): number => Number.parseInt(id.replaceAll('-', '').slice(-7), 16)

/** The demo's devices; `startMs` is the instant they began to report. */
export const demoDevices = (startMs: number): DemoDevice[] =>
  KINDS.map((one) => {
    const id = demoId('device', one.site, one.kind)
    const seed = seedOf(id)
    const shared = { id, systemId: demoId('system', one.site), name: one.name, kind: one.kind }
    if (one.kind === 'pulse-counter') {
      const counter = { seed, startMs, startL: seed % 40_000, litresPerDay: one.litresPerDay, litresPerPulse: 10, places: 7 }
      return { ...shared, valueAt: (atMs) => pulseCounterAt(counter, atMs) }
    }
    const ago = DEMO_SITES.find(({ key }) => key === one.site)?.visits.find(({ changed }) => changed.includes(4))?.ago ?? 0
    const lamp = { startMs, startHours: Math.max(0, ago - REPORTING_DAYS) * 24, lostPercentPerHour: 30 / 9000, seed }
    return { ...shared, valueAt: (atMs) => lampControllerAt(lamp, atMs).hours }
  })

/** They have reported for this long when the demo is looked at. */
export const REPORTING_DAYS = 40
