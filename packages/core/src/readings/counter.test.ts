import fc from 'fast-check'
import { countLitres, litresSince } from '.'

const DAY = 86_400_000
const look = (day: number, displayL: number, startedOver = false) => ({ atMs: day * DAY, displayL, startedOver })
const totals = (...looks: Parameters<typeof countLitres>[0]) => countLitres(looks).map(({ totalL, step }) => [totalL, step])

describe('a litre counter', () => {
  test('counts forward from the first look', () => {
    expect(totals(look(0, 1200), look(30, 1500), look(60, 1900))).toEqual([
      [0, 'first'],
      [300, 'forward'],
      [700, 'forward'],
    ])
  })
  test('five places roll over at 100,000', () => {
    expect(totals(look(0, 99_400), look(30, 350))).toEqual([
      [0, 'first'],
      [950, 'rolled-over'],
    ])
  })
  test('a new meter begins at nothing', () => {
    expect(totals(look(0, 8800), look(40, 120, true), look(50, 200))).toEqual([
      [0, 'first'],
      [120, 'started-over'],
      [200, 'forward'],
    ])
  })
  test('one that falls for no reason counts nothing, and the next is held against the last good look', () => {
    expect(totals(look(0, 4000), look(10, 410), look(20, 4300))).toEqual([
      [0, 'first'],
      [0, 'backward'],
      [300, 'forward'],
    ])
  })
  test('order of entry does not matter, totals never fall', () => {
    const any = fc.array(
      fc.record({ day: fc.integer({ min: 0, max: 900 }), displayL: fc.integer({ min: 0, max: 120_000 }), over: fc.boolean() }),
      { maxLength: 12 },
    )
    fc.assert(
      fc.property(any, (list) => {
        const looks = [...new Map(list.map((one) => [one.day, look(one.day, one.displayL, one.over)])).values()]
        const counts = countLitres(looks)
        expect(countLitres([...looks].reverse())).toEqual(counts)
        for (let i = 1; i < counts.length; i++) expect(counts[i]?.totalL ?? 0).toBeGreaterThanOrEqual(counts[i - 1]?.totalL ?? 0)
      }),
    )
  })
  test('litres since a fitting between two looks are shared by time', () => {
    const counts = countLitres([look(0, 1000), look(20, 1200), look(50, 1800)])
    expect(litresSince(counts, 10 * DAY)).toEqual([
      { atMs: 20 * DAY, litres: 100 },
      { atMs: 50 * DAY, litres: 700 },
    ])
    expect(litresSince(counts, 20 * DAY).map(({ litres }) => litres)).toEqual([0, 600])
    expect(litresSince(counts, 60 * DAY)).toEqual([])
  })
})

test('a counter of its own takes over from looks at the door: nothing is counted between the two, and both halves stand', () => {
  const counts = countLitres([
    { atMs: 0, displayL: 1000, startedOver: false },
    { atMs: 10, displayL: 1500, startedOver: false },
    { atMs: 20, displayL: 40, startedOver: false, otherCounter: true },
    { atMs: 30, displayL: 100, startedOver: false },
  ])
  expect(counts.map(({ totalL, step }) => [totalL, step])).toEqual([
    [0, 'first'],
    [500, 'forward'],
    [500, 'other-counter'],
    [560, 'forward'],
  ])
})
