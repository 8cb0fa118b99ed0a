import fc from 'fast-check'
import { addDays, atLeast, atMost, dayOfYear, daysBetween, isIsoDay, isoWeekday, median, parseQuantity, weekStart } from '.'

describe('days', () => {
  test('calendar facts', () => {
    expect(addDays('2024-02-28', 1)).toBe('2024-02-29')
    expect(addDays('2026-02-28', 1)).toBe('2026-03-01')
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2)
    expect(isoWeekday('2026-11-25')).toBe(3)
    expect(isoWeekday('1969-12-28')).toBe(7)
    expect(weekStart('2026-11-29')).toBe('2026-11-23')
    expect(dayOfYear('2026-12-31')).toBe(365)
    expect(dayOfYear('2028-12-31')).toBe(366)
  })
  test('no day that the calendar has not', () => {
    expect(['2026-02-29', '2026-13-01', '2026-1-1', '2026-01-01T00:00', ''].map(isIsoDay)).toEqual([false, false, false, false, false])
    expect(() => addDays('2026-02-30', 1)).toThrow('no such day: 2026-02-30')
    expect(() => addDays('soon', 1)).toThrow('YYYY-MM-DD')
  })
  test('there and back again', () => {
    fc.assert(
      fc.property(fc.integer({ min: -40_000, max: 40_000 }), (days) => {
        const day = addDays('2026-11-25', days)
        expect(isIsoDay(day)).toBe(true)
        expect(daysBetween('2026-11-25', day)).toBe(days)
      }),
    )
  })
})

describe('numbers', () => {
  test('median of odd and even counts', () => {
    expect(median([3, 1, 2])).toBe(2)
    expect(median([4, 1, 3, 2])).toBe(2.5)
    expect(() => median([])).toThrow('at least 1')
  })
  test('limits forgive floating-point noise and no more', () => {
    expect(atMost(0.1 + 0.2, 0.3)).toBe(true)
    expect(atLeast(0.3, 0.1 + 0.2)).toBe(true)
    expect(atMost(0.3000001, 0.3)).toBe(false)
  })
})

describe('typed quantities', () => {
  const value = (text: string, options: Parameters<typeof parseQuantity>[1]) => {
    const parsed = parseQuantity(text, options)
    return parsed.ok ? parsed.value : parsed.reason
  }
  test.each([
    ['412', 412],
    ['1.2k', 1200],
    ['1.2 K', 1200],
    [' 0.5 ', 0.5],
    ['.5', 0.5],
    ['5.', 5],
    ['1,200', 1200],
    ['1 200', 1200],
    ['1,234,567.5', 1234567.5],
    ['3/4', 0.75],
    ['1 1/2', 1.5],
    ['-3', -3],
    ['−3', -3],
    ['', 'empty'],
    ['abc', 'not-a-number'],
    ['1,2', 'not-a-number'],
    ['1/0', 'not-a-number'],
    ['1..2', 'not-a-number'],
    ['12 apples', 'unknown-unit'],
    ['1e3', 'unknown-unit'],
  ])('%j is %s', (text, expected) => {
    expect(value(text, { dimension: 'number' })).toBe(expected)
  })
  test('a decimal comma where the reader writes one', () => {
    expect(value('0,5', { dimension: 'number', decimal: ',' })).toBe(0.5)
    expect(value('1.200', { dimension: 'number', decimal: ',' })).toBe(1200)
    expect(value('1,2k', { dimension: 'number', decimal: ',' })).toBe(1200)
  })
  test('legal definitions of the units', () => {
    expect(value('12 gal', { dimension: 'volume' })).toBeCloseTo(45.424941408, 9)
    expect(value('12 gal', { dimension: 'volume', gallon: 'imperial' })).toBeCloseTo(54.55308, 9)
    expect(value('45 psi', { dimension: 'pressure' })).toBeCloseTo(310.264078, 5)
    expect(value('3 bar', { dimension: 'pressure' })).toBe(300)
    expect(value('3/4 in', { dimension: 'length' })).toBeCloseTo(0.01905, 9)
    expect(value('50 °F', { dimension: 'temperature' })).toBeCloseTo(10, 9)
    expect(value('2 gpm', { dimension: 'flow' })).toBeCloseTo(7.570823568, 9)
    expect(value('1.2 ms/cm', { dimension: 'concentration', unit: 'us/cm' })).toBe(1200)
  })
  test('a unit of another dimension is named, not guessed', () => {
    const parsed = parseQuantity('12 psi', { dimension: 'volume' })
    expect(parsed).toMatchObject({ ok: false, reason: 'unknown-unit' })
    expect(parsed.ok ? [] : parsed.expected).toContain('us-gal')
  })
  test('whatever is typed, a number or a reason comes back', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const parsed = parseQuantity(text, { dimension: 'pressure' })
        if (parsed.ok) expect(Number.isFinite(parsed.value)).toBe(true)
      }),
    )
  })
})
