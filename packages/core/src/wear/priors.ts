/**
 * Every prior of the wear model, each with its reason. Coefficients of variation are of the quantity itself;
 * the model works with the log-normal's sigma.
 */
export const PRIORS = {
  /** Two parts off one line at one site differ about this much. */
  unitCv: 0.25,
  /** Sites differ by water and habits before anything was found there. */
  siteCv: 0.35,
  /** Households of one size draw very different amounts. */
  usageCv: 0.5,
  /** A counter read at least this many days after fitting speaks for the site's own rate. */
  counterSpeaksAfterDays: 14,
  /** Spread left in the rate once a counter has spoken: weeks differ. */
  countedUsageCv: 0.15,
  /** Litres a person draws at a drinking-water point, and in the whole house, a day. */
  litresPerPersonDrinking: 3,
  litresPerPersonHouse: 130,
  /** A part rated at this much or more serves the whole house. */
  wholeHouseFromL: 20_000,
  lampHoursPerDay: 24,
} as const

/** Sigma of the logarithm of a log-normal with this coefficient of variation. */
export const sigmaOfCv = (cv: number): number => Math.sqrt(Math.log(1 + cv * cv))
