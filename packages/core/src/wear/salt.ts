/** What a usual brine tank takes up to its mark, kg; its last fifth is left for the day nobody comes. */
const TANK_KG = 25
const USED_SHARE = 0.8
/** Hardness one kilogram of salt buys back at a usual setting, kg as calcium carbonate. */
const CARBONATE_PER_KG = 0.48
const USUAL_HARDNESS_MGL = 250
const [LEAST_DAYS, MOST_DAYS] = [7, 365]

export interface SaltInput {
  /** Filled up to the mark now, kg. */
  filledKg: number
  /** Days since it was last filled to the mark; null where nobody knows. */
  daysSince: number | null
  /** Drawn through the softener, litres a day, > 0. */
  litresPerDay: number
  /** Before it, as calcium carbonate; null where nobody measured. */
  hardnessMgL: number | null
}

/**
 * Days until a softener wants salt again, 7 to 365: a tank's usable salt over what it used since it was last full; where nobody knows when
 * that was, over what its water's hardness asks for (litres × hardness ÷ 0.48 kg of hardness a kilogram). Our defaults.
 */
export function saltDays({ filledKg, daysSince, litresPerDay, hardnessMgL }: SaltInput): number {
  const byUse = daysSince !== null && daysSince > 0 && filledKg > 0 ? filledKg / daysSince : null
  const byWater = (litresPerDay * (hardnessMgL ?? USUAL_HARDNESS_MGL)) / 1e6 / CARBONATE_PER_KG
  const days = (TANK_KG * USED_SHARE) / Math.max(1e-6, byUse ?? byWater)
  return Math.round(Math.min(MOST_DAYS, Math.max(LEAST_DAYS, days)))
}
