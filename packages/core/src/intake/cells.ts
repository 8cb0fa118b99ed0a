import { MEDIA, type Medium, mediumName, type OwnMedium } from '../catalogue'
import { FAMILIES } from '../train'
import { type Dimension, isIsoDay, type Position, parsePosition, parseQuantity } from '../units'
import { PLACE_KINDS, type PlaceKind, type WaterSource } from '../wear'
import { say } from '../words'
import { plainWords } from './fields'
import { isOwnUnknown, ownAnswer, ownKind, ownMonth, ownOutlet, ownPump, ownSource } from './own-words'

/** One cell understood, or what is wrong with it in a sentence. */
export type Cell<T> = { ok: true; value: T; note?: string } | { ok: false; message: string }
const good = <T>(value: T, note?: string): Cell<T> => ({ ok: true, value, ...(note === undefined ? {} : { note }) })
const bad = (message: string): { ok: false; message: string } => ({ ok: false, message })

const NOT_KNOWN = new Set(['', '?', '??', '-', '–', 'unknown', 'not known', 'n/a', 'na', 'none', 'no idea', 'dont know', 'don t know'])
/** Empty, a question mark, or words for not knowing. */
export function notKnown(text: string): boolean {
  const words = plainWords(text)
  return NOT_KNOWN.has(text.trim().toLowerCase()) || NOT_KNOWN.has(words) || isOwnUnknown(words)
}

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
const monthNumber = (word: string): number => MONTHS.indexOf(word.slice(0, 3).toLowerCase()) + 1 || ownMonth(word)
const fullYear = (text: string): number => (text.length === 2 ? 2000 + Number(text) : Number(text))
const MIDDLE = 15

function dayOf(year: number, month: number, date: number, text: string): Cell<string> {
  const pad = (value: number, width = 2): string => String(value).padStart(width, '0')
  const day = `${pad(year, 4)}-${pad(month)}-${pad(date)}`
  return isIsoDay(day) ? good(day) : bad(say`There is no such day: ${text}`)
}

/** A month alone is taken as its middle, and says so. */
function middleOf(year: number, month: number, text: string): Cell<string> {
  const cell = dayOf(year, month, MIDDLE, text)
  return cell.ok ? good(cell.value, say`“${text}” is taken as the middle of that month`) : cell
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
  const words = /^(\d{1,2})\.?\s+(\p{L}{3,9})\.?,?\s+(\d{4}|\d{2})$/u.exec(text)
  if (words && monthNumber(words[2] as string) > 0)
    return dayOf(fullYear(words[3] as string), monthNumber(words[2] as string), Number(words[1]), text)
  const american = /^(\p{L}{3,9})\.?\s+(\d{1,2}),?\s+(\d{4})$/u.exec(text)
  if (american && monthNumber(american[1] as string) > 0)
    return dayOf(Number(american[3]), monthNumber(american[1] as string), Number(american[2]), text)
  const month = /^(\p{L}{3,9})\.?\s+(\d{4})$/u.exec(text)
  if (month && monthNumber(month[1] as string) > 0) return middleOf(Number(month[2]), monthNumber(month[1] as string), text)
  const isoMonth = /^(\d{4})-(\d{1,2})$/.exec(text) ?? /^(?<m>\d{1,2})[./](?<y>\d{4})$/.exec(text)
  if (isoMonth?.groups) return middleOf(Number(isoMonth.groups.y), Number(isoMonth.groups.m), text)
  if (isoMonth) return middleOf(Number(isoMonth[1]), Number(isoMonth[2]), text)
  const about = remembered(text)
  if (about) return about
  return bad(say`“${text}” is not a day: write 2025-03-06, 6/3/2025 or 6 March 2025; leave it empty when nobody knows`)
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
        say`“${withUnit.trim()}” has a unit that is not understood here${parsed.expected.length > 0 ? `: ${parsed.expected.join(', ')}` : ''}`,
      )
  }
  return bad(say`“${text.trim()}” is not a number`)
}

/** The middle month of a season, in the north: nearer than half a quarter is nobody's memory. */
const SEASONS: Readonly<Record<string, number>> = { spring: 4, summer: 7, autumn: 10, fall: 10, winter: 1 }
/** "spring 2024", "early 2023", "2022": as near as somebody remembers, and says so. */
function remembered(text: string): Cell<string> | null {
  const season = /^([a-z]+)\s+(\d{4})$/i.exec(text)
  const month = SEASONS[season?.[1]?.toLowerCase() ?? '']
  if (season && month !== undefined) return middleOf(Number(season[2]), month, text)
  const part = /^(early|mid|late)[\s-]+(\d{4})$/i.exec(text)
  if (part) return middleOf(Number(part[2]), { early: 2, mid: 7, late: 11 }[(part[1] as string).toLowerCase()] ?? 7, text)
  const year = /^(\d{4})$/.exec(text)
  return year ? middleOf(Number(year[1]), 7, text) : null
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
  return bad(say`“${text.trim()}” is no interval: write 6, 6 months or yearly`)
}

/** A month of the year: `5`, `May`. */
export function readMonth(text: string): Cell<number> {
  const number = /^\d{1,2}$/.test(text.trim()) ? Number(text.trim()) : monthNumber(text.trim())
  return number >= 1 && number <= 12 ? good(number) : bad(say`“${text.trim()}” is no month: write 5 or May`)
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
  const own = ownSource(words)
  return own ? good(own) : bad(say`“${text.trim()}” is no source we know: municipal, drilled well, shallow well, surface or roof`)
}

export type FamilyKey = keyof typeof FAMILIES
export function readFamily(text: string): Cell<FamilyKey> {
  const words = plainWords(text)
  for (const [key, { name }] of Object.entries(FAMILIES))
    if (plainWords(key) === words || plainWords(name) === words) return good(key as FamilyKey)
  return bad(
    say`“${text.trim()}” is no system we know; one of: ${Object.values(FAMILIES)
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
  const found = PUMPS.find((pump) => PUMP_WORDS[pump].includes(words)) ?? ownPump(words)
  return found ? good(found) : bad(say`“${text.trim()}” is no pump we know: well, booster or delivery`)
}

const YES = new Set(['yes', 'y', 'true', 'x', '1', 'ja', 'sim'])
const NO = new Set(['no', 'n', 'false', '0'])
export function readYes(text: string): Cell<boolean> {
  const words = plainWords(text)
  const own = ownAnswer(words)
  if (YES.has(words) || own === 'yes') return good(true)
  return NO.has(words) || own === 'no' ? good(false) : bad(say`“${text.trim()}” is neither yes nor no`)
}

/** A bypass: `yes` goes round everything, `2-3` round those positions, `2` round that one. */
export function readBypass(text: string): Cell<'none' | 'all' | readonly [from: number, to: number]> {
  const plain = readYes(text)
  if (plain.ok) return good(plain.value ? 'all' : 'none')
  const span = /^(?:round\s+)?(\d{1,2})(?:\s*(?:-|–|to)\s*(\d{1,2}))?$/i.exec(text.trim())
  const [from, to] = [Number(span?.[1]), Number(span?.[2] ?? span?.[1])]
  return span && from >= 1 && to >= from
    ? good([from, to] as const)
    : bad(say`“${text.trim()}” is no bypass: write yes, no, or the positions it goes round, such as 2-3`)
}

export const OUTLET_USES = ['drinking', 'house', 'ice', 'appliance', 'hose'] as const
export type OutletUse = (typeof OUTLET_USES)[number]
const OUTLET_WORDS: Record<OutletUse, readonly string[]> = {
  drinking: ['drinking', 'drinking tap', 'tap', 'faucet', 'kitchen tap'],
  house: ['house', 'whole house', 'all taps', 'house taps'],
  ice: ['ice', 'ice maker', 'icemaker'],
  appliance: ['appliance', 'coffee machine', 'refrigerator', 'fridge', 'dishwasher', 'steamer'],
  hose: ['hose', 'garden hose', 'washdown'],
}
/** What draws behind a system: `drinking tap, ice maker`. */
export function readOutlets(text: string): Cell<readonly OutletUse[]> {
  const uses: OutletUse[] = []
  for (const one of text.split(/[,;+/&]|\band\b/)) {
    const words = plainWords(one)
    if (words === '') continue
    const use = OUTLET_USES.find((known) => OUTLET_WORDS[known].includes(words)) ?? ownOutlet(words)
    if (!use) return bad(say`“${one.trim()}” is no outlet we know: drinking tap, house, ice maker, appliance or hose`)
    uses.push(use)
  }
  return good([...new Set(uses)])
}

const KIND_WORDS: Record<PlaceKind, readonly string[]> = {
  home: ['home', 'house', 'household', 'private', 'residential', 'flat'],
  cafe: ['cafe', 'café', 'restaurant', 'bakery', 'bar', 'hotel'],
  surgery: ['surgery', 'practice', 'dentist', 'clinic', 'doctor'],
  workshop: ['workshop', 'factory', 'commercial', 'office', 'business'],
  vehicle: ['vehicle', 'boat', 'vehicle or boat', 'van', 'caravan'],
  'cleaning-round': ['cleaning round', 'window cleaner', 'pure water'],
}
export function readKind(text: string): Cell<PlaceKind> {
  const words = plainWords(text)
  const found = PLACE_KINDS.find((kind) => KIND_WORDS[kind].includes(words)) ?? ownKind(words)
  return found
    ? good(found)
    : bad(say`“${text.trim()}” is no kind of place we know; one of: home, café, surgery, workshop, vehicle, cleaning round`)
}

export function readPosition(text: string): Cell<Position> {
  const position = parsePosition(text)
  return position ? good(position) : bad(say`“${text.trim()}” is no position: write latitude and longitude, such as 58.31, -21.62`)
}

/** A kind of part by its name; `own` are those the firm named itself. */
export function readMedium(text: string, own: readonly OwnMedium[] = []): Cell<Medium> {
  const words = plainWords(text)
  const all: readonly Medium[] = [...own, ...MEDIA]
  const found = all.find(
    (media) => plainWords(media) === words || plainWords(mediumName(media)) === words || MEDIUM_WORDS[media]?.includes(words) === true,
  )
  return found ? good(found) : bad(say`“${text.trim()}” is no kind of part we know; one of: ${all.map(mediumName).join(', ')}`)
}
