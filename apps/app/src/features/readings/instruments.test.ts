import type { StopPageDto } from '@evenround/contract/site'
import { standIns } from '../../data/instruments/stand-ins'
import { stopWith, TODAY } from '../../testing/stop'
import { standInSite } from './stand-in-site'

const NOW = Date.parse(`${TODAY}T10:00:00Z`)
const page = (changed: number[]): StopPageDto => ({
  stop: stopWith('reverse-osmosis-5', changed),
  history: { untreatedMgL: [400, 410, 420], treatedMgL: [28, 26], baselinePassage: 0.05 },
  wear: [],
  counter: { displayL: 9000, at: new Date(NOW - 10 * 86_400_000).toISOString() },
})

beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())

test('a demo site’s water is its own past; a new membrane makes what new ones make', () => {
  expect(standInSite(page([4]), 'before')).toMatchObject({ untreatedMgL: 410, treatedMgL: 28 })
  expect(standInSite(page([4]), 'after').treatedMgL).toBeCloseTo(20.5, 9)
  expect(standInSite(page([1]), 'after').treatedMgL).toBe(28)
})

test('the meter shows the water it came from, settles on the one it is in, and ends by itself', async () => {
  const meter = standIns(standInSite(page([1]), 'before'), () => NOW)['tds-meter']
  if (!meter) throw new Error('no meter')
  const read = async (water: string) => {
    const shown: number[] = []
    const { ended } = meter.measure(water, ({ display }) => shown.push(display))
    await jest.advanceTimersByTimeAsync(60_000)
    return { shown, end: await ended }
  }
  expect((await read('untreated')).end).toMatchObject({ settled: true, timesTen: false })
  const treated = await read('treated')
  // It comes out of 410 mg/L: first far too high, then 28 within a drifting meter's few per cent.
  expect(treated.shown[0]).toBeGreaterThan(100)
  expect(Math.abs(treated.end.display - 28)).toBeLessThanOrEqual(2)
})

test('held it gives what stands; stopped it gives nothing', async () => {
  const meter = standIns(standInSite(page([1]), 'before'), () => NOW)['tds-meter']
  const first = meter?.measure('untreated', () => undefined)
  await jest.advanceTimersByTimeAsync(600)
  first?.hold()
  expect(await first?.ended).toMatchObject({ settled: false })
  const second = meter?.measure('untreated', () => undefined)
  const failed = expect(second?.ended).rejects.toThrow('was stopped')
  second?.stop()
  await failed
})
