import { LIST_FORMAT, listBody } from '@evenround/contract/lists'
import Papa from 'papaparse'

/** Headings that are understood as they stand, and two lines that show what a list may hold. */
export const EXAMPLE_LIST = `\uFEFF${[
  'Site,Town or village,Area or island,Contact,Telephone,People,Source of the water,System,Position,Part number,What the part is,Fitted on,Read on,Untreated (mg/L),Treated (mg/L),Counter (L)',
  'Otter Cottage,Quay,Thrawn,Ann Example,,3,mains,Kitchen,1,BRK-SED-10,sediment,2025-03-06,,,,',
  'Otter Cottage,Quay,Thrawn,,,,,Kitchen,2,BRK-CB-10,carbon,unknown,2025-06-01,410,398,1200',
].join('\r\n')}\r\n`

/**
 * The text of a list file. Spreadsheets save either as UTF-8 or, on older desks, as Windows-1252; what is no UTF-8 is read as that, so
 * that names keep their letters.
 */
export function textOfBytes(bytes: ArrayBuffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

/** The lines that were left, under the same headings, with what is wrong with each in a last column: mend them and bring them in. */
export function linesToCorrect(
  text: string,
  problems: readonly { line: number; problems: readonly { heading: string | null; message: string }[] }[],
): string {
  const { data, meta } = Papa.parse<string[]>(listBody(text), LIST_FORMAT)
  const [headings = []] = data
  const rows = problems.map(({ line, problems: wrong }) => {
    const cells = data[line - 1] ?? []
    const said = wrong.map(({ heading, message }) => (heading ? `${heading}: ${message}` : message)).join('; ')
    return [...headings.map((_, index) => cells[index] ?? ''), said]
  })
  return `\uFEFF${Papa.unparse([[...headings, 'To correct'], ...rows], { delimiter: meta.delimiter, newline: '\r\n', escapeFormulae: true })}\r\n`
}
