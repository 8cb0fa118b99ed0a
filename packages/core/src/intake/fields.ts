import type { Dimension } from '../units'
import { inEnglish, say, sayFor } from '../words'

const OF_SITE = [
  'site',
  'street',
  'postcode',
  'village',
  'island',
  'country',
  'coordinates',
  'latitude',
  'longitude',
  'placeKind',
  'contact',
  'phone',
  'email',
  'access',
  'people',
  'source',
  'chlorine',
] as const
const OF_SYSTEM = ['system', 'serialNo', 'family', 'pump', 'outlets', 'bypass', 'mustGoOn'] as const
const OF_PART = ['position', 'partNumber', 'medium', 'fittedOn', 'bed', 'reactor', 'monitor'] as const
const OF_CONTRACT = ['contractMonths', 'contractMonth'] as const
const OF_READING = ['readOn', 'untreated', 'treated', 'counter', 'pressureIn', 'pressureOut', 'flow', 'lampHours'] as const

/** What a column of somebody's list can hold. Order is the order screens offer them in. */
export const INTAKE_FIELDS = [...OF_SITE, ...OF_SYSTEM, ...OF_PART, ...OF_CONTRACT, ...OF_READING] as const
export type IntakeField = (typeof INTAKE_FIELDS)[number]

export const INTAKE_GROUPS: readonly { label: string; fields: readonly IntakeField[] }[] = [
  {
    get label() {
      return say`Site`
    },
    fields: OF_SITE,
  },
  {
    get label() {
      return say`System`
    },
    fields: OF_SYSTEM,
  },
  {
    get label() {
      return say`Fitted part`
    },
    fields: OF_PART,
  },
  {
    get label() {
      return say`Contract`
    },
    fields: OF_CONTRACT,
  },
  {
    get label() {
      return say`Reading`
    },
    fields: OF_READING,
  },
]

export const INTAKE_LABELS: Record<IntakeField, string> = {
  get site() {
    return say`Site`
  },
  get street() {
    return say`Street and number`
  },
  get postcode() {
    return say`Postcode`
  },
  get village() {
    return say`Town or village`
  },
  get island() {
    return say`Area or island`
  },
  get country() {
    return say`Country`
  },
  get coordinates() {
    return say`Coordinates`
  },
  get latitude() {
    return say`Latitude`
  },
  get longitude() {
    return say`Longitude`
  },
  get placeKind() {
    return say`Kind of place`
  },
  get contact() {
    return sayFor('person')`Contact`
  },
  get phone() {
    return say`Telephone`
  },
  email: 'E-mail',
  get access() {
    return say`Access`
  },
  get people() {
    return say`People`
  },
  get source() {
    return say`Source of the water`
  },
  get chlorine() {
    return say`Chlorine`
  },
  get system() {
    return say`System`
  },
  get serialNo() {
    return say`Serial number`
  },
  get family() {
    return say`What the system is`
  },
  get pump() {
    return say`Pump before it`
  },
  get outlets() {
    return say`What draws behind it`
  },
  get bypass() {
    return say`Bypass`
  },
  get mustGoOn() {
    return say`Must not stop`
  },
  get position() {
    return say`Position`
  },
  get partNumber() {
    return say`Part number`
  },
  get medium() {
    return say`What the part is`
  },
  get fittedOn() {
    return say`Fitted on`
  },
  get bed() {
    return say`Medium in the tank`
  },
  get reactor() {
    return say`Lamp chamber`
  },
  get monitor() {
    return say`Has a monitor`
  },
  get contractMonths() {
    return say`Contract: every … months`
  },
  get contractMonth() {
    return say`Contract: month of the year`
  },
  get readOn() {
    return say`Read on`
  },
  get untreated() {
    return say`Untreated`
  },
  get treated() {
    return say`Treated`
  },
  get counter() {
    return say`Counter`
  },
  get pressureIn() {
    return say`Pressure in`
  },
  get pressureOut() {
    return say`Pressure out`
  },
  get flow() {
    return say`Flow at a tap`
  },
  get lampHours() {
    return say`Lamp hours`
  },
}

/** Fields that hold a quantity, and in what dimension it is read. */
export const INTAKE_QUANTITIES: Partial<Record<IntakeField, Dimension>> = {
  people: 'number',
  chlorine: 'concentration',
  position: 'number',
  untreated: 'concentration',
  treated: 'concentration',
  counter: 'volume',
  bed: 'volume',
  pressureIn: 'pressure',
  pressureOut: 'pressure',
  flow: 'flow',
  lampHours: 'number',
}

/** What people head such columns with, beside the labels above. */
const HEADINGS: Record<IntakeField, readonly string[]> = {
  site: ['customer', 'client', 'name', 'site name', 'customer name', 'place', 'property', 'account', 'full name'],
  street: ['street', 'address', 'address line 1', 'street address', 'road'],
  postcode: ['post code', 'zip', 'zip code', 'postal code'],
  village: ['village', 'town', 'city', 'place name', 'locality'],
  island: ['island', 'area', 'region', 'county', 'district', 'location'],
  country: ['country code', 'nation'],
  coordinates: ['position gps', 'gps', 'lat lon', 'lat/lon', 'geo', 'location code'],
  latitude: ['lat'],
  longitude: ['lon', 'lng', 'long'],
  placeKind: ['customer type', 'site type', 'kind of site', 'kind of customer'],
  contact: ['who to ask for', 'contact name', 'contact person', 'ask for'],
  email: ['email', 'mail', 'email address', 'e mail address'],
  phone: ['phone', 'tel', 'mobile', 'telephone number', 'phone number'],
  access: ['access', 'access notes', 'directions', 'notes', 'how to get in'],
  people: ['persons', 'household', 'users', 'occupants', 'number of people'],
  source: ['water', 'water source', 'source', 'supply', 'water supply'],
  chlorine: ['free chlorine', 'cl2', 'chlorine mg/l'],
  system: ['system name', 'unit', 'installation', 'set'],
  serialNo: ['serial', 'serial no', 's/n', 'sn', 'unit serial', 'serial number of the unit'],
  pump: ['pump', 'pump type'],
  outlets: ['outlets', 'outlet', 'taps', 'draws'],
  bypass: ['by pass', 'bypass round'],
  mustGoOn: ['must go on', 'never stops', 'continuous'],
  family: ['system type', 'type of system', 'family', 'model', 'kind of system', 'set type'],
  position: ['pos', 'stage', 'stage no', 'no', 'housing', 'place in train', 'stage number'],
  partNumber: ['part', 'part no', 'cartridge', 'filter', 'partnumber', 'item', 'element', 'pn'],
  medium: ['medium', 'media', 'kind', 'part type', 'type', 'cartridge type', 'filter type'],
  fittedOn: [
    'fitted',
    'installed',
    'install date',
    'date fitted',
    'last change',
    'last changed',
    'changed',
    'changed on',
    'date installed',
  ],
  bed: ['bed', 'bed volume', 'media volume', 'bed litres', 'tank media'],
  reactor: ['reactor', 'chamber', 'uv chamber', 'uv reactor'],
  monitor: ['monitor', 'monitored', 'reminder'],
  contractMonths: [
    'contract',
    'contract months',
    'service interval',
    'interval',
    'interval months',
    'every months',
    'months',
    'service every',
  ],
  contractMonth: ['contract month', 'service month', 'month', 'due month', 'month due'],
  readOn: ['reading date', 'date read', 'measured on', 'date of reading', 'visit date'],
  untreated: ['tds in', 'feed tds', 'raw tds', 'untreated tds', 'tds untreated', 'tds before', 'feed'],
  treated: ['tds out', 'product tds', 'treated tds', 'tds treated', 'tds after', 'product', 'permeate'],
  counter: ['litres', 'meter', 'meter reading', 'counter reading', 'water meter', 'gallons', 'volume'],
  pressureIn: ['pressure before', 'inlet pressure', 'p in', 'in pressure'],
  pressureOut: ['pressure after', 'outlet pressure', 'p out', 'out pressure'],
  flow: ['flow', 'flow rate', 'tap flow'],
  lampHours: ['hours', 'hours lit', 'uv hours', 'lamp h'],
}

/** Lower case, without what stands in brackets, punctuation as one blank. */
export const plainWords = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[([{].*?[)\]}]/g, ' ')
    .replace(/[^\p{L}\p{N}/]+/gu, ' ')
    .trim()

/** What stands in brackets or after the last comma of a heading, taken as the column's unit: `Counter (gal)` → `gal`. */
export function unitOfHeading(heading: string): string | null {
  const bracket = /[([]\s*([^)\]]+?)\s*[)\]]/.exec(heading)
  return bracket ? (bracket[1] as string).toLowerCase() : null
}

/**
 * Which field each heading most likely names, null where none; every field is given to one column at the most, the first that
 * fits. Pure guess work for a person to confirm.
 */
export function headingMatcher<F extends string>(
  fields: readonly F[],
  labels: Readonly<Record<F, string>>,
  usual: Readonly<Record<F, readonly string[]>>,
): (headings: readonly string[]) => (F | null)[] {
  const own = (field: F, words: string): boolean =>
    [labels[field], inEnglish(() => labels[field]), field].some((name) => plainWords(name) === words)
  const known = (field: F, words: string): boolean => usual[field].some((heading) => plainWords(heading) === words)
  return (headings) => {
    const taken = new Set<F>()
    const give = (test: (field: F, words: string) => boolean, heading: string): F | null => {
      const words = plainWords(heading)
      const found = fields.find((field) => !taken.has(field) && test(field, words))
      if (found) taken.add(found)
      return found ?? null
    }
    const exact = headings.map((heading) => give(own, heading))
    return exact.map((field, index) => field ?? give(known, headings[index] as string))
  }
}
export const matchColumns = headingMatcher(INTAKE_FIELDS, INTAKE_LABELS, HEADINGS)
