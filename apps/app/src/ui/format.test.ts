import { dayOfInstant, daySpan, duration, figure, instantText, longDay, money, percent, shortDay, timeOfDay } from './format'

test('days', () => {
  expect(longDay('2026-03-06')).toBe('Friday 6 March')
  expect(shortDay('2026-03-06', '2026-11-25')).toBe('6 Mar')
  expect(shortDay('2027-03-06', '2026-11-25')).toBe('6 Mar 2027')
  expect(daySpan('2026-02-24', '2026-03-19', '2026-11-25')).toBe('24 Feb–19 Mar')
  expect(daySpan('2026-12-20', '2027-01-19', '2026-11-25')).toBe('20 Dec–19 Jan 2027')
})

test('times and lengths', () => {
  expect([timeOfDay(485), timeOfDay(0), timeOfDay(1439)]).toEqual(['08:05', '00:00', '23:59'])
  expect([duration(45), duration(60), duration(125)]).toEqual(['45 min', '1 h 00', '2 h 05'])
})

test('an instant belongs to the firm’s day, also around its clock change', () => {
  expect(dayOfInstant('2026-11-25T00:30:00.000Z', 'Atlantic/Azores')).toBe('2026-11-24')
  expect(dayOfInstant('2026-07-01T00:30:00.000Z', 'Atlantic/Azores')).toBe('2026-07-01')
  expect(instantText('2026-03-29T00:30:00.000Z', 'Atlantic/Azores')).toContain('23:30')
})

test('figures, shares and money', () => {
  expect([figure(11.46), figure(411.7), figure(0)]).toEqual(['11.5', '412', '0'])
  expect(percent(0.1141)).toBe('11.4 %')
  expect(money(940, 'EUR')).toBe('€9.40')
})
