import clock from './clock.cjs'

const DAY_MS = 86_400_000

describe('a clock that runs ahead', () => {
  const scope = { Date }
  clock.moveClock(scope, 3 * DAY_MS)
  test('now is ahead, by every way of asking', () => {
    const ahead = [scope.Date.now(), new scope.Date().getTime(), Date.parse(scope.Date())].map((at) =>
      Math.round((at - Date.now()) / DAY_MS),
    )
    expect(ahead).toEqual([3, 3, 3])
  })
  test('an instant that is named stays what it is', () => {
    expect(new scope.Date('2028-02-29T12:00:00Z').toISOString()).toBe('2028-02-29T12:00:00.000Z')
    expect(new scope.Date(0).getTime()).toBe(0)
    expect(scope.Date.UTC(2028, 1, 29)).toBe(Date.UTC(2028, 1, 29))
    expect(scope.Date.parse('2028-02-29')).toBe(Date.parse('2028-02-29'))
  })
  test('dates of it are dates', () => {
    expect(new scope.Date()).toBeInstanceOf(Date)
    expect(new scope.Date()).toBeInstanceOf(scope.Date)
  })
  test('it can be moved while it runs', () => {
    const moved = { Date }
    let days = 1
    clock.moveClock(moved, () => days * DAY_MS)
    const before = moved.Date.now()
    days = 3
    expect(Math.round((moved.Date.now() - before) / DAY_MS)).toBe(2)
  })
  test('its source stands alone: pages of the browser get it as text', () => {
    const page = { Date }
    new Function('scope', 'aheadMs', `(${clock.moveClock.toString()})(scope, aheadMs)`)(page, -DAY_MS)
    expect(Math.round((page.Date.now() - Date.now()) / DAY_MS)).toBe(-1)
  })
})

test('a run on a day begins at ten in the morning, UTC', () => {
  const machine = Date.parse('2026-11-25T08:30:15.678Z')
  expect(new Date(machine + clock.aheadOf('2028-02-29', machine)).toISOString()).toBe('2028-02-29T10:00:00.000Z')
})

test.each(['2027-02-29', '2028-2-29', 'tomorrow', '', '2028-02-30', '2028-13-01'])('%p is no day', (day) => {
  expect(() => clock.aheadOf(day)).toThrow(RangeError)
})

test('this run lives on its own day', () => {
  const ahead = Number(process.env.EVEN_ROUND_CLOCK_AHEAD_MS ?? clock.aheadOf(clock.TEST_DAY))
  expect(Number.isFinite(ahead)).toBe(true)
  expect(/^\d{4}-\d{2}-\d{2}$/.test(clock.TEST_DAY)).toBe(true)
})
