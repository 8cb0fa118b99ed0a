import fc from 'fast-check'
import { dayIn } from './zone'

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

test('a zone that does not exist is named', () => {
  expect(() => dayIn('Atlantic/Skellan', new Date(0))).toThrow('Atlantic/Skellan')
})
