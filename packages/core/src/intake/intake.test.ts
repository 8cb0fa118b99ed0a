import { type Medium, profileOf } from '../catalogue'
import { dateOrderOf, type IntakeField, type Known, matchColumns, planIntake, readingKey } from '.'
import { readDay, readInterval } from './cells'

const rated = { days: 365, litres: null, milliequivalents: null, hours: null }
const KNOWN: Known = {
  sites: [],
  parts: [
    { id: 'p1', partNumber: 'BRK-SED-10', media: 'sediment', housing: 'sump-small', rated },
    { id: 'p2', partNumber: 'BRK-CB-10', media: 'carbon-block', housing: 'sump-small', rated },
  ],
  ratedAs: (media: Medium) => ({ ...rated, litres: profileOf({ media }).ratedLitres }),
}
const HEADINGS = ['Customer', 'Village', 'System', 'Pos', 'Part', 'Kind', 'Fitted', 'TDS in', 'TDS out', 'Counter (gal)', 'Read on']
const COLUMNS: (IntakeField | null)[] = [
  'site',
  'village',
  'system',
  'position',
  'partNumber',
  'medium',
  'fittedOn',
  'untreated',
  'treated',
  'counter',
  'readOn',
]
const plan = (lines: string[][], known: Known = KNOWN) =>
  planIntake(lines, { headings: HEADINGS, columns: COLUMNS, order: 'day-first', gallon: 'us', decimal: '.', today: '2026-03-06' }, known)
const messages = (made: ReturnType<typeof plan>): string[] =>
  made.rows.flatMap(({ line, problems }) => problems.map(({ heading, message }) => `${line} ${heading ?? '-'}: ${message}`))

test('headings people use find their fields, each once', () => {
  expect(matchColumns(HEADINGS)).toEqual(COLUMNS)
  expect(matchColumns(['Colour of the door', 'Access', 'Notes'])).toEqual([null, 'access', null])
})

test('days as people write them', () => {
  const day = (text: string, order: 'day-first' | 'month-first' = 'day-first') => {
    const cell = readDay(text, order)
    return cell.ok ? cell.value : cell.message
  }
  expect(day('2025-03-06')).toBe('2025-03-06')
  expect(day('6/3/2025')).toBe('2025-03-06')
  expect(day('3/6/25', 'month-first')).toBe('2025-03-06')
  expect(day('6.3.2025')).toBe('2025-03-06')
  expect(day('6 March 2025')).toBe('2025-03-06')
  expect(day('March 6, 2025')).toBe('2025-03-06')
  expect(day('03/2025')).toBe('2025-03-15')
  expect(day('March 2025')).toBe('2025-03-15')
  expect(day('31/02/2025')).toBe('There is no such day: 31/02/2025')
  expect(day('spring')).toMatch(/is not a day/)
  expect(dateOrderOf(['1/2/2025', '3/14/2025'])).toEqual({ order: 'month-first', told: true })
  expect(dateOrderOf(['1/2/2025', '14/3/2025'])).toEqual({ order: 'day-first', told: true })
  expect(dateOrderOf(['1/2/2025'])).toEqual({ order: 'day-first', told: false })
})

test('lines of one customer become one site, one system, its parts in order and its readings', () => {
  const made = plan([
    ['Otter Cottage', 'Quay', 'Kitchen', '2', 'brk-cb-10', '', '1/2/2025', '', '', '', ''],
    ['Otter cottage', 'Quay', 'kitchen', '1', 'BRK-SED-10', '', 'unknown', '', '', '', ''],
    ['Otter Cottage', 'Quay', 'Kitchen', '', '', '', '', '410', '20', '1.2k', '5/3/2026'],
  ])
  expect(messages(made)).toEqual([])
  expect(made.sites.map(({ name, people, source }) => [name, people, source])).toEqual([['Otter Cottage', 3, 'municipal']])
  expect(made.systems.map(({ stages }) => stages.map(({ position, media }) => `${position} ${media}`))).toEqual([
    ['1 sediment', '2 carbon-block'],
  ])
  expect(made.parts.map(({ position, partId, fittedOn }) => [position, partId, fittedOn])).toEqual([
    [2, 'p2', '2025-02-01'],
    [1, 'p1', null],
  ])
  const [reading] = made.readings
  expect(reading).toMatchObject({ on: '2026-03-05', untreated: { value: 410, quantity: 'tds' }, treated: { value: 20, quantity: 'tds' } })
  // 1,200 US gallons of 231 cubic inches: 1,200 × 3.785411784 L.
  expect(reading?.counterL).toBeCloseTo(4542.4941408, 6)
})

test('each bad line says what is wrong and where; the good ones stand', () => {
  const made = plan([
    ['Otter Cottage', 'Quay', 'Kitchen', '1', 'BRK-SED-10', '', '31/02/2025', '', '', '', ''],
    ['Otter Cottage', 'Quay', 'Kitchen', '2', 'BRK-CB-10', '', '1/2/2025', '', '', '', ''],
    ['', 'Quay', 'Kitchen', '1', 'BRK-SED-10', '', '', '', '', '', ''],
    ['Heron Bank', 'Quay', 'Kitchen', '1', 'BRK-SED-10', '', '1/2/2027', '', '', '', ''],
    ['Heron Bank', 'Quay', 'Kitchen', '1', 'BRK-SED-10', '', '1/2/2025', 'lots', '', '', ''],
    ['Tern House', 'Quay', 'Kitchen', '1', 'BRK-XX', '', '1/2/2025', '', '', '', ''],
    ['Tern House', 'Quay', 'Kitchen', '2', 'BRK-CB-10', '', '1/2/2025', '', '', '', ''],
  ])
  expect(messages(made)).toEqual([
    '2 Fitted: There is no such day: 31/02/2025',
    '4 Customer: No site: whose line is this?',
    '5 Fitted: 2027-02-01 is still to come',
    '6 TDS in: “lots” is not a number',
    '7 -: BRK-XX is not in the catalogue: add it under Shelf, or say in a column what the part is',
    '8 -: Waits for line 7, which says what else Kitchen is made of',
  ])
  // Line 3 stands although its neighbour's date is wrong: the system keeps both places.
  expect(made.systems.map(({ stages }) => stages.length)).toEqual([2])
  expect(made.parts.map(({ line }) => line)).toEqual([3])
  expect(made.sites.map(({ name }) => name)).toEqual(['Otter Cottage'])
})

test('a part that is not in the catalogue comes in by its kind; a gap in the positions holds the system back', () => {
  const made = plan([
    ['Otter Cottage', '', '', '1', 'ODD-1', 'carbon', '', '', '', '', ''],
    ['Heron Bank', '', '', '1', 'BRK-SED-10', '', '', '', '', '', ''],
    ['Heron Bank', '', '', '3', 'BRK-CB-10', '', '', '', '', '', ''],
  ])
  expect(made.parts).toMatchObject([{ partNumber: 'ODD-1', partId: null, rated: { litres: 2200 } }])
  expect(messages(made)).toEqual([
    '3 -: Water treatment has no position 2, but one after it',
    '4 -: Position 3 of Water treatment comes without position 2: add its line, or a column that says what the system is',
  ])
})

test('what the firm has already is added to and never doubled', () => {
  const known: Known = {
    ...KNOWN,
    sites: [
      {
        id: 's1',
        name: 'Otter Cottage',
        village: 'Quay',
        systems: [
          {
            id: 'y1',
            name: 'Kitchen',
            stages: [{ id: 't1', position: 1, media: 'sediment', parts: [{ partNumber: 'BRK-SED-10', fittedOn: '2025-02-01' }] }],
            readings: new Set([readingKey('2026-03-05', 'untreated', 410)]),
          },
        ],
      },
    ],
  }
  const made = plan(
    [
      ['OTTER COTTAGE', '', 'Kitchen', '1', 'BRK-SED-10', '', '1/2/2025', '410', '22', '', '5/3/2026'],
      ['Otter Cottage', 'Quay', '', '1', 'BRK-SED-10', '', '1/2/2026', '', '', '', ''],
      ['Otter Cottage', 'Quay', 'Kitchen', '1', 'BRK-CB-10', '', '1/3/2026', '', '', '', ''],
      ['Otter Cottage', 'Quay', 'Kitchen', '2', 'BRK-CB-10', '', '1/3/2026', '', '', '', ''],
    ],
    known,
  )
  expect(made.sites.map(({ id }) => id)).toEqual(['s1'])
  expect(made.systems.map(({ id }) => id)).toEqual(['y1'])
  expect(made.parts.map(({ fittedOn }) => fittedOn)).toEqual(['2026-02-01'])
  expect(made.readings).toEqual([
    { on: '2026-03-05', treated: { value: 22, quantity: 'tds' }, line: 2, systemKey: 'site 1 system 1', position: null },
  ])
  expect(messages(made)).toEqual(['4 -: Position 1 of Kitchen is sediment, and this part is carbon', '5 -: Kitchen has no position 2'])
})

test('a contract comes in by its months and the month of the year, of the part a line speaks of or of the whole site', () => {
  const headings = ['Customer', 'System', 'Pos', 'Part', 'Contract', 'Service month']
  const columns = matchColumns(headings)
  expect(columns).toEqual(['site', 'system', 'position', 'partNumber', 'contractMonths', 'contractMonth'])
  const made = planIntake(
    [
      ['Otter Cottage', 'Kitchen', '1', 'BRK-SED-10', '6 months', ''],
      ['Otter Cottage', 'Kitchen', '2', 'BRK-CB-10', 'yearly', 'May'],
      ['Heron Bank', '', '', '', '', '11'],
      ['Tern House', '', '', '', 'now and then', ''],
    ],
    { headings, columns, order: 'day-first', gallon: 'us', decimal: '.', today: '2026-03-06' },
    KNOWN,
  )
  expect(made.contracts.map(({ position, months, month }) => [position, months, month])).toEqual([
    [1, 6, null],
    [2, 12, 5],
    [null, 12, 11],
  ])
  expect(made.contracts.map(({ systemKey }) => systemKey !== null)).toEqual([true, true, false])
  expect(messages(made)).toEqual(['5 Contract: “now and then” is no interval: write 6, 6 months or yearly'])
})

test.each([
  ['12', 12],
  ['every 3 months', 3],
  ['2 years', 24],
  ['Half-yearly', 6],
  ['0', '“0” is no interval: write 6, 6 months or yearly'],
])('“%s” between two changes is %s', (text, said) => {
  const cell = readInterval(text)
  expect(cell.ok ? cell.value : cell.message).toBe(said)
})

test('what is known of a bed, a chamber and a pump comes in with the list; a kind of the firm’s own by its name', () => {
  const headings = ['Customer', 'System', 'Pump', 'Pos', 'Kind', 'Bed volume (gal)', 'UV chamber']
  const columns = matchColumns(headings)
  expect(columns).toEqual(['site', 'system', 'pump', 'position', 'medium', 'bed', 'reactor'])
  const made = planIntake(
    [
      ['Otter Cottage', 'Cellar', 'Well pump', '1', 'carbon tank', '12', ''],
      ['Otter Cottage', 'Cellar', '', '2', 'Ceramic Candle', '', ''],
      ['Otter Cottage', 'Cellar', '', '3', 'sleeve', '', 'north wall'],
      ['Otter Cottage', 'Cellar', '', '4', 'lamp', '', 'north wall'],
      ['Heron Bank', 'Sink', 'windmill', '1', 'sediment', '', ''],
    ],
    { headings, columns, order: 'day-first', gallon: 'us', decimal: '.', today: '2026-03-06', own: ['own:ceramic candle'] },
    KNOWN,
  )
  expect(messages(made)).toEqual(['6 Pump: “windmill” is no pump we know: well, booster or delivery'])
  const [system] = made.systems
  expect(system?.pump).toBe('well')
  // 12 US gallons of 3.785411784 L.
  expect(system?.stages[0]?.bedL).toBeCloseTo(45.425, 3)
  expect(system?.stages.map(({ media, reactor }) => [media, reactor])).toEqual([
    ['carbon-tank', undefined],
    ['own:ceramic candle', undefined],
    ['uv-sleeve', 'north wall'],
    ['uv-lamp', 'north wall'],
  ])
})
