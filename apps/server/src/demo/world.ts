import { USUAL_SCHOOLS } from '@evenround/contract/firm'
import type { FAMILIES } from '@evenround/core/train'
import type { PlaceKind, Use, WaterSource } from '@evenround/core/wear'

/** Who works at the firm; all made up. */
export const DEMO_FIRM = { name: 'Fennick & Daughter', timeZone: 'Atlantic/Azores', currency: 'EUR' } as const
/** What a firm begins with where practitioners differ. */
export const DEFAULT_SCHOOLS = USUAL_SCHOOLS
export const DEMO_PASSWORD = 'skellan-sound'
export const DEMO_PEOPLE = [
  { key: 'tam', name: 'Tam Orrin', email: 'tam@fennick.example', role: 'technician', skills: [], van: 'Dipper' },
  { key: 'isla', name: 'Isla Fennick', email: 'isla@fennick.example', role: 'owner', skills: [], van: null },
  { key: 'wren', name: 'Wren Adeyo', email: 'wren@fennick.example', role: 'technician', skills: ['wells'], van: 'Turnstone' },
] as const
export type DemoPersonKey = (typeof DEMO_PEOPLE)[number]['key']

export interface DemoVisit {
  /** Days before today. */
  ago: number
  /** Positions changed. */
  changed: number[]
  /** Untreated and treated before the work, mg/L. */
  before: [number, number]
  after: [number, number]
  found?: 'light' | 'as-expected' | 'heavy' | 'spent'
  by?: DemoPersonKey
  note?: string
}

export interface DemoSite {
  key: string
  name: string
  village: string
  island: string
  access: string
  contact: string
  phone: string
  people: number
  source: WaterSource
  chlorineMgL: number | null
  /** A home where nothing is said. */
  kind?: PlaceKind
  /** Months between changes, where the customer was promised them, and the positions it does not speak of. */
  contract?: { months: number; except: number[] }
  /** How much is drawn, as somebody there said it. */
  use?: Use
  system: string
  family: keyof typeof FAMILIES
  visits: DemoVisit[]
  hold?: { kind: 'boil-or-bottled'; text: string }
}

export const DEMO_SITES: readonly DemoSite[] = [
  {
    key: 'hale',
    name: 'Dr Hale’s dental surgery',
    village: 'Skellan Town',
    island: 'Great Skellan',
    people: 3,
    source: 'municipal',
    chlorineMgL: 0.9,
    access: 'Back door, key under the blue tub. Not before 08:15. The set is under the sink of room 2.',
    contact: 'Dr Morwen Hale',
    phone: 'Skellan 114',
    kind: 'surgery',
    system: 'Room 2 drinking water',
    family: 'reverse-osmosis-5',
    visits: [
      { ago: 872, changed: [1, 2, 3, 4, 5], before: [405, 58], after: [405, 25] },
      { ago: 610, changed: [1, 2, 3], before: [398, 26], after: [399, 25], found: 'as-expected' },
      { ago: 402, changed: [1, 2, 3, 5], before: [41, 27], after: [410, 26], found: 'heavy' },
      { ago: 226, changed: [1], before: [409, 28], after: [410, 28], found: 'heavy' },
    ],
  },
  {
    key: 'net-loft',
    name: 'Net loft cottage',
    village: 'Skellan Town',
    island: 'Great Skellan',
    people: 2,
    source: 'municipal',
    chlorineMgL: 0.8,
    access: 'Outside stair on the harbour side, mind the third step.',
    contact: 'Ann Tolliver',
    phone: 'Skellan 231',
    contract: { months: 12, except: [] },
    system: 'Kitchen three-stage',
    family: 'under-sink-3',
    visits: [
      { ago: 760, changed: [1, 2, 3], before: [210, 208], after: [210, 205] },
      { ago: 431, changed: [1, 2, 3], before: [214, 212], after: [213, 207], found: 'as-expected' },
    ],
  },
  {
    key: 'boatyard',
    name: 'Boatyard wash-down',
    village: 'Quay',
    island: 'Thrawn',
    people: 6,
    source: 'municipal',
    chlorineMgL: 0.5,
    access: 'Ask for the key to the pump cage at the slip office.',
    contact: 'Yard office',
    phone: 'Thrawn 12',
    kind: 'cleaning-round',
    use: { by: 'fills-a-week', amount: 8, fillL: 25 },
    system: 'Pure-water set',
    family: 'pure-water',
    visits: [
      { ago: 300, changed: [1, 2, 3], before: [182, 60], after: [182, 1] },
      { ago: 96, changed: [1, 3], before: [180, 41], after: [181, 1], found: 'heavy' },
    ],
  },
  {
    key: 'school',
    name: 'Primary school',
    village: 'Hollin',
    island: 'Great Skellan',
    people: 90,
    source: 'municipal',
    chlorineMgL: 0.3,
    access: 'Sign in at the porch. Not between 12:00 and 13:00.',
    contact: 'Caretaker Ruan Pell',
    phone: 'Hollin 3',
    kind: 'workshop',
    use: { by: 'drinks-a-day', amount: 240, fillL: null },
    system: 'Fountains',
    family: 'ultraviolet',
    visits: [
      { ago: 338, changed: [1, 2, 3, 4], before: [205, 205], after: [205, 204] },
      { ago: 172, changed: [1], before: [206, 206], after: [206, 206], found: 'as-expected' },
    ],
  },
  {
    key: 'kelp-press',
    name: 'Kelp press',
    village: 'Weir',
    island: 'Little Skellan',
    people: 8,
    source: 'roof',
    chlorineMgL: null,
    access: 'Cistern pump is in the lean-to; isolator behind the door.',
    contact: 'Piran Voss',
    phone: 'Little Skellan 40',
    kind: 'workshop',
    system: 'Two large housings',
    family: 'two-large',
    visits: [
      { ago: 214, changed: [1, 2], before: [95, 94], after: [95, 93] },
      { ago: 104, changed: [1], before: [97, 96], after: [96, 96], found: 'spent' },
    ],
  },
  {
    key: 'chandlery',
    name: 'Chandlery flat',
    village: 'Skellan Town',
    island: 'Great Skellan',
    people: 2,
    source: 'municipal',
    chlorineMgL: 0.9,
    access: 'Ring twice. The set stands on the counter, by the window.',
    contact: 'Edda Marsh',
    phone: 'Skellan 77',
    system: 'Counter-top set',
    family: 'counter-fluoride',
    visits: [
      { ago: 520, changed: [1, 2, 3], before: [208, 206], after: [208, 204] },
      {
        ago: 498,
        changed: [],
        before: [208, 207],
        after: [208, 204],
        note: 'Called back: tastes flat. The fluoride element had gone in upside down, washer end up. Turned round, flushed alone for ten minutes.',
      },
    ],
  },
  {
    key: 'weaving-mill',
    name: 'Weaving mill',
    village: 'Tarrow',
    island: 'Great Skellan',
    people: 24,
    source: 'drilled-well',
    chlorineMgL: null,
    access: 'Plant room behind the dye store. Ear protection.',
    contact: 'Sorrel Quist',
    phone: 'Tarrow 9',
    kind: 'workshop',
    system: 'Well line',
    family: 'softener',
    visits: [{ ago: 118, changed: [1], before: [420, 415], after: [419, 415], found: 'heavy', by: 'wren' }],
  },
  {
    key: 'lighthouse',
    name: 'Lighthouse guesthouse',
    village: 'The Light',
    island: 'The Anvil',
    people: 12,
    source: 'roof',
    chlorineMgL: null,
    access: 'By the service steps; the gate closes at dusk.',
    contact: 'Jory and Bly Carrow',
    phone: 'Anvil 1',
    use: { by: 'litres-a-day', amount: 450, fillL: null },
    system: 'Rain cistern line',
    family: 'ultraviolet',
    visits: [
      { ago: 190, changed: [1, 2, 3, 4], before: [62, 62], after: [61, 61], by: 'wren' },
      { ago: 6, changed: [1], before: [63, 63], after: [62, 62], found: 'spent', by: 'wren' },
    ],
    hold: { kind: 'boil-or-bottled', text: 'Boil or use bottled water to drink until the laboratory result is back.' },
  },
  {
    key: 'ferry-crew',
    name: 'Ferry crew room',
    village: 'Slip',
    island: 'Murrow Holm',
    people: 5,
    source: 'municipal',
    chlorineMgL: 0.6,
    access: 'Between sailings only; the duty mate has the key.',
    contact: 'Duty mate',
    phone: 'Ferry 2',
    kind: 'workshop',
    system: 'Refrigerator',
    family: 'fridge-inline',
    visits: [{ ago: 200, changed: [1], before: [190, 190], after: [190, 188] }],
  },
  {
    key: 'nursery',
    name: 'Seed nursery',
    village: 'Loam',
    island: 'Little Skellan',
    people: 4,
    source: 'surface',
    chlorineMgL: null,
    access: 'Round the glasshouses to the pump shed. Boots.',
    contact: 'Wilm Asher',
    phone: 'Little Skellan 18',
    system: 'Watering prefilter',
    family: 'washable-prefilter',
    visits: [{ ago: 92, changed: [1], before: [130, 130], after: [130, 130] }],
  },
  {
    key: 'choir-school',
    name: 'Choir school boarding house',
    village: 'Skellan Town',
    island: 'Great Skellan',
    people: 40,
    source: 'municipal',
    chlorineMgL: 1.1,
    access: 'Matron’s office first. Quiet from 13:30 to 15:00.',
    contact: 'Matron Ilse Brandt',
    phone: 'Skellan 150',
    system: 'Whole house',
    family: 'carbon-tank',
    visits: [
      { ago: 700, changed: [1, 2], before: [215, 215], after: [215, 213] },
      { ago: 130, changed: [1], before: [216, 215], after: [215, 214], found: 'as-expected' },
    ],
  },
  {
    key: 'rope-walk',
    name: 'Rope walk café',
    village: 'Hollin',
    island: 'Great Skellan',
    people: 4,
    source: 'municipal',
    chlorineMgL: 0.7,
    access: 'Kitchen entrance in the yard. Before 11:00 or after 14:30.',
    contact: 'Dorrie Kettle',
    phone: 'Hollin 21',
    kind: 'cafe',
    contract: { months: 12, except: [1, 4] },
    system: 'Café drinking water',
    family: 'reverse-osmosis-5',
    visits: [
      { ago: 940, changed: [1, 2, 3, 4, 5], before: [260, 40], after: [260, 15] },
      { ago: 420, changed: [1, 2, 3, 5], before: [262, 24], after: [261, 23], found: 'as-expected' },
      { ago: 205, changed: [1], before: [263, 29], after: [262, 28], found: 'as-expected' },
    ],
  },
  {
    key: 'hostel',
    name: 'Youth hostel',
    village: 'Far Strand',
    island: 'Murrow Holm',
    people: 30,
    source: 'municipal',
    chlorineMgL: 0.6,
    access: 'Closed November to March; the warden lives next door.',
    contact: 'Warden Tegan Frith',
    phone: 'Murrow 5',
    use: { by: 'drinks-a-day', amount: 60, fillL: null },
    system: 'Kitchen three-stage',
    family: 'under-sink-3',
    visits: [{ ago: 240, changed: [1, 2, 3], before: [188, 187], after: [188, 184] }],
  },
]

export interface DemoStop {
  site: string
  by: DemoPersonKey
  /** Days after today; a day on which nobody works or the place is shut moves on, but for today itself. */
  inDays: number
  positions: number[]
  promised?: boolean
}

/** In order of the day; drives and ferries follow from the map. */
export const DEMO_STOPS: readonly DemoStop[] = [
  { site: 'hale', by: 'tam', inDays: 0, positions: [1, 2, 3, 5], promised: true },
  { site: 'net-loft', by: 'tam', inDays: 0, positions: [1, 2, 3] },
  { site: 'boatyard', by: 'tam', inDays: 0, positions: [1, 3] },
  { site: 'kelp-press', by: 'tam', inDays: 0, positions: [1, 2] },
  { site: 'chandlery', by: 'tam', inDays: 0, positions: [1, 2, 3] },
  { site: 'weaving-mill', by: 'wren', inDays: 0, positions: [1] },
  { site: 'choir-school', by: 'wren', inDays: 0, positions: [1] },
  { site: 'rope-walk', by: 'tam', inDays: 1, positions: [1, 2, 3, 4, 5], promised: true },
  { site: 'school', by: 'tam', inDays: 1, positions: [1] },
  { site: 'ferry-crew', by: 'tam', inDays: 2, positions: [1] },
  { site: 'nursery', by: 'tam', inDays: 5, positions: [1] },
  { site: 'lighthouse', by: 'wren', inDays: 3, positions: [1] },
]
