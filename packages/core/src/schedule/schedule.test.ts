import fc from 'fast-check'
import { addDays, daysBetween } from '../units'
import { firstSlot, isWorkingDay, MONDAY_TO_FRIDAY, type WorkCalendar, workingDayFrom, workingDaysAfter, workingDaysBefore } from '.'

// 27 November 2026 is a Friday.
const FRIDAY = '2026-11-27'
const CHRISTMAS: WorkCalendar = { weekdays: [1, 2, 3, 4, 5], off: [{ fromDay: '2026-12-24', toDay: '2027-01-01' }] }
const TUESDAYS_AND_THURSDAYS: WorkCalendar = { weekdays: [2, 4], off: [] }

test('weekends and holidays are stepped over, both ends of a holiday included', () => {
  expect(workingDaysAfter(MONDAY_TO_FRIDAY, FRIDAY, 1)).toBe('2026-11-30')
  expect(workingDaysAfter(MONDAY_TO_FRIDAY, FRIDAY, 3)).toBe('2026-12-02')
  expect(workingDaysAfter(CHRISTMAS, '2026-12-23', 1)).toBe('2027-01-04')
  expect(workingDayFrom(TUESDAYS_AND_THURSDAYS, FRIDAY)).toBe('2026-12-01')
  expect(workingDaysBefore(MONDAY_TO_FRIDAY, '2026-11-30', 5)).toBe('2026-11-23')
  expect(workingDaysBefore(CHRISTMAS, '2027-01-05', 2)).toBe('2026-12-23')
  expect(workingDaysBefore(MONDAY_TO_FRIDAY, FRIDAY, 0)).toBe(FRIDAY)
})

test('nobody who never works has a working day', () => {
  const never: WorkCalendar = { weekdays: [], off: [] }
  expect([workingDayFrom(never, FRIDAY), workingDaysAfter(never, FRIDAY, 1), workingDaysBefore(never, FRIDAY, 1)]).toEqual([
    null,
    null,
    null,
  ])
})

test('going on by working days and back again comes to the same day', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 1500 }),
      fc.integer({ min: 1, max: 30 }),
      fc.subarray([1, 2, 3, 4, 5, 6, 7], { minLength: 1 }),
      (offset, count, weekdays) => {
        const calendar: WorkCalendar = { weekdays, off: CHRISTMAS.off }
        const start = workingDayFrom(calendar, addDays('2026-01-01', offset)) as string
        const later = workingDaysAfter(calendar, start, count) as string
        expect(isWorkingDay(calendar, later)).toBe(true)
        expect(daysBetween(start, later)).toBeGreaterThanOrEqual(count)
        expect(workingDaysBefore(calendar, later, count)).toBe(start)
      },
    ),
  )
})

describe('the first slot', () => {
  const wanted = { beginsMin: 480, latestBeginMin: 900, calendars: [MONDAY_TO_FRIDAY], to: null }
  test('the same day while it can still begin, else the next working morning', () => {
    expect(firstSlot({ ...wanted, from: { day: '2026-11-25', minute: 680 } })).toEqual({ day: '2026-11-25', minute: 680 })
    expect(firstSlot({ ...wanted, from: { day: '2026-11-25', minute: 300 } })).toEqual({ day: '2026-11-25', minute: 480 })
    expect(firstSlot({ ...wanted, from: { day: FRIDAY, minute: 901 } })).toEqual({ day: '2026-11-30', minute: 480 })
    expect(firstSlot({ ...wanted, calendars: [TUESDAYS_AND_THURSDAYS, CHRISTMAS], from: { day: '2026-12-24', minute: 0 } })).toEqual({
      day: '2027-01-05',
      minute: 480,
    })
  })
  test('a window that ends on the weekend is worked on the weekend', () => {
    // Dosed on a Friday, to be flushed within a day of Saturday, one in the morning.
    const flush = { ...wanted, from: { day: '2026-11-28', minute: 60 }, to: { day: '2026-11-29', minute: 60 } }
    expect(firstSlot(flush)).toEqual({ day: '2026-11-28', minute: 480 })
    expect(firstSlot({ ...flush, to: { day: '2026-12-01', minute: 600 } })).toEqual({ day: '2026-11-30', minute: 480 })
  })
  test('of two calendars the first gives way: the laboratory’s days bind more than the technician’s', () => {
    const sample = { ...wanted, from: { day: '2026-11-30', minute: 600 }, to: { day: '2026-12-02', minute: 600 } }
    expect(firstSlot({ ...sample, calendars: [TUESDAYS_AND_THURSDAYS, MONDAY_TO_FRIDAY] })?.day).toBe('2026-12-01')
    expect(firstSlot({ ...sample, calendars: [{ weekdays: [5], off: [] }, MONDAY_TO_FRIDAY] })?.day).toBe('2026-11-30')
  })
  test('what is over before anybody may begin is named at its own first moment', () => {
    const night = { from: { day: '2026-11-25', minute: 1300 }, to: { day: '2026-11-26', minute: 100 } }
    expect(firstSlot({ ...wanted, ...night })).toEqual({ day: '2026-11-25', minute: 1300 })
  })
  test('never before its beginning, never after its end', () => {
    const moment = fc.record({ offset: fc.integer({ min: 0, max: 400 }), minute: fc.integer({ min: 0, max: 1439 }) })
    fc.assert(
      fc.property(
        moment,
        fc.integer({ min: 0, max: 20_000 }),
        fc.subarray([1, 2, 3, 4, 5, 6, 7]),
        ({ offset, minute }, length, weekdays) => {
          const from = { day: addDays('2026-01-01', offset), minute }
          const end = minute + length
          const to = { day: addDays(from.day, Math.floor(end / 1440)), minute: end % 1440 }
          const slot = firstSlot({ ...wanted, from, to, calendars: [{ weekdays, off: [] }, CHRISTMAS] })
          const order = (one: { day: string; minute: number }) => daysBetween('2026-01-01', one.day) * 1440 + one.minute
          if (slot === null) throw new Error('a window with an end always has a slot')
          expect(order(slot)).toBeGreaterThanOrEqual(order(from))
          expect(order(slot)).toBeLessThanOrEqual(order(to))
        },
      ),
    )
  })
})
