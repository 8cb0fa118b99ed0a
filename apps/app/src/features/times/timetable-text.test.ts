import { isWrong, seasonsOf, seasonsText, tidesOf, tidesText } from './timetable-text'

function right<T extends object>(read: T | { wrongLine: number }): T {
  if (isWrong(read)) throw new Error(`line ${read.wrongLine} is wrong`)
  return read
}

test('a season is a line: from day to day, out and back; written as it is read', () => {
  const seasons = right(seasonsOf('11-01 – 03-31: 10:00, 14.30 / 12:00; 16:00\n\n12-24..12-26: /\n'))
  expect(seasons).toEqual([
    { from: '11-01', to: '03-31', departures: [600, 870], returns: [720, 960] },
    { from: '12-24', to: '12-26', departures: [], returns: [] },
  ])
  expect(seasonsOf(seasonsText(seasons))).toEqual(seasons)
})

test('safe times are a line for each day, as they are copied out of a table; a day alone is closed', () => {
  const tides = right(tidesOf('2026-12-02\t09:00-13:00\n2026-12-01 08:10–12:00, 20:30–23:50\n2026-12-03'))
  expect(tides).toEqual({
    '2026-12-01': [
      [490, 720],
      [1230, 1430],
    ],
    '2026-12-02': [[540, 780]],
    '2026-12-03': [],
  })
  expect(tidesText(tides)).toBe('2026-12-01 08:10–12:00, 20:30–23:50\n2026-12-02 09:00–13:00\n2026-12-03')
})

test('the line that is wrong is named', () => {
  expect(seasonsOf('11-01–03-31: 10:00 / 12:00\n13-01–03-31: 10:00 / 12:00')).toEqual({ wrongLine: 2 })
  expect(seasonsOf('11-01–03-31: 10:00 /')).toEqual({ wrongLine: 1 })
  expect(seasonsOf('in winter at ten')).toEqual({ wrongLine: 1 })
  expect(tidesOf('2026-12-01 12:00–08:00')).toEqual({ wrongLine: 1 })
  expect(tidesOf('2026-12-01\n1 December 8–12')).toEqual({ wrongLine: 2 })
})
