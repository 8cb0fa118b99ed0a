/** A point on the earth, WGS 84 degrees. */
export interface Position {
  lat: number
  lon: number
}

const inRange = ({ lat, lon }: Position): boolean => Math.abs(lat) <= 90 && Math.abs(lon) <= 180

/** Degrees with optional minutes and seconds, and N, S, E or W before or after: 58.31, 58°18′36″N, N 58 18.6. */
const PART =
  /^([NSEW])?\s*([+-]?\d+(?:\.\d+)?)(?:\s*[°º\s]\s*(\d+(?:\.\d+)?)(?:\s*['′\s]\s*(\d+(?:\.\d+)?)\s*(?:"|″|'')?|\s*['′])?|\s*[°º])?\s*([NSEW])?$/i

interface Degrees {
  value: number
  side: string
}

function degreesOf(text: string): Degrees | null {
  const match = PART.exec(text.trim())
  if (!match) return null
  const [, before, whole = '', minutes, seconds, after] = match
  if (before && after) return null
  const side = (before ?? after ?? '').toUpperCase()
  const [min, sec] = [Number(minutes ?? 0), Number(seconds ?? 0)]
  if (min >= 60 || sec >= 60 || (minutes !== undefined && whole.includes('.'))) return null
  const size = Math.abs(Number(whole)) + min / 60 + sec / 3600
  const negative = whole.startsWith('-')
  if (negative && side !== '') return null
  return { value: negative || side === 'S' || side === 'W' ? -size : size, side }
}

/** Where a latitude ends and a longitude begins: after a side, between decimal commas, at a comma or semicolon, else at the one gap. */
function halves(text: string): readonly [string, string] | null {
  const sided = /^(.*?[NSEW])[\s,;]+(.*[NSEW])$/i.exec(text) ?? /^([NSEW].*?)[\s,;]+([NSEW].*)$/i.exec(text)
  if (sided) return [sided[1] as string, sided[2] as string]
  const commas = /^([+-]?\d+),(\d+)\s*[;\s]\s*([+-]?\d+),(\d+)$/.exec(text)
  if (commas) return [`${commas[1]}.${commas[2]}`, `${commas[3]}.${commas[4]}`]
  const apart = text.split(/\s*[;,]\s*|\s+/)
  return apart.length === 2 ? [apart[0] as string, apart[1] as string] : null
}

/** A latitude and a longitude by their sides; unsaid, the latitude comes first. Null where both are one of them. */
function inOrder(a: Degrees, b: Degrees): Position | null {
  const axis = ({ side }: Degrees): 'lat' | 'lon' | null => (side === '' ? null : side === 'N' || side === 'S' ? 'lat' : 'lon')
  const first = axis(a) ?? (axis(b) === 'lat' ? 'lon' : 'lat')
  const second = axis(b) ?? (first === 'lat' ? 'lon' : 'lat')
  if (first === second) return null
  return first === 'lat' ? { lat: a.value, lon: b.value } : { lat: b.value, lon: a.value }
}

/**
 * A position as people write and copy it: "58.31, -21.62", "58,31 -21,62", "58°18′36″N 21°37′12″W", a geo: address. Latitude first, unless
 * the sides say otherwise. Null where it is none, or lies nowhere on the earth.
 */
export function parsePosition(text: string): Position | null {
  const parts = halves(
    text
      .trim()
      .replace(/^geo:/i, '')
      .replace(/[?].*$/, ''),
  )
  const [a, b] = parts === null ? [null, null] : [degreesOf(parts[0]), degreesOf(parts[1])]
  const position = a && b && inOrder(a, b)
  return position && inRange(position) ? position : null
}

/** Five decimals are about a metre: "58.31000, -21.62000". */
export const formatPosition = ({ lat, lon }: Position): string => `${lat.toFixed(5)}, ${lon.toFixed(5)}`

const EARTH_RADIUS_KM = 6371.0088
const radians = (degrees: number): number => (degrees * Math.PI) / 180

/** Great-circle distance, km (haversine; mean earth radius of the IUGG). */
export function kmBetween(a: Position, b: Position): number {
  const [north, east] = [radians(b.lat - a.lat), radians(b.lon - a.lon)]
  const h = Math.sin(north / 2) ** 2 + Math.cos(radians(a.lat)) * Math.cos(radians(b.lat)) * Math.sin(east / 2) ** 2
  return 2 * EARTH_RADIUS_KM * Math.asin(Math.min(1, Math.sqrt(h)))
}
