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
  /** Litres of one week against the next at the same tap: washing days, guests. Averages out over the weeks counted. */
  weeklyUsageCv: 0.2,
  /** A household changes its habits from one part's life to the next: children leave, a dog comes. */
  yearlyUsageCv: 0.1,
  /** Litres a person draws at a drinking-water point, and in the whole house, a day. */
  litresPerPersonDrinking: 3,
  litresPerPersonHouse: 130,
  /** A part rated at this much or more serves the whole house. */
  wholeHouseFromL: 20_000,
  lampHoursPerDay: 24,
  /** Feed TDS of a resin before anyone measured it: ordinary tap water, and how far it may be from that. */
  feedTdsMgL: 180,
  feedTdsCv: 0.5,
  /** The meter in the feed, and the water's own drift between readings, shrinking with their number. */
  feedReadingCv: 0.06,
  /** A grade is a glance: the share of life it stands for is seen with this error. */
  gradeCv: 0.1,
  /** Share of grades that say nothing (another part looked at, a slip of the thumb). */
  gradeSlip: 0.02,
  /** Share of readings that are simply wrong (a missed ten-times mark, a valve half open), and how wide they scatter on the log scale. */
  wildShare: 0.02,
  wildDensity: 0.15,
  /** Readings can mislead altogether (a bypass left open): this share of the prior survives any of them. */
  misleading: 1e-5,
} as const

/** Nobody asks beyond two hundred years: a part that nothing uses up stays until then. */
export const LONGEST_LIFE_DAYS = 73_050
/** As likely over as not: from here on nobody is promised a later end. */
export const AS_LIKELY_AS_NOT = 0.5

/** One standard deviation of each reading's logarithm, besides what a channel adds itself. */
export const READING_SD = {
  /** Two gauges with a needle each, and a dirty week now and then that litres alone do not tell. */
  dropShare: 0.07,
  dropKpa: 0.7,
  /** Bucket and watch at a tap. */
  flow: 0.05,
  /** Two TDS readings, one over the other, with what pressure and temperature do to the permeate in between. */
  passage: 0.08,
  /** A jug under the permeate tube by the watch, and what the temperature table leaves over. */
  production: 0.095,
  /** The same jug when nobody took the water's temperature: cold water makes a quarter less. */
  productionNoTemperature: 0.15,
  /** Colour of a strip. */
  chlorine: 0.2,
  /** A sensor behind a wiped sleeve. */
  intensity: 0.025,
} as const

/** What a growth channel starts from before its own readings say so: mean and sd of the logarithm. */
export const START = {
  /** Clean drop of an element, about 10 kPa, from a half to twice that. */
  dropKpa: { mean: Math.log(10), sd: 0.7 },
  /** Passage of a sound membrane, about 5 %. */
  passage: { mean: Math.log(0.05), sd: 0.5 },
  /** Chlorine a fresh carbon lets through, about 0.01 mg/L; what a strip shows as nothing stands at 0.02. */
  chlorineMgL: { mean: Math.log(0.01), sd: 0.7 },
  chlorineUnseenMgL: 0.02,
  /** A new lamp is at 100 % by definition. */
  intensity: { mean: 0, sd: 0.01 },
} as const

/** Sigma of the logarithm of a log-normal with this coefficient of variation. */
export const sigmaOfCv = (cv: number): number => Math.sqrt(Math.log(1 + cv * cv))
