export type FlushPart =
  | { kind: 'mixed'; volumeL: number; flowLMin: number }
  | { kind: 'plug'; volumeL: number; flowLMin: number }
  | { kind: 'drain-fill'; fullL: number; heelL: number }

export type FlushedPart = { minutes: number; litres: number } | { fills: number; litres: number }
export interface FlushInput {
  parts: readonly FlushPart[]
  /** Free chlorine now, mg/L, > 0. */
  fromMgL: number
  /** Free chlorine to come down to, mg/L, > 0. */
  toMgL: number
}
export interface FlushResult {
  parts: FlushedPart[]
  totalLitres: number
  totalMinutes: number
}

/** A pipe pushes its water out ahead of it, with half as much again for what clings to the wall. */
const PLUG_FACTOR = 1.5
/** A count this near a whole number is that number. */
const WHOLE = 1e-9

function fillsOf(fromMgL: number, toMgL: number, fullL: number, heelL: number): number {
  if (fromMgL <= toMgL) return 0
  if (heelL === 0) return 1
  const exact = Math.log(fromMgL / toMgL) / Math.log(fullL / heelL)
  const whole = Math.round(exact)
  return Math.abs(exact - whole) <= WHOLE ? whole : Math.ceil(exact)
}

function flushed(part: FlushPart, fromMgL: number, toMgL: number): FlushedPart {
  if (part.kind === 'drain-fill') {
    if (part.heelL >= part.fullL) throw new RangeError(`heelL must be under fullL, ${part.fullL}, got ${part.heelL}`)
    const fills = fillsOf(fromMgL, toMgL, part.fullL, part.heelL)
    return { fills, litres: fills * (part.fullL - part.heelL) }
  }
  const turnover = part.volumeL / part.flowLMin
  const minutes = part.kind === 'plug' ? PLUG_FACTOR * turnover : turnover * Math.max(0, Math.log(fromMgL / toMgL))
  return { minutes, litres: minutes * part.flowLMin }
}

/**
 * Time and water to bring free chlorine down, by part, unrounded: well mixed t = V/Q·ln(C0/Cend); plug flow t = 1.5·V/Q; drain and
 * fill n = ⌈ln(C0/Cend)/ln(V/heel)⌉ whole fills, no minutes. Throws `RangeError` for a heel as large as the tank.
 */
export function flush({ parts, fromMgL, toMgL }: FlushInput): FlushResult {
  const each = parts.map((part) => flushed(part, fromMgL, toMgL))
  return {
    parts: each,
    totalLitres: each.reduce((sum, { litres }) => sum + litres, 0),
    totalMinutes: each.reduce((sum, part) => sum + ('minutes' in part ? part.minutes : 0), 0),
  }
}
