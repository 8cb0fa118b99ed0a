import { localeNow } from './language'

/** Making a formatter takes long on a slow phone: each is made once. */
const made = new Map<string, Intl.NumberFormat>()

/** A figure as the language of this moment writes it: "1,204", "1.204"; decimals as they are unless bounded. */
export function numberText(value: number, options: Intl.NumberFormatOptions = {}): string {
  const locale = localeNow()
  const key = `${locale} ${JSON.stringify(options)}`
  const format = made.get(key) ?? new Intl.NumberFormat(locale, { maximumFractionDigits: 20, ...options })
  made.set(key, format)
  return format.format(value)
}

/** A figure inside a sentence: digits as they are, the decimal mark of the language, nothing between thousands. */
export const plainNumber = (value: number): string => (Number.isInteger(value) ? String(value) : numberText(value, { useGrouping: false }))

/** A figure already written with a point, with the decimal mark of the language of this moment. */
export const decimalText = (figure: string): string => (numberText(0.5).includes(',') ? figure.replace('.', ',') : figure)
