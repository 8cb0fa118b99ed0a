import { MOST_INTAKE_LINES } from '@evenround/contract/intake'
import { LIST_FORMAT, listBody } from '@evenround/contract/lists'
import type { PartsPreview } from '@evenround/contract/parts-list'
import { mediumName, ratedAs } from '@evenround/core/catalogue'
import { matchPartsColumns, type PartsField, type PlannedPart, planParts } from '@evenround/core/intake'
import { say } from '@evenround/core/words'
import Papa from 'papaparse'
import { Firm, Part } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { badInput, notFound } from '../../http/errors'
import { kindsOf } from '../wear/kinds'
import { profilesOf } from '../wear/profiles'
import { partDto, ratedColumns } from './store'

const SHOWN = 20
const NOTES_SHOWN = 100
const SAMPLES = 3

export interface PartsAsked {
  text: string
  columns?: readonly (PartsField | null)[] | undefined
}

/** The plan of a list as the catalogue stands now. */
async function planned(scope: FirmScope, { text, columns: given }: PartsAsked) {
  const { data, meta } = Papa.parse<string[]>(listBody(text), LIST_FORMAT)
  const [first, ...lines] = data
  const headings = (first ?? []).map((heading) => heading.trim())
  if (headings.every((heading) => heading === '') || lines.length === 0)
    throw badInput([{ path: 'text', message: say`expected a line of headings and at least one line under it` }])
  if (lines.length > MOST_INTAKE_LINES)
    throw badInput([{ path: 'text', message: say`expected at most ${MOST_INTAKE_LINES} lines, got ${lines.length}: bring it in by parts` }])
  const guessed = given ?? matchPartsColumns(headings)
  const columns = headings.map((_, index) => guessed[index] ?? null)
  const twice = columns.find((field, index) => field !== null && columns.indexOf(field) !== index)
  if (twice) throw badInput([{ path: 'columns', message: say`expected each field once: two columns hold ${twice}` }])
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw notFound('firm')
  const [profiles, kinds] = [await profilesOf(scope), await kindsOf(scope)]
  const options = {
    headings,
    columns,
    gallon: firm.gallon,
    decimal: meta.delimiter === ';' ? (',' as const) : ('.' as const),
    own: kinds.map(({ id }) => id),
    ratedAs: (media: PlannedPart['media']) => ratedAs(profiles.of(media)),
  }
  const known = (await scope.find(Part)).map((part) => partDto(part))
  return { headings, lines, columns, currency: firm.currency, plan: planParts(lines, options, known) }
}

const samplesOf = (lines: readonly (readonly string[])[], column: number): string[] =>
  [...new Set(lines.slice(0, NOTES_SHOWN).map((cells) => (cells[column] ?? '').trim()))].filter(Boolean).slice(0, SAMPLES)

const CHANGE_WORDS: Partial<Record<PartsField, string>> = {
  get price() {
    return say`price`
  },
  get barcode() {
    return say`bar code`
  },
  get name() {
    return say`name`
  },
  get maker() {
    return say`maker`
  },
  get supplier() {
    return say`supplier`
  },
}
const lineOf = (part: PlannedPart, currency: string): string => {
  const price = `${(part.priceMinor / 100).toFixed(2)} ${currency}`
  return part.id === null
    ? [part.partNumber, part.name === part.partNumber ? '' : part.name, mediumName(part.media), price, part.supplier, part.barcode]
        .filter(Boolean)
        .join(' · ')
    : `${part.partNumber}: ${part.changes.map((field) => CHANGE_WORDS[field] ?? field).join(', ')} (${price})`
}

/** What a list would add and change, and what is wrong with which line; nothing is written. */
export async function previewParts(scope: FirmScope, asked: PartsAsked): Promise<PartsPreview> {
  const { headings, lines, columns, currency, plan } = await planned(scope, asked)
  const bad = plan.rows.filter(({ problems }) => problems.length > 0)
  return {
    columns: headings.map((heading, index) => ({ heading, field: columns[index] ?? null, samples: samplesOf(lines, index) })),
    lines: plan.rows.length,
    good: plan.rows.length - bad.length,
    added: plan.parts.filter(({ id }) => id === null).length,
    changed: plan.parts.filter(({ id }) => id !== null).length,
    same: plan.same,
    problems: bad.map(({ line, problems }) => ({ line, problems })),
    notes: plan.rows
      .filter(({ problems, notes }) => problems.length === 0 && notes.length > 0)
      .slice(0, NOTES_SHOWN)
      .map(({ line, notes }) => ({ line, notes })),
    parts: plan.parts.slice(0, SHOWN).map((part) => ({ line: part.line, isNew: part.id === null, text: lineOf(part, currency) })),
  }
}

/** Writes what a list adds and changes, in the transaction of the scope. */
export async function bringPartsIn(
  scope: FirmScope,
  asked: PartsAsked,
  newId: () => string,
): Promise<{ added: number; changed: number; left: number }> {
  const { plan } = await planned(scope, asked)
  const fresh = plan.parts.filter(({ id }) => id === null)
  const known = plan.parts.filter(({ id }) => id !== null)
  await scope.insertMany(
    Part,
    fresh.map(({ id: _, line: __, changes: ___, rated, ...part }) => ({ ...part, ...ratedColumns(rated), id: newId(), version: 1 })),
  )
  if (known.length > 0)
    await scope.query(
      `update part p set barcode = n.barcode, name = n.name, maker = n.maker, supplier = n.supplier, price_minor = n.price, version = p.version + 1
       from json_to_recordset($2::json) as n(id uuid, barcode text, name text, maker text, supplier text, price int) where p.firm_id = $1 and p.id = n.id`,
      [JSON.stringify(known.map(({ priceMinor, ...part }) => ({ ...part, price: priceMinor })))],
    )
  return {
    added: fresh.length,
    changed: known.length,
    left: plan.rows.filter(({ problems }) => problems.length > 0).length,
  }
}
