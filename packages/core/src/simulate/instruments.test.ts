import fc from 'fast-check'
import { lampControllerAt, meterDrift, photometerOf, pulseCounterAt, tdsMeterAt } from '.'

const DIP = { waterMgL: 20, carriedMgL: 410, waterC: 12, drift: 1, seed: 7 }

test('a probe that comes from other water shows it first and settles on the new one', () => {
  expect(tdsMeterAt(DIP, 0).display).toBeGreaterThan(100)
  expect(tdsMeterAt(DIP, 30)).toEqual({ display: 20, timesTen: false })
  expect(tdsMeterAt(DIP, 4)).toEqual(tdsMeterAt(DIP, 4))
})

test('above three digits the meter shows a tenth and a small mark', () => {
  const { display, timesTen } = tdsMeterAt({ ...DIP, waterMgL: 1450, carriedMgL: 1450 }, 20)
  expect(timesTen).toBe(true)
  expect(display).toBeGreaterThanOrEqual(144)
  expect(display).toBeLessThanOrEqual(146)
})

test('drift grows with the days since the meter was set, and stays small', () => {
  expect(meterDrift(3, 0)).toBe(1)
  expect(Math.abs(meterDrift(3, 180) - 1)).toBeCloseTo(0.0324, 6)
})

const COUNTER = { seed: 5, startMs: 0, startL: 52_000, litresPerDay: 300, litresPerPulse: 10, places: 6 }
test('a counter never falls, goes by whole pulses, and draws about its litres a day', () => {
  const time = fc.integer({ min: 0, max: 60 * 86_400_000 })
  fc.assert(
    fc.property(time, time, (a, b) => {
      const [early, late] = [Math.min(a, b), Math.max(a, b)]
      expect(pulseCounterAt(COUNTER, late)).toBeGreaterThanOrEqual(pulseCounterAt(COUNTER, early))
      expect(pulseCounterAt(COUNTER, late) % 10).toBe(0)
    }),
  )
  const perDay = (pulseCounterAt(COUNTER, 60 * 86_400_000) - 52_000) / 60
  expect(perDay).toBeGreaterThan(250)
  expect(perDay).toBeLessThan(360)
})

test('a counter begins again past its last place', () => {
  expect(pulseCounterAt({ ...COUNTER, startL: 999_990, litresPerDay: 300 }, 5 * 86_400_000)).toBeLessThan(3000)
})

test('a lamp’s controller counts hours and sees the intensity fall', () => {
  const lamp = { startMs: 0, startHours: 100, lostPercentPerHour: 30 / 9000, seed: 2 }
  expect(lampControllerAt(lamp, 3_600_000 * 50).hours).toBe(150)
  expect(lampControllerAt(lamp, 3_600_000 * 8900).intensityPercent).toBeLessThan(76)
})

test('a photometer is near the truth and says when it is over', () => {
  expect(photometerOf(0.5, 1).mgL).toBeCloseTo(0.5, 1)
  expect(photometerOf(12, 1)).toEqual({ mgL: 8, over: true })
  expect(photometerOf(0, 4).mgL).toBeLessThan(0.03)
})
