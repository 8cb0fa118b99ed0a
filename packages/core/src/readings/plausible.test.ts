import { fitness, pairDoubt, type Treats } from '.'

const CARBON_SET: Treats = { membrane: false, resin: false, minerals: false }
const OSMOSIS: Treats = { ...CARBON_SET, membrane: true }
const ask = (untreatedMgL: number, treatedMgL: number, more: Partial<Parameters<typeof pairDoubt>[0]> = {}) =>
  pairDoubt({ untreatedMgL, treatedMgL, treats: CARBON_SET, source: 'municipal', membraneDays: null, history: 0, ...more })

test.each([
  // Two cups of the same town water through carbon: nearly alike.
  [212, 208],
  [212, 240],
  [95, 90],
])('%d in and %d out of a carbon set is what it does', (untreated, treated) => expect(ask(untreated, treated)).toBeNull())

test('treated 9,400 against untreated 95 is asked about, and no single mark explains it', () => {
  expect(ask(95, 9400)).toEqual({ water: 'treated', why: 'adds', timesTen: false })
})

test('a missed ten-times mark on the untreated water is offered', () => {
  // 950 in, shown as 95, and 940 out.
  expect(ask(95, 940)).toEqual({ water: 'untreated', why: 'adds', timesTen: true })
})

test('a carbon set that takes out nine tenths does not; its treated value lacks the mark', () => {
  expect(ask(412, 41)).toEqual({ water: 'treated', why: 'takes-out-too-much', timesTen: true })
  expect(ask(412, 150)).toEqual({ water: 'treated', why: 'takes-out-too-much', timesTen: false })
})

test('a membrane takes out nine tenths; forty in a hundred on the day after its change it does not pass', () => {
  const osmosis = (untreated: number, treated: number, membraneDays: number | null) =>
    ask(untreated, treated, { treats: OSMOSIS, membraneDays })
  expect(osmosis(412, 41, 1)).toBeNull()
  expect(osmosis(412, 165, 1)).toMatchObject({ why: 'new-membrane-passes' })
  expect(osmosis(41, 26, 1)).toEqual({ water: 'untreated', why: 'new-membrane-passes', timesTen: true })
  // Years old it may well.
  expect(osmosis(412, 165, 900)).toBeNull()
  expect(osmosis(412, 165, null)).toBeNull()
})

test('untreated water far outside what its source gives is asked about at a first visit only', () => {
  expect(ask(12, 12)).toEqual({ water: 'untreated', why: 'outside-source', timesTen: true })
  expect(ask(9000, 9000, { source: 'roof' })).toEqual({ water: 'untreated', why: 'outside-source', timesTen: false })
  expect(ask(12, 12, { source: 'roof' })).toBeNull()
  expect(ask(12, 12, { history: 3 })).toBeNull()
})

test('a mineral stage may add what others may not', () => {
  expect(ask(40, 180, { treats: { ...OSMOSIS, minerals: true } })).toBeNull()
  expect(ask(40, 180)).not.toBeNull()
})

test('what water is fit for: taste by the published bands, spots, a membrane worth its while, and never a word for germs', () => {
  const fit = (untreatedMgL: number, treatedMgL: number, more: object = {}) =>
    fitness({ untreatedMgL, treatedMgL, municipal: true, hasMembrane: false, hasLamp: false, ...more })
  expect([300, 301, 900, 1200, 1201].map((mgL) => fit(mgL, mgL).taste)).toEqual(['excellent', 'good', 'fair', 'poor', 'unacceptable'])
  expect([fit(200, 10).spotFree, fit(200, 11).spotFree]).toEqual([true, false])
  expect([fit(500, 500).membraneWorth, fit(501, 501).membraneWorth, fit(800, 60, { hasMembrane: true }).membraneWorth]).toEqual([
    false,
    true,
    false,
  ])
  expect([
    fit(90, 90).germsOpen,
    fit(90, 90, { municipal: false }).germsOpen,
    fit(90, 90, { municipal: false, hasLamp: true }).germsOpen,
  ]).toEqual([false, true, false])
})
