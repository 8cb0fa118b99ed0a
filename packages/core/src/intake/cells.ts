import { MEDIA, type Medium, mediumName, type OwnMedium } from '../catalogue'
import { FAMILIES } from '../train'
import { type Dimension, isIsoDay, parseQuantity } from '../units'
import type { WaterSource } from '../wear'
import { plainWords } from './fields'

/** One cell understood, or what is wrong with it in a sentence. */
export type Cell<T> = { ok: true; value: T; note?: string } | { ok: false; message: string }
const good = <T>(value: T, note?: string): Cell<T> => ({ ok: true, value, ...(note === undefined ? {} : { note }) })
const bad = (message: string): { ok: false; message: string } => ({ ok: false, message })

const NOT_KNOWN = new Set(['', '?', '??', '-', '–', 'unknown', 'not known', 'n/a', 'na', 'none', 'no idea', 'dont know', 'don t know'])
/** Empty, a question mark, or words for not knowing. */
export const notKnown = (text: string): boolean => NOT_KNOWN.has(text.trim().toLowerCase()) || NOT_KNOWN.has(plainWords(text))

export type DateOrder = 'day-first' | 'month-first'

/** Which way round a column writes its dates: told by any that fits one way only; by day first where none tells. */
export function dateOrderOf(cells: readonly string[]): { order: DateOrder; told: boolean } {
  for (const cell of cells) {
    const parts = /^\s*(\d{1,2})[./-](\d{1,2})[./-]\d{2,4}\s*$/.exec(cell)
    if (!parts) continue
    const [first, second] = [Number(parts[1]), Number(parts[2])]
    if (first > 12 && second <= 12) return { order: 'day-first', told: true }
    if (second > 12 && first <= 12) return { order: 'month-first', told: true }
  }
  return { order: 'day-first', told: false }
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
const monthNumber = (word: string): number => MONTHS.indexOf(word.slice(0, 3).toLowerCase()) + 1
const fullYear = (text: string): number => (text.length === 2 ? 2000 + Number(text) : Number(text))
const MIDDLE = 15

function dayOf(year: number, month: number, date: number, text: string): Cell<string> {
  const pad = (value: number, width = 2): string => String(value).padStart(width, '0')
  const day = `${pad(year, 4)}-${pad(month)}-${pad(date)}`
  return isIsoDay(day) ? good(day) : bad(`There is no such day: ${text}`)
}

/** A month alone is taken as its middle, and says so. */
function middleOf(year: number, month: number, text: string): Cell<string> {
  const cell = dayOf(year, month, MIDDLE, text)
  return cell.ok ? good(cell.value, `“${text}” is taken as the middle of that month`) : cell
}

/**
 * A calendar day as people write it: `2025-03-06`, `6/3/2025` (the column's order), `6.3.25`, `6 March 2025`; a month alone is its
 * middle. Two-digit years are of this century.
 */
export function readDay(typed: string, order: DateOrder): Cell<string> {
  const text = typed.trim()
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ].*)?$/.exec(text)
  if (iso) return dayOf(Number(iso[1]), Number(iso[2]), Number(iso[3]), text)
  const numbers = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/.exec(text)
  if (numbers) {
    const [first, second] = [Number(numbers[1]), Number(numbers[2])]
    const year = fullYear(numbers[3] as string)
    return order === 'day-first' ? dayOf(year, second, first, text) : dayOf(year, first, second, text)
  }
  const words = /^(\d{1,2})\.?\s+([A-Za-z]{3,9})\.?,?\s+(\d{4}|\d{2})$/.exec(text)
  if (words && monthNumber(words[2] as string) > 0)
    return dayOf(fullYear(words[3] as string), monthNumber(words[2] as string), Number(words[1]), text)
  const american = /^([A-Za-z]{3,9})\.?\s+(\d{1,2}),?\s+(\d{4})$/.exec(text)
  if (american && monthNumber(american[1] as string) > 0)
    return dayOf(Number(american[3]), monthNumber(american[1] as string), Number(american[2]), text)
  const month = /^([A-Za-z]{3,9})\.?\s+(\d{4})$/.exec(text)
  if (month && monthNumber(month[1] as string) > 0) return middleOf(Number(month[2]), monthNumber(month[1] as string), text)
  const isoMonth = /^(\d{4})-(\d{1,2})$/.exec(text) ?? /^(?<m>\d{1,2})[./](?<y>\d{4})$/.exec(text)
  if (isoMonth?.groups) return middleOf(Number(isoMonth.groups.y), Number(isoMonth.groups.m), text)
  if (isoMonth) return middleOf(Number(isoMonth[1]), Number(isoMonth[2]), text)
  return bad(`“${text}” is not a day: write 2025-03-06, 6/3/2025 or 6 March 2025; leave it empty when nobody knows`)
}

export interface NumberReading {
  dimension: Dimension
  /** Unit of the column, where its heading names one. */
  unit: string | null
  gallon: 'us' | 'imperial'
  /** Decimal mark tried first; the other one is tried after it. */
  decimal: '.' | ','
}

/** A quantity in the SI-side unit of its dimension, with the unit it was read in. */
export function readQuantity(text: string, { dimension, unit, gallon, decimal }: NumberReading): Cell<{ value: number; unit: string }> {
  const withUnit = unit !== null && dimension !== 'number' && /[\d.,]\s*k?\s*$/i.test(text) ? `${text.trim()} ${unit}` : text
  const other = decimal === '.' ? ',' : '.'
  for (const mark of [decimal, other] as const) {
    const parsed = parseQuantity(withUnit, { dimension, gallon, decimal: mark })
    if (parsed.ok) return good({ value: parsed.value, unit: parsed.unit })
    if (parsed.reason === 'unknown-unit')
      return bad(
        `“${withUnit.trim()}” has a unit that is not understood here${parsed.expected.length > 0 ? `: ${parsed.expected.join(', ')}` : ''}`,
      )
  }
  return bad(`“${text.trim()}” is not a number`)
}

const INTERVALS: Readonly<Record<string, number>> = {
  monthly: 1,
  quarterly: 3,
  'half yearly': 6,
  'half year': 6,
  'twice a year': 6,
  biannual: 6,
  yearly: 12,
  annual: 12,
  annually: 12,
  'once a year': 12,
}
const MOST_MONTHS = 240

/** Months between two changes as people write them: `6`, `6 months`, `2 years`, `half-yearly`. */
export function readInterval(text: string): Cell<number> {
  const words = plainWords(text)
  const known = INTERVALS[words]
  if (known !== undefined) return good(known)
  const counted = /^(?:every )?(\d{1,3}) ?(months?|m|years?|y)?$/.exec(words)
  const months = counted ? Number(counted[1]) * (counted[2]?.startsWith('y') ? 12 : 1) : 0
  if (months >= 1 && months <= MOST_MONTHS) return good(months)
  return bad(`“${text.trim()}” is no interval: write 6, 6 months or yearly`)
}

/** A month of the year: `5`, `May`. */
export function readMonth(text: string): Cell<number> {
  const number = /^\d{1,2}$/.test(text.trim()) ? Number(text.trim()) : monthNumber(text.trim())
  return number >= 1 && number <= 12 ? good(number) : bad(`“${text.trim()}” is no month: write 5 or May`)
}

const SOURCES: Record<WaterSource, readonly string[]> = {
  municipal: ['municipal', 'mains', 'town', 'town water', 'city', 'city water', 'public', 'mains water'],
  'drilled-well': ['drilled well', 'borehole', 'bore', 'deep well', 'well', 'drilled'],
  'shallow-well': ['shallow well', 'dug well', 'shallow'],
  surface: ['surface', 'stream', 'lake', 'river', 'spring', 'loch', 'burn'],
  roof: ['roof', 'rain', 'rainwater', 'rain water', 'cistern', 'roof water'],
}

export function readSource(text: string): Cell<WaterSource> {
  const words = plainWords(text)
  for (const [source, names] of Object.entries(SOURCES)) if (names.includes(words)) return good(source as WaterSource)
  return bad(`“${text.trim()}” is no source we know: municipal, drilled well, shallow well, surface or roof`)
}

export type FamilyKey = keyof typeof FAMILIES
export function readFamily(text: string): Cell<FamilyKey> {
  const words = plainWords(text)
  for (const [key, { name }] of Object.entries(FAMILIES))
    if (plainWords(key) === words || plainWords(name) === words) return good(key as FamilyKey)
  return bad(
    `“${text.trim()}” is no system we know; one of: ${Object.values(FAMILIES)
      .map(({ name }) => name)
      .join('; ')}`,
  )
}

const MEDIUM_WORDS: Partial<Record<Medium, readonly string[]>> = {
  sediment: ['sediment', 'pleated', 'wound', 'spun', 'string wound', 'prefilter'],
  'carbon-block': ['carbon', 'carbon block', 'granular carbon', 'gac', 'charcoal'],
  'sediment-carbon': ['sediment carbon', 'combined', 'sediment and carbon combined', 'combination'],
  'fluoride-media': ['fluoride', 'fluoride media'],
  membrane: ['membrane', 'ro membrane', 'reverse osmosis membrane'],
  ultrafiltration: ['uf', 'ultrafilter', 'hollow fibre', 'hollow fiber'],
  'iron-bed': ['iron', 'sulphur', 'sulfur', 'iron bed', 'iron filter', 'manganese'],
  'ph-bed': ['ph bed', 'ph correction', 'neutralising bed', 'neutralizing bed'],
  'chlorine-feed': ['chlorinator', 'feed pump', 'dosing pump', 'chlorine pump'],
  'post-carbon': ['post carbon', 'polish', 'polishing carbon', 'postfilter', 'post filter'],
  remineraliser: ['remineraliser', 'remineralizer', 'mineral', 'ph', 'calcite'],
  'deionising-resin': ['resin', 'mixed bed', 'mixed bed resin', 'di', 'deionising resin'],
  'uv-lamp': ['lamp', 'uv lamp', 'ultraviolet lamp', 'uv'],
  'uv-sleeve': ['sleeve', 'quartz', 'quartz sleeve', 'uv sleeve'],
}

export const PUMPS = ['well', 'booster', 'delivery'] as const
export type Pump = (typeof PUMPS)[number]
const PUMP_WORDS: Record<Pump, readonly string[]> = {
  well: ['well', 'well pump', 'borehole pump', 'submersible', 'jet pump'],
  booster: ['booster', 'booster pump', 'pressure booster'],
  delivery: ['delivery', 'delivery pump', 'demand pump'],
}
export function readPump(text: string): Cell<Pump> {
  const words = plainWords(text)
  const found = PUMPS.find((pump) => PUMP_WORDS[pump].includes(words))
  return found ? good(found) : bad(`“${text.trim()}” is no pump we know: well, booster or delivery`)
}

/** A kind of part by its name; `own` are those the firm named itself. */
export function readMedium(text: string, own: readonly OwnMedium[] = []): Cell<Medium> {
  const words = plainWords(text)
  const all: readonly Medium[] = [...own, ...MEDIA]
  const found = all.find(
    (media) => plainWords(media) === words || plainWords(mediumName(media)) === words || MEDIUM_WORDS[media]?.includes(words) === true,
  )
  return found ? good(found) : bad(`“${text.trim()}” is no kind of part we know; one of: ${all.map(mediumName).join(', ')}`)
}
