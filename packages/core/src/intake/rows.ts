import type { Medium, OwnMedium } from '../catalogue'
import type { Position } from '../units'
import type { PlaceKind, WaterSource } from '../wear'
import { midSentence, numberText, say } from '../words'
import {
  type Cell,
  type DateOrder,
  type FamilyKey,
  notKnown,
  type OutletUse,
  type Pump,
  readBypass,
  readDay,
  readFamily,
  readInterval,
  readKind,
  readMedium,
  readMonth,
  readOutlets,
  readPosition,
  readPump,
  readQuantity,
  readSource,
  readYes,
} from './cells'
import { INTAKE_LABELS, INTAKE_QUANTITIES, type IntakeField, unitOfHeading } from './fields'

export interface RowProblem {
  /** Null where the line as a whole is the trouble. */
  field: IntakeField | null
  /** Heading of the column in the list, as it stands there. */
  heading: string | null
  /** What stood in the cell. */
  value: string
  message: string
}

export interface RowReading {
  on: string
  untreated?: { value: number; quantity: 'tds' | 'ec' }
  treated?: { value: number; quantity: 'tds' | 'ec' }
  counterL?: number
  inKpa?: number
  outKpa?: number
  flowLMin?: number
  lampHours?: number
}

/** One line of a list, understood as far as it can be. */
export interface ReadRow {
  /** Line in the file, its heading being line 1. */
  line: number
  site: string
  street: string
  postcode: string
  village: string
  island: string
  country: string
  at: Position | null
  kind: PlaceKind | null
  contact: string
  phone: string
  email: string
  access: string
  people: number | null
  source: WaterSource | null
  chlorineMgL: number | null
  system: string
  serialNo: string
  family: FamilyKey | null
  /** What drives the water where no mains does. */
  pump: Pump | null
  /** What draws behind it; null where the line does not say. */
  outlets: readonly OutletUse[] | null
  bypass: 'none' | 'all' | readonly [from: number, to: number] | null
  mustGoOn: boolean | null
  monitor: boolean | null
  position: number | null
  partNumber: string
  medium: Medium | null
  /** Litres of medium in the tank. */
  bedL: number | null
  /** The same word on lamp and sleeve: one reactor. */
  reactor: string
  /** Null where nobody knows. */
  fittedOn: string | null
  /** How often a change was promised, and in which month of the year; null where the line says neither. */
  contract: { months: number; month: number | null } | null
  reading: RowReading | null
  problems: RowProblem[]
  notes: string[]
}

export interface RowOptions {
  headings: readonly string[]
  columns: readonly (IntakeField | null)[]
  order: DateOrder
  gallon: 'us' | 'imperial'
  decimal: '.' | ','
  /** The firm's day. */
  today: string
  /** Kinds of part that the firm named itself. */
  own?: readonly OwnMedium[]
}

/** Longest texts and widest numbers a line may hold; the same limits the forms have. */
const LONGEST: Partial<Record<IntakeField, number>> = {
  site: 120,
  street: 120,
  postcode: 20,
  village: 80,
  island: 80,
  serialNo: 60,
  country: 60,
  contact: 120,
  phone: 40,
  email: 254,
  access: 1000,
  system: 120,
  partNumber: 60,
  reactor: 80,
}
const RANGE: Partial<Record<IntakeField, { least: number; most: number; unit: string; whole?: true }>> = {
  people: {
    least: 1,
    most: 5000,
    get unit() {
      return say`people`
    },
    whole: true,
  },
  chlorine: { least: 0, most: 20, unit: 'mg/L' },
  position: { least: 1, most: 40, unit: '', whole: true },
  untreated: { least: 0, most: 200_000, unit: 'mg/L' },
  treated: { least: 0, most: 200_000, unit: 'mg/L' },
  counter: { least: 0, most: 1e9, unit: 'L' },
  pressureIn: { least: 0, most: 3000, unit: 'kPa' },
  pressureOut: { least: 0, most: 3000, unit: 'kPa' },
  flow: { least: 0, most: 2000, unit: 'L/min' },
  bed: { least: 0.5, most: 5000, unit: 'L' },
  lampHours: { least: 0, most: 500_000, unit: 'h' },
}
/** Nothing in service is older than this. */
const OLDEST_DAY = '1980-01-01'

const MEASURED = ['untreated', 'treated', 'counter', 'pressureIn', 'pressureOut', 'flow', 'lampHours'] as const

/** Reads one line; every problem of it at once. */
export function readRow(cells: readonly string[], line: number, options: RowOptions): ReadRow {
  const problems: RowProblem[] = []
  const notes: string[] = []
  const columnOf = (field: IntakeField): number => options.columns.indexOf(field)
  const text = (field: IntakeField): string => (cells[columnOf(field)] ?? '').trim()
  const wrong = (field: IntakeField | null, message: string): void => {
    const column = field === null ? -1 : columnOf(field)
    problems.push({ field, heading: options.headings[column] ?? null, value: cells[column]?.trim() ?? '', message })
  }
  const taken = <T>(field: IntakeField, read: (typed: string) => Cell<T>): T | null => {
    const typed = text(field)
    if (notKnown(typed)) return null
    const cell = read(typed)
    if (!cell.ok) {
      wrong(field, cell.message)
      return null
    }
    if (cell.note) notes.push(cell.note)
    return cell.value
  }
  const words = (field: IntakeField): string => {
    const typed = text(field)
    const most = LONGEST[field] ?? 120
    if (typed.length > most) wrong(field, say`is longer than ${most} characters`)
    return typed
  }
  const amount = (field: IntakeField): { value: number; unit: string } | null => {
    const dimension = INTAKE_QUANTITIES[field] ?? 'number'
    const unit = unitOfHeading(options.headings[columnOf(field)] ?? '')
    const read = taken(field, (typed) => readQuantity(typed, { dimension, unit, gallon: options.gallon, decimal: options.decimal }))
    const range = RANGE[field]
    if (read === null || !range) return read
    if (range.whole && !Number.isInteger(read.value)) wrong(field, say`is not a whole number`)
    else if (read.value < range.least || read.value > range.most)
      wrong(field, say`lies outside ${range.least} to ${numberText(range.most)}${range.unit ? ` ${range.unit}` : ''}`)
    else return read
    return null
  }
  const past = (field: IntakeField): string | null => {
    const day = taken(field, (typed) => readDay(typed, options.order))
    if (day === null || (day >= OLDEST_DAY && day <= options.today)) return day
    wrong(field, day > options.today ? say`${day} is still to come` : say`${day} is before ${OLDEST_DAY.slice(0, 4)}`)
    return null
  }
  const site = words('site')
  if (notKnown(site)) wrong('site', say`No site: whose line is this?`)
  const fittedOn = past('fittedOn')
  const [months, month] = [taken('contractMonths', readInterval), taken('contractMonth', readMonth)]
  const reading = readingOf(amount, past, fittedOn, (message) => wrong('readOn', message))
  return {
    line,
    site,
    street: words('street'),
    postcode: words('postcode'),
    village: words('village'),
    island: words('island'),
    country: words('country'),
    at: taken('coordinates', readPosition) ?? apart(text('latitude'), text('longitude'), (message) => wrong('latitude', message)),
    kind: taken('placeKind', readKind),
    contact: words('contact'),
    phone: words('phone'),
    email: words('email'),
    access: words('access'),
    people: amount('people')?.value ?? null,
    source: taken('source', readSource),
    chlorineMgL: amount('chlorine')?.value ?? null,
    system: words('system'),
    serialNo: notKnown(text('serialNo')) ? '' : words('serialNo'),
    family: taken('family', readFamily),
    pump: taken('pump', readPump),
    outlets: taken('outlets', readOutlets),
    bypass: taken('bypass', readBypass),
    mustGoOn: taken('mustGoOn', readYes),
    monitor: taken('monitor', readYes),
    position: amount('position')?.value ?? null,
    partNumber: notKnown(text('partNumber')) ? '' : words('partNumber'),
    medium: taken('medium', (text) => readMedium(text, options.own)),
    bedL: amount('bed')?.value ?? null,
    reactor: words('reactor'),
    fittedOn,
    contract: months === null && month === null ? null : { months: months ?? 12, month },
    reading,
    problems,
    notes,
  }
}

/** Latitude and longitude in columns of their own. */
function apart(lat: string, lon: string, wrong: (message: string) => void): Position | null {
  if (notKnown(lat) && notKnown(lon)) return null
  const cell = readPosition(`${lat.replace(',', '.')}; ${lon.replace(',', '.')}`)
  if (cell.ok) return cell.value
  wrong(cell.message)
  return null
}

function readingOf(
  amount: (field: IntakeField) => { value: number; unit: string } | null,
  past: (field: IntakeField) => string | null,
  fittedOn: string | null,
  wrong: (message: string) => void,
): RowReading | null {
  const read = Object.fromEntries(MEASURED.map((field) => [field, amount(field)])) as Record<
    (typeof MEASURED)[number],
    { value: number; unit: string } | null
  >
  const on = past('readOn') ?? fittedOn
  const values = MEASURED.filter((field) => read[field] !== null)
  if (values.length === 0) return null
  if (on === null) {
    wrong(say`Nothing says on which day ${midSentence(INTAKE_LABELS[values[0] as IntakeField])} was read`)
    return null
  }
  const water = (field: 'untreated' | 'treated') => {
    const one = read[field]
    return one === null ? {} : { [field]: { value: one.value, quantity: one.unit.endsWith('s/cm') ? ('ec' as const) : ('tds' as const) } }
  }
  const plain = (field: (typeof MEASURED)[number], name: string) => (read[field] === null ? {} : { [name]: read[field]?.value })
  return {
    on,
    ...water('untreated'),
    ...water('treated'),
    ...plain('counter', 'counterL'),
    ...plain('pressureIn', 'inKpa'),
    ...plain('pressureOut', 'outKpa'),
    ...plain('flow', 'flowLMin'),
    ...plain('lampHours', 'lampHours'),
  }
}
