import { isIsoDay } from '../units'
import { say } from '../words'
import type { Found } from './proof'

/** One line of a laboratory's result file. */
export interface LaboratoryLine {
  bottle: string
  reportNumber: string
  /** Day of the result, ISO. */
  day: string
  totalColiform: Found
  eColi: Found
  /** Everything else it reports, as it says it. */
  others: { name: string; value: string }[]
}

export const LABORATORY_COLUMNS = ['bottle', 'report', 'date', 'total_coliform', 'e_coli'] as const
type Column = (typeof LABORATORY_COLUMNS)[number]

export type LaboratoryRead = { ok: true; lines: LaboratoryLine[] } | { ok: false; problems: { line: number; text: string }[] }

const FOUND: Record<string, Found> = {
  absent: 'absent',
  present: 'present',
  nd: 'absent',
  negative: 'absent',
  positive: 'present',
  '0': 'absent',
}
const foundOf = (text: string): Found | null => {
  const known = FOUND[text.trim().toLowerCase()]
  if (known) return known
  const count = Number(text.trim())
  return text.trim() !== '' && Number.isFinite(count) && count >= 0 ? (count > 0 ? 'present' : 'absent') : null
}

/**
 * Reads a laboratory's file from its rows (first row the heads): bottle, report, date, total_coliform, e_coli, and any more. A result may
 * be said in words or as a count per 100 mL. All problems come back with their line, counted from 1; then nothing is taken.
 */
export function readLaboratory(rows: readonly (readonly string[])[]): LaboratoryRead {
  const heads = (rows[0] ?? []).map((head) => head.trim().toLowerCase())
  const missing = LABORATORY_COLUMNS.filter((column) => !heads.includes(column))
  if (missing.length > 0) return { ok: false, problems: [{ line: 1, text: say`expected a column ${missing.join(', ')}` }] }
  const problems: { line: number; text: string }[] = []
  const lines: LaboratoryLine[] = []
  rows.slice(1).forEach((row, index) => {
    if (row.every((cell) => cell.trim() === '')) return
    const line = index + 2
    const cell = (column: Column): string => (row[heads.indexOf(column)] ?? '').trim()
    const [totalColiform, eColi] = [foundOf(cell('total_coliform')), foundOf(cell('e_coli'))]
    if (cell('bottle') === '') problems.push({ line, text: say`expected a bottle number` })
    if (!isIsoDay(cell('date'))) problems.push({ line, text: say`expected a date, YYYY-MM-DD, got ${cell('date') || say`nothing`}` })
    if (totalColiform === null)
      problems.push({ line, text: say`expected absent, present or a count, got ${cell('total_coliform') || say`nothing`}` })
    if (eColi === null) problems.push({ line, text: say`expected absent, present or a count, got ${cell('e_coli') || say`nothing`}` })
    if (totalColiform === 'absent' && eColi === 'present')
      problems.push({ line, text: say`E. coli is a coliform: one cannot be there without the other` })
    const others = heads.flatMap((name, at) =>
      (LABORATORY_COLUMNS as readonly string[]).includes(name) || (row[at] ?? '').trim() === ''
        ? []
        : [{ name, value: (row[at] ?? '').trim() }],
    )
    lines.push({
      bottle: cell('bottle'),
      reportNumber: cell('report'),
      day: cell('date'),
      totalColiform: totalColiform ?? 'absent',
      eColi: eColi ?? 'absent',
      others,
    })
  })
  return problems.length > 0 ? { ok: false, problems } : { ok: true, lines }
}
