/** A part of the plumbing that will be wetted. Lengths of bodies in metres, diameters in millimetres, volumes in litres, pressures in kPa gauge. */
export type VolumePart =
  | { kind: 'casing'; diameterMm: number; depthM: number; staticLevelM: number }
  | { kind: 'upright-cylinder'; diameterMm: number; waterDepthM: number }
  | { kind: 'lying-cylinder'; diameterMm: number; lengthM: number; waterDepthM: number }
  | { kind: 'box'; lengthM: number; widthM: number; waterDepthM: number }
  | { kind: 'pressure-tank'; volumeL: number; prechargeKpa: number; pressureKpa: number }
  | { kind: 'pipe'; boreMm: number; lengthM: number }
  | { kind: 'known'; volumeL: number }

export interface VolumeResult {
  /** One figure a part, in order. */
  litres: number[]
  totalL: number
}

const LITRES_PER_M3 = 1000
const ATMOSPHERE_KPA = 101.325

const cylinderL = (diameterMm: number, heightM: number): number => (Math.PI / 4) * (diameterMm / 1000) ** 2 * heightM * LITRES_PER_M3

/** L·(r²·acos((r−h)/r) − (r−h)·√(2rh−h²)). */
function lyingL(diameterMm: number, lengthM: number, depthM: number): number {
  const r = diameterMm / 2000
  if (depthM > 2 * r) throw new RangeError(`waterDepthM must be at most the diameter, ${2 * r} m, got ${depthM}`)
  const above = r - depthM
  const segment = r * r * Math.acos(above / r) - above * Math.sqrt(Math.max(0, 2 * r * depthM - depthM * depthM))
  return lengthM * segment * LITRES_PER_M3
}

/**
 * Water in one part, litres, unrounded, ≥ 0. A well's casing counts its standing water only: depth less static level. A pressure tank
 * holds V·(1 − (precharge + 101.325)/(p + 101.325)), none at or under its precharge. Throws `RangeError` for a level deeper than the
 * well, or water deeper than a lying cylinder.
 */
export function partLitres(part: VolumePart): number {
  switch (part.kind) {
    case 'casing': {
      const standing = part.depthM - part.staticLevelM
      if (standing < 0) throw new RangeError(`staticLevelM must be at most depthM, ${part.depthM}, got ${part.staticLevelM}`)
      return cylinderL(part.diameterMm, standing)
    }
    case 'upright-cylinder':
      return cylinderL(part.diameterMm, part.waterDepthM)
    case 'lying-cylinder':
      return lyingL(part.diameterMm, part.lengthM, part.waterDepthM)
    case 'box':
      return part.lengthM * part.widthM * part.waterDepthM * LITRES_PER_M3
    case 'pressure-tank':
      return Math.max(0, part.volumeL * (1 - (part.prechargeKpa + ATMOSPHERE_KPA) / (part.pressureKpa + ATMOSPHERE_KPA)))
    case 'pipe':
      return cylinderL(part.boreMm, part.lengthM)
    case 'known':
      return part.volumeL
  }
}

/** The water of all parts and their sum, litres, unrounded. */
export function volume({ parts }: { parts: readonly VolumePart[] }): VolumeResult {
  const litres = parts.map(partLitres)
  return { litres, totalL: litres.reduce((sum, one) => sum + one, 0) }
}
