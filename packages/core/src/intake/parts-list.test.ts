import { type CataloguePart, matchPartsColumns, planParts } from './index'
import { readBarcode, readPrice } from './parts-list'

const NOTHING = { days: null, litres: null, milliequivalents: null, hours: null }
const KNOWN: CataloguePart[] = [
  {
    id: 'a',
    partNumber: 'BRK-SED-10',
    barcode: '5601234500017',
    name: 'Sediment, small',
    maker: 'Brack',
    media: 'sediment',
    housing: 'sump-small',
    supplier: '',
    priceMinor: 940,
    rated: { ...NOTHING, days: 183 },
  },
  {
    id: 'b',
    partNumber: 'BRK-CB-10',
    barcode: '',
    name: 'Carbon',
    maker: 'Brack',
    media: 'carbon-block',
    housing: 'sump-small',
    supplier: '',
    priceMinor: 1680,
    rated: NOTHING,
  },
]
function planned(text: string, more: Partial<Parameters<typeof planParts>[1]> = {}) {
  const [headings = [], ...lines] = text
    .trim()
    .split('\n')
    .map((line) => line.split(';').map((cell) => cell.trim()))
  const options = {
    headings,
    columns: matchPartsColumns(headings),
    gallon: 'us' as const,
    decimal: '.' as const,
    own: [],
    ratedAs: () => ({ ...NOTHING, days: 365 }),
    ...more,
  }
  return planParts(lines, options, KNOWN)
}
const problemsOf = (text: string): string[] =>
  planned(text).rows.flatMap(({ line, problems }) => problems.map(({ heading, message }) => `${line} ${heading ?? '-'}: ${message}`))

test('headings of a supplier’s list are known by their usual words', () => {
  expect(matchPartsColumns(['Article no.', 'Description', 'EAN', 'Net price', 'Brand', 'Category', 'Vendor', 'Colour'])).toEqual([
    'partNumber',
    'name',
    'barcode',
    'price',
    'maker',
    'medium',
    'supplier',
    null,
  ])
})

test.each([
  ['16.80', '.', 1680],
  ['16,80', '.', 1680],
  ['€ 1.216,80', '.', 121_680],
  ['1,216.80 EUR', ',', 121_680],
  ['1,250', '.', 125_000],
  ['1.250', ',', 125_000],
  ['1.250', '.', 125],
  ['12', '.', 1200],
  ['0', '.', 0],
  ['9.995', '.', 1000],
] as const)('a price %s with the decimal mark %s is %d cents', (text, decimal, cents) => {
  expect(readPrice(text, decimal)).toEqual({ ok: true, value: cents })
})

test('what is no price and what a spreadsheet has rounded says so', () => {
  expect(readPrice('on request', '.')).toMatchObject({ ok: false, message: expect.stringContaining('no price') })
  expect(readPrice('-3', '.')).toMatchObject({ ok: false })
  expect(readBarcode('5.60123E+12')).toMatchObject({ ok: false, message: expect.stringContaining('rounded by the spreadsheet') })
  expect(readBarcode(' 5601234500017 ')).toEqual({ ok: true, value: '5601234500017' })
})

test('a part that is there is met by its number, or by its bar code where the line has no number; what it is rated at stays', () => {
  const plan = planned(`
    Part; Bar code; Price; Supplier; Months; Name
    brk-sed-10; 5601234500017; 9.90; Weir Wholesale; 3; Sediment, small
    ; 5601234500017; 9.40; ; ;
    BRK-CB-10; ; 16.80; ; ; Carbon`)
  expect(plan.rows[1]?.problems.map(({ message }) => message)).toEqual([
    'The same part stands in line 2 already',
    'The same bar code stands in line 2 already',
  ])
  expect(plan.parts).toEqual([{ ...KNOWN[0], line: 2, priceMinor: 990, supplier: 'Weir Wholesale', changes: ['supplier', 'price'] }])
  expect(plan.rows[0]?.notes).toEqual(['It is in the catalogue already: its ratings stay as they are'])
  expect(plan.same).toBe(1)
  expect(planned('Bar code; Price\n5601234500017; 8').parts).toMatchObject([{ id: 'a', priceMinor: 800, changes: ['price'] }])
})

test('a new part is rated by the list, else by its medium; gallons of the heading are litres', () => {
  const plan = planned(`
    Part; Kind; Housing; Rated for (gal); Months; Price; Bar code
    OB-CB-20; carbon block; drop-in sump, large; 1000; 6; 59; 4012345
    OB-SED; sediment; ; ; ; ; `)
  expect(plan.parts).toMatchObject([
    {
      id: null,
      partNumber: 'OB-CB-20',
      media: 'carbon-block',
      housing: 'sump-large',
      barcode: '4012345',
      priceMinor: 5900,
      name: 'OB-CB-20',
    },
    { id: null, partNumber: 'OB-SED', media: 'sediment', housing: 'sump-small', priceMinor: 0, rated: { days: 365, litres: null } },
  ])
  // 1,000 US gallons at 3.785411784 L; half a mean year of 365.2425 days.
  expect(plan.parts[0]?.rated.litres).toBeCloseTo(3785.411784, 6)
  expect(plan.parts[0]?.rated.days).toBeCloseTo(182.62125, 6)
})

test('every problem is named at its line and its column, and a bad line takes nobody else with it', () => {
  expect(
    problemsOf(`
    Part; Kind; Price; Bar code; Housing
    ; sediment; 5; ;
    NEW-1; ; 5; ;
    NEW-2; gravel; x; 5601234500017; shoebox
    NEW-3; sediment; 5; ;
    new-3; sediment; 6; ;`),
  ).toEqual([
    '2 Part: No part number',
    '3 Kind: A new part: nothing says what it is (sediment, carbon block, membrane …)',
    expect.stringMatching(/^4 Kind: “gravel” is no kind of part we know/),
    '4 Price: “x” is no price: write 16.80',
    expect.stringMatching(/^4 Housing: “shoebox” is no housing we know/),
    '4 Bar code: This bar code is that of BRK-SED-10 already',
    '6 Part: The same part stands in line 5 already',
  ])
})
