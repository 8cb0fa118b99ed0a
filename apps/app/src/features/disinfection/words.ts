import type { Discharge, Reason, Side, StrengthSchool, Target } from '@evenround/core/disinfection'
import type { JobFigures, JobPhase, JobRefusal, JobStand, NoArrival, Shift, StepValue, Thumb } from '@evenround/core/job'
import type { ShownUnits } from '@evenround/core/units'
import { many, say } from '@evenround/core/words'
import { duration, inTrade, quantity } from '../../ui/format'

export const TARGET_WORDS: Record<Target, string> = {
  'drilled-well': say`Drilled well`,
  'dug-well': say`Dug well`,
  'storage-tank': say`Storage tank`,
  'vehicle-tank': say`Vehicle or boat tank`,
  plumbing: say`Plumbing`,
  'drinking-unit': say`Drinking-water unit`,
}
export const REASON_WORDS: Record<Reason, string> = {
  bacteria: say`Bacteria found`,
  'new-or-repaired': say`New or repaired well`,
  flood: say`Flood`,
  opened: say`System was opened`,
  season: say`Start of season`,
  stagnation: say`Long stagnation`,
  yearly: say`Yearly`,
}
export const SIDE_WORDS: Record<Side, string> = { source: say`well`, tank: say`tank`, cold: say`cold`, hot: say`hot` }
export const SCHOOL_WORDS: Record<StrengthSchool, { name: string; why: string }> = {
  'weak-long': { name: say`Weak and long`, why: say`50 mg/L overnight: kind to rubber and to the drain. For tanks and plumbing.` },
  'strong-short': { name: say`Strong and short`, why: say`200 mg/L for four hours: when the water cannot be off overnight.` },
  'well-double': {
    name: say`Well, double dose`,
    why: say`One dose drawn through the cold side, the same again for the hot side: what is drawn leaves the well.`,
  },
  'by-depth': { name: say`By depth, one in a thousand`, why: say`1 mL a litre of standing water, whatever the jug: a rule of thumb.` },
  'volume-unknown': {
    name: say`Volume unknown`,
    why: say`A fixed amount, marked “not computed”; the first strips correct it. A last resort.`,
  },
}
export const DISCHARGE_WORDS: Record<Discharge, string> = {
  sewer: say`Sewer, air gap, with permission`,
  'hard-surface': say`Hard surface, nothing living`,
  neutralised: say`Neutralised first`,
}
export const STAND_WORDS: Record<JobStand, string> = {
  planned: say`Planned`,
  preparing: say`Getting ready`,
  spreading: say`Chlorine on its way to every tap`,
  contact: say`Contact: the clock runs`,
  flushing: say`Flushing`,
  'sample-due': say`Flushed: the sample comes next`,
  'result-due': say`At the laboratory`,
  clean: say`Proved clean`,
  flushed: say`Flushed; not proved by a sample`,
  positive: say`Coliforms found`,
  'e-coli': say`E. coli found`,
  stopped: say`Cancelled`,
}
export const PHASE_WORDS: Record<JobPhase, string> = {
  ready: say`Before anything is opened`,
  protect: say`Protect what chlorine harms`,
  dose: say`Dose`,
  spread: say`To every outlet`,
  flush: say`Flush`,
  back: say`Back to service`,
}
export const NO_ARRIVAL_WORDS: Record<NoArrival, string> = {
  'bypass-open': say`A bypass that still stands open lets the dose go round`,
  'check-valve': say`A check valve or a shut stop on the way here`,
  'dead-leg': say`A dead leg, or more pipe than was thought`,
  'dose-small': say`The dose was too small: measure at the entry`,
  'used-up': say`It is used up on the way: iron, slime. Measure at the entry and dose again`,
}
export const REFUSAL_WORDS: Record<JobRefusal, string> = {
  'nothing-to-wet': say`Say what will be wetted: without a volume there is no dose.`,
  'strength-needs-reason': say`Over 200 mg/L needs a reason in writing: corrosion, gas, a longer flush.`,
  'contact-needs-reason': say`Strength × time is less than usual: that needs a reason in writing.`,
  'hours-too-short': say`That is shorter than this method allows. More chlorine never replaces time.`,
  'no-outlets': say`Name the outlets: each is run until a strip shows the dose.`,
  'hot-outlets-missing': say`There is a heater: name the hot outlets as well. In bypass or not, its pipes are dosed.`,
  'by-depth-solid': say`One in a thousand is for liquid product only.`,
  stabilised: say`Stabilised product: the cyanuric acid in it stays in the water, and holds the chlorine back. It is for pools, never for water that is drunk.`,
  'pump-over-two-hours': say`Mixing this well takes the pump over two hours: plan it over two days, the outlets on the second.`,
}
const SHIFT_WORDS: Record<Shift['of'], string> = {
  age: say`The jug’s age`,
  jug: say`The jug, by your strip`,
  label: say`A label in sodium hypochlorite`,
  ironMgL: say`Iron`,
  manganeseMgL: say`Manganese`,
  sulphideMgL: say`Sulphide`,
  ammoniaNMgL: say`Ammonia`,
  otherMgL: say`Slime and other demand`,
}
/** "The jug’s age took 10 %". */
export const shiftText = ({ of, share }: Shift): string =>
  share < 0
    ? say`${SHIFT_WORDS[of]} gave ${Math.abs(Math.round(share * 100))} %`
    : say`${SHIFT_WORDS[of]} took ${Math.abs(Math.round(share * 100))} %`
export const THUMB_WORDS: Record<Thumb, string> = {
  'one-in-a-thousand': say`One in a thousand`,
  'cup-a-tank': say`A cup a tank`,
}

const round2 = (value: number): string => String(Math.round(value * 100) / 100)
const metric = (amount: number, small: string, large: string): string =>
  amount < 10
    ? `${Number(amount.toPrecision(2))} ${small}`
    : amount < 1000
      ? `${Math.round(amount)} ${small}`
      : `${round2(amount / 1000)} ${large}`

/** "405 mL (13¾ fl oz; 1½ cups + 3 tbsp + 1 tsp)", "1.62 L", "236 g (8¼ oz)": kitchen measures where the firm's are, never alone. */
export function amountText(amount: number, unit: JobFigures['unit'], units: ShownUnits): string {
  const said = unit === 'g' ? metric(amount, 'g', 'kg') : metric(amount, 'mL', 'L')
  if (units.volume !== 'gal') return said
  if (unit === 'g') return `${said} (${ouncesText(amount / OZ_G, 'oz')})`
  return `${said} (${[ouncesText(amount / FL_OZ_ML, say`fl oz`), ...cupsText(amount)].join('; ')})`
}

/** US measures: an avoirdupois ounce in grams; fluid ounce, cup and teaspoon in millilitres. */
const OZ_G = 28.349523125
const FL_OZ_ML = 29.5735295625
const CUP_ML = 8 * FL_OZ_ML
const TSP_ML = FL_OZ_ML / 6
/** No measure stands for an amount it is further from than this. */
const OFF_MOST = 0.05
const near = (said: number, meant: number): boolean => Math.abs(said - meant) <= OFF_MOST * meant
const QUARTERS = ['', '¼', '½', '¾'] as const
const inQuarters = (quarters: number): string => `${quarters < 4 ? '' : Math.floor(quarters / 4)}${QUARTERS[quarters % 4]}`
const counted = (quarters: number, one: string, many: string): string[] =>
  quarters === 0 ? [] : [`${inQuarters(quarters)} ${quarters <= 4 ? one : many}`]

/** In quarters where that is near enough, else with as many figures as it takes. */
function ouncesText(ounces: number, name: string): string {
  const quarters = Math.round(ounces * 4)
  return near(quarters / 4, ounces) && quarters > 0 ? `${inQuarters(quarters)} ${name}` : `${Number(ounces.toPrecision(2))} ${name}`
}

/**
 * "1½ cups + 3 tbsp + 1 tsp": what a kitchen can measure, whole teaspoons from a cup on, quarter teaspoons below; nothing where that
 * would be off by more than a twentieth. A dose is not rounded to the next cup.
 */
function cupsText(ml: number): string[] {
  if (ml / CUP_ML > 16) return [say`${round2(ml / (16 * CUP_ML))} US gal`]
  const step = ml < CUP_ML ? 1 : 4
  const left = Math.round((ml / TSP_ML) * (4 / step)) * step
  if (!near((left / 4) * TSP_ML, ml)) return []
  // In quarter teaspoons: 48 a quarter cup, 12 a tablespoon.
  const cups = Math.floor(left / 48)
  const spoons = Math.floor((left % 48) / 12)
  return [[...counted(cups, 'cup', 'cups'), ...counted(spoons * 4, 'tbsp', 'tbsp'), ...counted(left % 12, 'tsp', 'tsp')].join(' + ')]
}

/** A step's sentence with its figures in the firm's units. */
export function sayStep(text: string, values: Record<string, StepValue> | undefined, unit: JobFigures['unit'], units: ShownUnits): string {
  if (!values) return inTrade(text, units)
  return inTrade(text, units).replace(/\{(\w+)\}/g, (whole, name: string) => {
    const found = values[name]
    if (!found) return whole
    const { kind, value } = found
    if (kind === 'litres') return quantity(value, 'volume', units)
    if (kind === 'amount') return amountText(value, unit, units)
    if (kind === 'grams') return amountText(value, 'g', units)
    if (kind === 'hours') return many(Math.round(value * 10) / 10, 'hour', 'hours')
    return value < 1 ? say`under a minute` : duration(value)
  })
}
