import fc from 'fast-check'
import { dayIn, instantAt } from './zone'

const ZONES = ['Atlantic/Azores', 'Pacific/Auckland', 'America/Los_Angeles', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'UTC'] as const

test('an instant falls on the day that the zone’s own calendar says, in any zone and over every clock change', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...ZONES),
      fc.array(fc.date({ min: new Date('2019-01-01'), max: new Date('2031-01-01'), noInvalidDate: true }), { minLength: 1, maxLength: 30 }),
      (zone, instants) => {
        const calendar = new Intl.DateTimeFormat('sv-SE', { timeZone: zone })
        for (const instant of [...instants, ...instants]) expect(dayIn(zone, instant)).toBe(calendar.format(instant))
      },
    ),
    { numRuns: 60 },
  )
})

test('midnight belongs to the day it begins, also on the night the clocks go back', () => {
  const read = (instant: Date): string => dayIn('Atlantic/Azores', instant)
  // Summer time (UTC) ends on 25 October 2026: at 01:00 it is midnight again, an hour behind UTC. That day has twenty-five hours.
  expect(read(new Date('2026-10-24T23:59:59.999Z'))).toBe('2026-10-24')
  expect(read(new Date('2026-10-25T00:00:00.000Z'))).toBe('2026-10-25')
  expect(read(new Date('2026-10-26T00:59:59.999Z'))).toBe('2026-10-25')
  expect(read(new Date('2026-10-26T01:00:00.000Z'))).toBe('2026-10-26')
})

test('minutes after midnight are what a clock on the wall shows, on every day of twenty-four hours', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...ZONES),
      fc.date({ min: new Date('2019-01-01'), max: new Date('2031-01-01'), noInvalidDate: true }),
      fc.integer({ min: 0, max: 1439 }),
      (zone, date, minute) => {
        const day = date.toISOString().slice(0, 10)
        const next = new Date(date.getTime() + 86_400_000).toISOString().slice(0, 10)
        const hours = (instantAt(zone, next, 0).getTime() - instantAt(zone, day, 0).getTime()) / 3_600_000
        const wall = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' })
        const clock = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`
        if (hours === 24) expect(wall.format(instantAt(zone, day, minute))).toBe(`${day} ${clock}`)
        else expect([23, 23.5, 24.5, 25]).toContain(hours)
      },
    ),
    { numRuns: 300 },
  )
})

test('eight in the morning stays eight in the morning over a clock change', () => {
  // Azores: summer time (UTC) ends on 25 October 2026 and begins on 28 March 2027; in winter an hour behind UTC.
  expect(instantAt('Atlantic/Azores', '2026-10-24', 480).toISOString()).toBe('2026-10-24T08:00:00.000Z')
  expect(instantAt('Atlantic/Azores', '2026-10-25', 480).toISOString()).toBe('2026-10-25T09:00:00.000Z')
  expect(instantAt('Atlantic/Azores', '2027-03-27', 480).toISOString()).toBe('2027-03-27T09:00:00.000Z')
  expect(instantAt('Atlantic/Azores', '2027-03-28', 480).toISOString()).toBe('2027-03-28T08:00:00.000Z')
})

test('a zone that does not exist is named', () => {
  expect(() => dayIn('Atlantic/Skellan', new Date(0))).toThrow('Atlantic/Skellan')
})
