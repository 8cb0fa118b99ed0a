import { dayError } from './day-error'

test.each([
  ['', undefined],
  ['2026-12-24', undefined],
  ['2028-02-29', undefined],
  ['2027-02-29', 'Choose the day'],
  ['24.12.2026', 'Choose the day'],
  ['2026-13-01', 'Choose the day'],
  ['tomorrow', 'Choose the day'],
])('%p as a day: %p', (text, said) => {
  expect(dayError(text)).toBe(said)
})

test('a last day comes after the first one, or is the same where that is allowed', () => {
  expect(dayError('2026-12-23', '2026-12-24')).toBe('after the first day')
  expect(dayError('2026-12-24', '2026-12-24')).toBeUndefined()
  expect(dayError('2026-12-24', '2026-12-24', false)).toBe('after the first day')
  expect(dayError('2026-12-24', 'not typed yet')).toBeUndefined()
})
