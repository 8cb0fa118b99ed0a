/** Chlorine as it is bought. `percent` is the label's figure on the day of filling. */
export type Product =
  | {
      kind: 'liquid'
      percent: number
      basis: 'w/w' | 'w/v'
      /** Needed for w/w. */
      densityKgL?: number
      /** What the label states; available chlorine where it does not say. */
      strengthAs?: 'available-chlorine' | 'sodium-hypochlorite'
      ageDays: number
      storedAtC: number
      thickened?: boolean
    }
  | { kind: 'solid'; percent: number }

const KELVIN = 273.15
const GAS = 8.314
/** Chlorine a sodium hypochlorite figure stands for: molar masses of Cl₂ and NaOCl. */
export const CHLORINE_OF_HYPOCHLORITE = 70.906 / 74.442
const ORDER = 1.85

/**
 * Days in which liquid hypochlorite of `percent` % loses half its strength at `storedAtC` °C: 220·(c/10)^−1.85·exp((92300/R)·(1/T − 1/298.15)).
 * Fitted to published half-life tables; activation energy after Lister 1956.
 */
export function halfLifeDays(percent: number, storedAtC: number): number {
  const t = storedAtC + KELVIN
  return 220 * (percent / 10) ** -ORDER * Math.exp((92_300 / GAS) * (1 / t - 1 / 298.15))
}

/** Strength left of a label figure after `ageDays`, %: c·(1 + (2^1.85 − 1)·t/half-life)^(−1/1.85). Never over the label. */
export function percentAfter(percent: number, ageDays: number, storedAtC: number): number {
  return percent * (1 + ((2 ** ORDER - 1) * ageDays) / halfLifeDays(percent, storedAtC)) ** (-1 / ORDER)
}

export interface Strength {
  /** As on the label, now; % of the label's own basis. */
  percentNow: number
  /** Available chlorine: mg per mL of a liquid, mg per g of a solid. */
  available: number
}

/** What a product holds now. Solids are taken not to age. Throws `RangeError` for w/w without a density. */
export function strengthNow(product: Product): Strength {
  if (product.kind === 'solid') return { percentNow: product.percent, available: product.percent * 10 }
  const { percent, basis, densityKgL, strengthAs = 'available-chlorine', ageDays, storedAtC } = product
  if (basis === 'w/w' && densityKgL === undefined) throw new RangeError('densityKgL must be given for a strength by weight')
  const percentNow = percentAfter(percent, ageDays, storedAtC)
  const byVolume = percentNow * 10 * (basis === 'w/w' ? (densityKgL as number) : 1)
  return { percentNow, available: strengthAs === 'sodium-hypochlorite' ? byVolume * CHLORINE_OF_HYPOCHLORITE : byVolume }
}

/** Share of free chlorine in its strong form, hypochlorous acid: 1/(1 + 10^(pH − pKa)), pKa = 3000/T − 10.0686 + 0.0253·T (Morris 1966). */
export function activeShare(pH: number, waterC: number): number {
  const t = waterC + KELVIN
  const pKa = 3000 / t - 10.0686 + 0.0253 * t
  return 1 / (1 + 10 ** (pH - pKa))
}
