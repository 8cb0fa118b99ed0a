import Papa from 'papaparse'

/** A table as CSV (RFC 4180) that spreadsheets read as UTF-8; a cell they would run as a formula is quoted. */
export const csvText = (fields: string[], data: (string | number)[][]): string =>
  `\uFEFF${Papa.unparse({ fields, data }, { escapeFormulae: true, newline: '\r\n' })}\r\n`
