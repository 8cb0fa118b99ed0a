import { type Medium, profileOf } from '../catalogue'
import { familyTrain, type SheetSchools, sheet, type Task } from '../train'
import { check } from '../train/check'
import { dateOrderOf, type IntakeField, type Known, matchColumns, planIntake, readingKey, shapeOfSystem } from '.'
import { readDay, readInterval } from './cells'

const SCHOOLS: SheetSchools = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }
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
  const headings = ['Customer', 'System', 'Pump', 'Pos', 'Kind', 'Bed volume (gal)', 'UV chamber', 'S/N']
  const columns = matchColumns(headings)
  expect(columns).toEqual(['site', 'system', 'pump', 'position', 'medium', 'bed', 'reactor', 'serialNo'])
  const made = planIntake(
    [
      ['Otter Cottage', 'Cellar', 'Well pump', '1', 'carbon tank', '12', '', 'unknown'],
      ['Otter Cottage', 'Cellar', '', '2', 'Ceramic Candle', '', '', 'OC-118'],
      ['Otter Cottage', 'Cellar', '', '3', 'sleeve', '', 'north wall', ''],
      ['Otter Cottage', 'Cellar', '', '4', 'lamp', '', 'north wall', ''],
      ['Heron Bank', 'Sink', 'windmill', '1', 'sediment', '', '', ''],
    ],
    { headings, columns, order: 'day-first', gallon: 'us', decimal: '.', today: '2026-03-06', own: ['own:ceramic candle'] },
    KNOWN,
  )
  expect(messages(made)).toEqual(['6 Pump: “windmill” is no pump we know: well, booster or delivery'])
  const [system] = made.systems
  expect([system?.pump, system?.serialNo]).toEqual(['well', 'OC-118'])
  // 12 US gallons of 3.785411784 L.
  expect(system?.stages[0]?.bedL).toBeCloseTo(45.425, 3)
  expect(system?.stages.map(({ media, reactor }) => [media, reactor])).toEqual([
    ['carbon-tank', undefined],
    ['own:ceramic candle', undefined],
    ['uv-sleeve', 'north wall'],
    ['uv-lamp', 'north wall'],
  ])
})

describe('what a list says of a customer and their plumbing', () => {
  const headings = [
    'Name',
    'Street',
    'Zip',
    'Town',
    'Country',
    'GPS',
    'Lat',
    'Lon',
    'Kind of place',
    'Mail',
    'System type',
    'Part',
    'Position',
    'Fitted',
    'Outlets',
    'Bypass',
    'Must not stop',
    'Monitor',
  ]
  const read = (...lines: Partial<Record<string, string>>[]) =>
    planIntake(
      lines.map((line) => headings.map((heading) => line[heading] ?? '')),
      { headings, columns: matchColumns(headings), order: 'day-first', gallon: 'us', decimal: '.', today: '2026-03-06' },
      KNOWN,
    )
  const trainOf = (made: ReturnType<typeof read>, index = 0) => {
    const system = made.systems[index]
    if (!system) throw new Error('no such system')
    return familyTrain(
      shapeOfSystem(system),
      system.stages.map(({ position }) => `s${position}`),
      false,
    )
  }

  test('address, coordinates in one column or two, e-mail and what kind of place it is', () => {
    const made = read(
      {
        Name: 'Mill café',
        Street: '4 Mill Lane',
        Zip: '4050-120',
        Town: 'Weir',
        Country: 'Skellan',
        GPS: '58.31, -21.62',
        'Kind of place': 'restaurant',
        Mail: 'mill@weir.example',
      },
      { Name: 'Boat', Lat: '58,4', Lon: '-21,5', 'Kind of place': 'boat' },
      { Name: 'Nowhere', GPS: 'by the harbour' },
    )
    expect(made.sites).toMatchObject([
      {
        name: 'Mill café',
        street: '4 Mill Lane',
        postcode: '4050-120',
        village: 'Weir',
        country: 'Skellan',
        lat: 58.31,
        lon: -21.62,
        kind: 'cafe',
        email: 'mill@weir.example',
      },
      { name: 'Boat', lat: 58.4, lon: -21.5, kind: 'vehicle', village: '' },
    ])
    expect(messages(made)).toEqual(['4 GPS: “by the harbour” is no position: write latitude and longitude, such as 58.31, -21.62'])
  })

  test('a known system keeps its bypass, its ice and who must have water; nobody has seen its inlets', () => {
    const train = trainOf(read({ Name: 'Mill café', 'System type': 'commercial reverse osmosis with remineraliser' }))
    expect(train.nodes.filter(({ kind }) => kind === 'bypass')).toHaveLength(1)
    expect(train.nodes.filter((node) => node.kind === 'outlet' && node.mustGoOn)).toHaveLength(1)
    expect(train.nodes.filter((node) => node.kind === 'stage' && node.inletConfirmed)).toEqual([])
  })

  test('a café that never stops, a bed with a bypass, a refrigerator with ice: their sheets pass the checker and say what they should', () => {
    const made = read(
      {
        Name: 'Mill café',
        'System type': 'prefilters and ultraviolet',
        'Must not stop': 'yes',
        Outlets: 'drinking tap, coffee machine',
      },
      { Name: 'Bed', 'System type': 'whole-house carbon tank', Bypass: '2' },
      { Name: 'Fridge', 'System type': 'refrigerator, external inline', Outlets: 'tap and ice maker' },
    )
    expect(messages(made)).toEqual([])
    const steps = made.systems.map((system, index) => {
      const train = trainOf(made, index)
      const tasks = system.stages.map(
        ({ position, media }): Task => ({
          stage: `s${position}`,
          action: media === 'carbon-tank' ? 'refill' : media === 'uv-sleeve' ? 'clean' : 'change',
        }),
      )
      const sheetMade = sheet({ train, tasks, schools: SCHOOLS })
      if (!sheetMade.ok) throw new Error(sheetMade.text)
      expect(check({ train, tasks, schools: SCHOOLS, visits: sheetMade.visits, holds: sheetMade.holds }).findings).toEqual([])
      return {
        texts: sheetMade.visits.flatMap(({ steps: all }) => all.map(({ text }) => text)),
        holds: sheetMade.holds.map(({ kind }) => kind),
        outlets: train.nodes.flatMap((node) => (node.kind === 'outlet' ? [node.use] : [])),
      }
    })
    expect(steps.map(({ outlets }) => outlets)).toEqual([['drinking', 'appliance'], ['house'], ['drinking', 'ice']])
    expect(steps[0]?.texts.some((text) => text.startsWith('Agree on a quiet hour'))).toBe(true)
    expect(steps[1]?.texts).toContain('Turn the bypass: water goes round the set')
    expect(steps[1]?.holds).not.toContain('do-not-use')
    expect(steps[2]?.holds).toContain('ice')
  })

  test('a monitor at its part, a bypass round what is not there left out, words nobody knows said', () => {
    const made = read(
      { Name: 'A', Part: 'BRK-SED-10', Position: '1', Fitted: 'spring 2024', Monitor: 'yes', Bypass: '2-3' },
      { Name: 'B', Outlets: 'fountain', Bypass: 'perhaps', 'Must not stop': 'often' },
    )
    expect(made.systems[0]?.stages[0]).toMatchObject({ monitored: true })
    expect(trainOf(made).nodes.some(({ kind }) => kind === 'bypass')).toBe(false)
    expect(made.parts[0]).toMatchObject({ fittedOn: '2024-04-15' })
    expect(made.rows[0]?.notes).toContain('“spring 2024” is taken as the middle of that month')
    expect(messages(made).map((message) => message.replace(/:.*/, ''))).toEqual(['3 Outlets', '3 Bypass', '3 Must not stop'])
  })
})
