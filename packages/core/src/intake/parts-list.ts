import { HOUSING_PROFILES, HOUSINGS, type Housing, type Medium, type OwnMedium, usualHousing } from '../catalogue'
import { say } from '../words'
import { type Cell, notKnown, readMedium, readQuantity } from './cells'
import { headingMatcher, plainWords, unitOfHeading } from './fields'

/** What a column of a parts list can hold. Order is the order screens offer them in. */
export const PARTS_FIELDS = [
  'partNumber',
  'barcode',
  'name',
  'maker',
  'medium',
  'housing',
  'price',
  'supplier',
  'months',
  'litres',
  'hours',
  'capacity',
] as const
export type PartsField = (typeof PARTS_FIELDS)[number]

export const PARTS_LABELS: Record<PartsField, string> = {
  get partNumber() {
    return say`Part number`
  },
  get barcode() {
    return say`Bar code`
  },
  get name() {
    return say`Name`
  },
  get maker() {
    return say`Maker`
  },
  get medium() {
    return say`What the part is`
  },
  get housing() {
    return say`Housing`
  },
  get price() {
    return say`Price`
  },
  get supplier() {
    return say`Supplier`
  },
  get months() {
    return say`Calendar life, months`
  },
  get litres() {
    return say`Rated for, litres`
  },
  get hours() {
    return say`Lamp hours`
  },
  get capacity() {
    return say`Capacity, meq`
  },
}
const HEADINGS: Record<PartsField, readonly string[]> = {
  partNumber: ['part', 'part no', 'partnumber', 'article', 'article no', 'article number', 'item', 'item no', 'sku', 'pn', 'code', 'ref'],
  barcode: ['barcode', 'ean', 'gtin', 'upc', 'ean13', 'ean code'],
  name: ['description', 'part name', 'article name', 'text', 'product'],
  maker: ['manufacturer', 'brand', 'make'],
  medium: ['medium', 'media', 'kind', 'type', 'part type', 'category', 'group'],
  housing: ['housing type', 'fits', 'size', 'fits in'],
  price: ['net price', 'list price', 'unit price', 'cost', 'price each'],
  supplier: ['vendor', 'bought from', 'wholesaler', 'dealer'],
  months: ['months', 'life months', 'life', 'calendar life', 'change every months'],
  litres: ['litres', 'capacity litres', 'rated litres', 'volume', 'gallons', 'rated for'],
  hours: ['hours', 'rated hours', 'lamp life'],
  capacity: ['capacity', 'meq', 'exchange capacity'],
}
export const matchPartsColumns = headingMatcher(PARTS_FIELDS, PARTS_LABELS, HEADINGS)

export interface PartRated {
  days: number | null
  litres: number | null
  milliequivalents: number | null
  hours: number | null
}
/** A part of the firm's catalogue, as far as a list can meet it. */
export interface CataloguePart {
  id: string
  partNumber: string
  barcode: string
  name: string
  maker: string
  media: Medium
  housing: Housing
  supplier: string
  /** Integer minor units of the firm's currency. */
  priceMinor: number
  rated: PartRated
}
/** A part as it will stand; `id` null for one that is new. */
export type PlannedPart = Omit<CataloguePart, 'id'> & { id: string | null; line: number; changes: PartsField[] }

export interface PartsRow {
  line: number
  problems: { field: PartsField | null; heading: string | null; value: string; message: string }[]
  notes: string[]
}
export interface PartsPlan {
  rows: PartsRow[]
  /** New parts and those that change, in the order of their lines; what stays as it is is not among them. */
  parts: PlannedPart[]
  same: number
}

export interface PartsOptions {
  headings: readonly string[]
  columns: readonly (PartsField | null)[]
  gallon: 'us' | 'imperial'
  decimal: '.' | ','
  own: readonly OwnMedium[]
  /** What a part of a medium is rated at where the list does not say. */
  ratedAs: (media: Medium) => PartRated
}

/** Mean Gregorian year over twelve months. */
const DAYS_PER_MONTH = 365.2425 / 12
const MOST: Record<'partNumber' | 'barcode' | 'name' | 'maker' | 'supplier', number> = {
  partNumber: 60,
  barcode: 40,
  name: 120,
  maker: 80,
  supplier: 80,
}

const good = <T>(value: T): Cell<T> => ({ ok: true, value })
const bad = (message: string): Cell<never> => ({ ok: false, message })

/** A price in minor units: `16.80`, `16,80`, `€ 1.216,80`, `12 EUR`. */
export function readPrice(text: string, decimal: '.' | ','): Cell<number> {
  const figure = text.replace(/[^\d.,-]/g, '')
  const [points, commas] = [figure.split('.').length - 1, figure.split(',').length - 1]
  // Of two marks the last one parts the cents; of one kind alone, three digits after it are thousands.
  const last = Math.max(figure.lastIndexOf('.'), figure.lastIndexOf(','))
  const both = points > 0 && commas > 0
  const thousands = !both && (points + commas > 1 || (/^\d{1,3}[.,]\d{3}$/.test(figure) && figure[last] !== decimal))
  const plain =
    last < 0 || thousands ? figure.replace(/[.,]/g, '') : `${figure.slice(0, last).replace(/[.,]/g, '')}.${figure.slice(last + 1)}`
  const price = Number(plain)
  if (figure === '' || !Number.isFinite(price)) return bad(say`“${text.trim()}” is no price: write 16.80`)
  if (price < 0) return bad(say`A price is not below 0: ${text.trim()}`)
  if (price > 1_000_000) return bad(say`“${text.trim()}” is more than any part costs`)
  // By its digits: 9.995 has no exact half in binary.
  const [units = '0', cents = ''] = plain.split('.')
  return good(Number(units) * 100 + Number(cents.padEnd(2, '0').slice(0, 2)) + (Number(cents[2] ?? 0) >= 5 ? 1 : 0))
}

/** A code as it is printed: digits or letters. A spreadsheet that rounded it has lost digits for good. */
export function readBarcode(text: string): Cell<string> {
  const code = text.trim()
  if (/^\d+([.,]\d+)?e\+?\d+$/i.test(code))
    return bad(say`“${code}” was rounded by the spreadsheet: format the column as text and save it again`)
  return /^[\w./-]{1,40}$/.test(code) ? good(code) : bad(say`“${code}” is no bar code: up to 40 digits or letters`)
}

function readHousing(text: string): Cell<Housing> {
  const words = plainWords(text)
  const found = HOUSINGS.find((housing) => plainWords(housing) === words || plainWords(HOUSING_PROFILES[housing].name) === words)
  return found
    ? good(found)
    : bad(say`“${text.trim()}” is no housing we know; one of: ${HOUSINGS.map((housing) => HOUSING_PROFILES[housing].name).join(', ')}`)
}

type Given = Partial<Omit<CataloguePart, 'id' | 'rated'>> & { rated: Partial<PartRated> }

function positive(text: string, dimension: 'number' | 'volume', heading: string, { gallon, decimal }: PartsOptions): Cell<number> {
  const read = readQuantity(text, { dimension, unit: unitOfHeading(heading), gallon, decimal })
  if (!read.ok) return read
  return read.value.value > 0 ? good(read.value.value) : bad(say`A rating is above 0: ${text.trim()}`)
}

/** One cell into what the line says, or what is wrong with it. */
function takeCell(given: Given, field: PartsField, text: string, heading: string, options: PartsOptions): string | null {
  const put = <T>(cell: Cell<T>, set: (value: T) => void): string | null => {
    if (!cell.ok) return cell.message
    set(cell.value)
    return null
  }
  switch (field) {
    case 'medium':
      return put(readMedium(text, options.own), (media) => Object.assign(given, { media }))
    case 'housing':
      return put(readHousing(text), (housing) => Object.assign(given, { housing }))
    case 'price':
      return put(readPrice(text, options.decimal), (priceMinor) => Object.assign(given, { priceMinor }))
    case 'barcode':
      return put(readBarcode(text), (barcode) => Object.assign(given, { barcode }))
    case 'months':
      return put(positive(text, 'number', '', options), (months) => Object.assign(given.rated, { days: months * DAYS_PER_MONTH }))
    case 'litres':
      return put(positive(text, 'volume', heading, options), (litres) => Object.assign(given.rated, { litres }))
    case 'hours':
      return put(positive(text, 'number', '', options), (hours) => Object.assign(given.rated, { hours }))
    case 'capacity':
      return put(positive(text, 'number', '', options), (milliequivalents) => Object.assign(given.rated, { milliequivalents }))
    default: {
      const words = text.trim()
      if (words.length > MOST[field]) return say`At most ${MOST[field]} letters: this has ${words.length}`
      Object.assign(given, { [field]: words })
      return null
    }
  }
}

const TEXTS = ['barcode', 'name', 'maker', 'supplier'] as const

/** What a line changes of a part that is there already; ratings stay, since parts in service were rated by them. */
function changed(part: CataloguePart, given: Given, line: number): PlannedPart {
  const changes: PartsField[] = TEXTS.filter((field) => given[field] !== undefined && given[field] !== part[field])
  if (given.priceMinor !== undefined && given.priceMinor !== part.priceMinor) changes.push('price')
  const { barcode, name, maker, supplier, priceMinor } = { ...part, ...given }
  return { ...part, barcode, name, maker, supplier, priceMinor, line, changes }
}

/**
 * Turns the lines of a parts list (bar codes, prices, suppliers) into parts of the catalogue, against those the firm has: met by part
 * number, else by bar code. Every problem of every line is named; pure: nothing is written.
 */
export function planParts(lines: readonly (readonly string[])[], options: PartsOptions, known: readonly CataloguePart[]): PartsPlan {
  const byNumber = new Map(known.map((part) => [part.partNumber.toLowerCase(), part]))
  const byCode = new Map(known.filter(({ barcode }) => barcode !== '').map((part) => [part.barcode, part]))
  const lineOf = new Map<string, number>()
  const codeOf = new Map<string, number>()
  const plan: PartsPlan = { rows: [], parts: [], same: 0 }
  lines.forEach((cells, index) => {
    if (cells.every((cell) => cell.trim() === '')) return
    const row: PartsRow = { line: index + 2, problems: [], notes: [] }
    plan.rows.push(row)
    const given: Given = { rated: {} }
    const wrong = (field: PartsField | null, value: string, message: string): void => {
      const at = field === null ? -1 : options.columns.indexOf(field)
      row.problems.push({ field, heading: at < 0 ? null : (options.headings[at] ?? null), value, message })
    }
    options.columns.forEach((field, at) => {
      const text = cells[at] ?? ''
      if (field === null || notKnown(text)) return
      const message = takeCell(given, field, text, options.headings[at] ?? '', options)
      if (message !== null) wrong(field, text, message)
    })
    const number = given.partNumber ?? ''
    const there = byNumber.get(number.toLowerCase()) ?? (number === '' ? byCode.get(given.barcode ?? '') : undefined)
    if (number === '' && !there) wrong('partNumber', '', say`No part number`)
    if (!there && number !== '' && given.media === undefined && !row.problems.some(({ field }) => field === 'medium'))
      wrong('medium', '', say`A new part: nothing says what it is (sediment, carbon block, membrane …)`)
    const key = (there?.partNumber ?? number).toLowerCase()
    const before = key === '' ? undefined : lineOf.get(key)
    if (before !== undefined) wrong('partNumber', number, say`The same part stands in line ${before} already`)
    const owner = given.barcode === undefined ? undefined : byCode.get(given.barcode)
    if (owner && owner.id !== there?.id) wrong('barcode', given.barcode ?? '', say`This bar code is that of ${owner.partNumber} already`)
    const twin = given.barcode === undefined ? undefined : codeOf.get(given.barcode)
    if (twin !== undefined) wrong('barcode', given.barcode ?? '', say`The same bar code stands in line ${twin} already`)
    if (row.problems.length > 0) return
    lineOf.set(key, row.line)
    if (given.barcode !== undefined) codeOf.set(given.barcode, row.line)
    if (there) {
      if (Object.keys(given.rated).length > 0) row.notes.push(say`It is in the catalogue already: its ratings stay as they are`)
      const part = changed(there, given, row.line)
      if (part.changes.length === 0) plan.same += 1
      else plan.parts.push(part)
      return
    }
    const media = given.media as Medium
    plan.parts.push({
      id: null,
      line: row.line,
      changes: [],
      partNumber: number,
      barcode: given.barcode ?? '',
      name: given.name ?? number,
      maker: given.maker ?? say`not known`,
      media,
      housing: given.housing ?? usualHousing(media),
      supplier: given.supplier ?? '',
      priceMinor: given.priceMinor ?? 0,
      rated: { ...options.ratedAs(media), ...given.rated },
    })
  })
  return plan
}
