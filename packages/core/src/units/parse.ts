/**
 * Numbers as people type them on a phone: `1.2k`, `3/4 in`, `12 gal`, `45 psi`, `1 200`, `0,5`.
 * Parsing belongs to screens; everything behind the screen is SI.
 */

export type Dimension = 'number' | 'volume' | 'pressure' | 'length' | 'temperature' | 'concentration' | 'flow' | 'hardness' | 'mass'

export interface QuantityOptions {
  /** What the field holds; decides which units are understood. */
  dimension: Dimension
  /** Unit assumed when none is typed; one of the units of the dimension. Default: the SI-side unit. */
  unit?: string
  /** What `gal` means here: a setting of the firm. Default `us`. */
  gallon?: 'us' | 'imperial'
  /** Decimal mark of the reader's locale. Default `.`; the other mark then groups thousands. */
  decimal?: '.' | ','
}

export type ParsedQuantity =
  | { ok: true; value: number; unit: string }
  | { ok: false; reason: 'empty' | 'not-a-number' | 'unknown-unit'; expected: string[] }

type Unit = { toSi: (value: number) => number }
const times = (factor: number): Unit => ({ toSi: (value) => value * factor })

/** Exact legal definitions: inch 25.4 mm, US gallon 231 in³, imperial gallon 4.54609 L, psi 6.894757 kPa. */
const UNITS: Record<Dimension, Record<string, Unit>> = {
  number: {},
  volume: {
    l: times(1),
    ml: times(0.001),
    m3: times(1000),
    'us-gal': times(3.785411784),
    'imp-gal': times(4.54609),
    cup: times(0.2365882365),
  },
  pressure: { kpa: times(1), bar: times(100), psi: times(6.894757293168), mpa: times(1000) },
  length: { m: times(1), cm: times(0.01), mm: times(0.001), in: times(0.0254), ft: times(0.3048) },
  temperature: { c: times(1), f: { toSi: (value) => ((value - 32) * 5) / 9 } },
  concentration: { 'mg/l': times(1), ppm: times(1), 'g/l': times(1000), 'us/cm': times(1), 'ms/cm': times(1000) },
  /** As calcium carbonate: a US grain a gallon is 17.118 mg/L, a German degree 17.848, a French one 10. */
  hardness: { 'mg/l': times(1), ppm: times(1), gpg: times(17.118), dh: times(17.848), fh: times(10) },
  mass: { kg: times(1), g: times(0.001), lb: times(0.45359237), oz: times(0.028349523125) },
  flow: {
    'l/min': times(1),
    'l/h': times(1 / 60),
    'm3/h': times(1000 / 60),
    'us-gal/min': times(3.785411784),
    'imp-gal/min': times(4.54609),
  },
}

const ALIASES: Record<string, string> = {
  litre: 'l',
  litres: 'l',
  liter: 'l',
  liters: 'l',
  'm³': 'm3',
  '"': 'in',
  inch: 'in',
  inches: 'in',
  "'": 'ft',
  feet: 'ft',
  foot: 'ft',
  '°c': 'c',
  '°f': 'f',
  'µs/cm': 'us/cm',
  'μs/cm': 'us/cm',
  µs: 'us/cm',
  us: 'us/cm',
  ms: 'ms/cm',
  cups: 'cup',
  'm³/h': 'm3/h',
  lpm: 'l/min',
  grains: 'gpg',
  'gr/gal': 'gpg',
  '°dh': 'dh',
  '°fh': 'fh',
  lbs: 'lb',
}

const SI_UNIT: Record<Dimension, string> = {
  number: '',
  volume: 'l',
  pressure: 'kpa',
  length: 'm',
  temperature: 'c',
  concentration: 'mg/l',
  flow: 'l/min',
  hardness: 'mg/l',
  mass: 'kg',
}

function unitName(text: string, gallon: 'us' | 'imperial'): string {
  const name = ALIASES[text] ?? text
  const wide = gallon === 'us' ? 'us-gal' : 'imp-gal'
  if (name === 'gal' || name === 'gallon' || name === 'gallons') return wide
  if (name === 'gpm' || name === 'gal/min') return `${wide}/min`
  return name
}

/** `1 1/2`, `3/4` and decimals with one decimal mark; null when it is none of them. */
function plainNumber(text: string, decimal: '.' | ','): number | null {
  const fraction = /^(-?)(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(text)
  if (fraction) {
    const denominator = Number(fraction[4])
    if (denominator === 0) return null
    const size = Number(fraction[2] ?? 0) + Number(fraction[3]) / denominator
    return fraction[1] === '-' ? -size : size
  }
  const group = decimal === '.' ? ',' : '.'
  // Thousands are grouped by threes only, so that `1,2` under a decimal point is a slip and not 12.
  const grouped = new RegExp(`^-?\\d{1,3}(?:[\\s\\${group}]\\d{3})+(?:\\${decimal}\\d*)?$`)
  const bare = grouped.test(text) ? text.replace(new RegExp(`[\\s\\${group}]`, 'g'), '') : text
  const pointed = decimal === ',' ? bare.replace(',', '.') : bare
  return /^-?(?:\d+\.?\d*|\.\d+)$/.test(pointed) ? Number(pointed) : null
}

/**
 * A value of the SI-side unit of its dimension in another unit of it, unrounded; the inverse of reading.
 * Throws `RangeError` for a unit the dimension does not have.
 */
export function inUnit(value: number, dimension: Dimension, unit: string): number {
  const known = UNITS[dimension][unit]
  if (!known) throw new RangeError(`${dimension} is not measured in ${unit}`)
  // Every unit is linear: a zero and a size.
  const zero = known.toSi(0)
  return (value - zero) / (known.toSi(1) - zero)
}

/**
 * Reads a typed quantity and gives it in the SI-side unit of its dimension
 * (litres, kPa, metres, °C, mg/L or µS/cm, L/min), unrounded. `k` after the number means thousands.
 * Never throws: what cannot be read comes back with the units that would have been understood.
 */
export function parseQuantity(text: string, options: QuantityOptions): ParsedQuantity {
  const { dimension, gallon = 'us', decimal = '.' } = options
  const units = UNITS[dimension]
  const expected = Object.keys(units)
  const cleaned = text
    .trim()
    .toLowerCase()
    .replace(/\u2212/g, '-')
    .replace(/[\u00a0\u202f\u2009]/g, ' ')
  if (cleaned === '') return { ok: false, reason: 'empty', expected }
  const split = /^(-?[\d.,/ ]*\d[.,]?)\s*(k(?![a-z]))?\s*(.*)$/.exec(cleaned) ?? /^(-?[.,]\d+)\s*(k(?![a-z]))?\s*(.*)$/.exec(cleaned)
  if (!split) return { ok: false, reason: 'not-a-number', expected }
  const number = plainNumber((split[1] as string).trim(), decimal)
  if (number === null) return { ok: false, reason: 'not-a-number', expected }
  const value = split[2] ? number * 1000 : number
  const typed = (split[3] as string).trim()
  if (dimension === 'number') {
    return typed === '' ? { ok: true, value, unit: '' } : { ok: false, reason: 'unknown-unit', expected }
  }
  const unit = typed === '' ? (options.unit ?? SI_UNIT[dimension]) : unitName(typed, gallon)
  const known = units[unit]
  if (!known) return { ok: false, reason: 'unknown-unit', expected }
  return { ok: true, value: known.toSi(value), unit }
}
