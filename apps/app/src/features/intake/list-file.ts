import ICAL from 'ical.js'
import Papa from 'papaparse'
import { textOfBytes } from './list-text'

const LINE_END = { newline: '\r\n' }

/** A spreadsheet is a zip; nothing else that holds a list begins so. */
const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

type Cell = string | number | boolean | Date | null | undefined
/** A cell as it would stand in a list: days without an hour, numbers with a point. */
const cellText = (cell: Cell): string =>
  cell instanceof Date ? cell.toISOString().slice(0, 10) : cell === null || cell === undefined ? '' : String(cell)

/** The first sheet of a spreadsheet as lines, without those that are empty. */
export const linesOfSheet = (rows: readonly (readonly Cell[])[]): string =>
  Papa.unparse(
    rows.map((row) => row.map(cellText)).filter((row) => row.some((cell) => cell.trim() !== '')),
    LINE_END,
  )

const CARD_HEADINGS = [
  'Site',
  'Contact',
  'Street and number',
  'Postcode',
  'Town or village',
  'Area or island',
  'Country',
  'Telephone',
  'E-mail',
  'Coordinates',
  'Access',
]

/** The first value of a property as text; of a structured one its parts. */
function partsOf(card: ICAL.Component, name: string): string[] {
  const value: unknown = card.getFirstPropertyValue(name)
  if (value === null || value === undefined) return []
  const parts = Array.isArray(value) ? value : [value]
  return parts.map((part) => (Array.isArray(part) ? part.join(' ') : String(part)).trim())
}

/** Address cards (vCard, RFC 6350) as a list: a firm's card is the site, its person the contact. */
export function linesOfCards(text: string): string {
  const parsed: unknown = ICAL.parse(text)
  const cards = (Array.isArray(parsed) && Array.isArray(parsed[0]) ? parsed : [parsed]) as ConstructorParameters<typeof ICAL.Component>[0][]
  const rows = cards.map((one) => {
    const card = new ICAL.Component(one)
    const [organisation = ''] = partsOf(card, 'org')
    const [name = ''] = partsOf(card, 'fn')
    const [, , street = '', town = '', region = '', postcode = '', country = ''] = partsOf(card, 'adr')
    const tel = (partsOf(card, 'tel')[0] ?? '').replace(/^tel:/i, '')
    const geo = (partsOf(card, 'geo').join(', ') ?? '').replace(/^geo:/i, '').replace(/^(-?[\d.]+)[;,]\s*(-?[\d.]+).*$/, '$1, $2')
    return [
      organisation || name,
      organisation ? name : '',
      street,
      postcode,
      town,
      region,
      country,
      tel,
      partsOf(card, 'email')[0] ?? '',
      geo,
      partsOf(card, 'note')[0] ?? '',
    ]
  })
  return Papa.unparse([CARD_HEADINGS, ...rows], LINE_END)
}

/** The lines of a file somebody chose: a spreadsheet (XLSX), address cards (VCF), or text parted by commas, semicolons or tabs. */
export async function listOfFile(file: File): Promise<string> {
  const bytes = await file.arrayBuffer()
  if (isZip(new Uint8Array(bytes, 0, Math.min(2, bytes.byteLength)))) {
    const { readSheet } = await import('read-excel-file/universal')
    return linesOfSheet((await readSheet(bytes)) as Cell[][])
  }
  const text = textOfBytes(bytes)
  return /^\s*BEGIN:VCARD/i.test(text) ? linesOfCards(text) : text
}
