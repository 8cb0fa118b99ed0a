import type { ContactResult, StripPoint } from './contact'

/** Chlorine at a minute between two strips, mg/L: it falls as logarithms do. 0 where either strip was 0, null outside of the strips. */
export function chlorineBetween(strips: readonly StripPoint[], minute: number): number | null {
  for (let index = 1; index < strips.length; index++) {
    const [one, two] = [strips[index - 1], strips[index]]
    if (!one || !two || minute < one.minute || minute > two.minute) continue
    if (one.mgL <= 0 || two.mgL <= 0) return 0
    return one.mgL * (two.mgL / one.mgL) ** ((minute - one.minute) / (two.minute - one.minute))
  }
  return null
}

/** Chlorine to be expected at a minute after the last strip, mg/L: the last decay goes on; before a second strip none is known. */
export function chlorineAhead(strips: readonly StripPoint[], result: Pick<ContactResult, 'decayPerHour'> | null, minute: number): number {
  const last = strips.at(-1)
  if (!last) return 0
  return last.mgL * Math.exp((-(result?.decayPerHour ?? 0) / 60) * (minute - last.minute))
}
