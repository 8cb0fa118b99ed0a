import { type DoseWarning, dose, STRENGTH_CEILING_MGL } from '../disinfection/dose'
import { type FlushedPart, type FlushPart, type FlushResult, flush } from '../disinfection/flush'
import { neutralise } from '../disinfection/neutralise'
import type { JobOutlet, JobPlan, Side, StrengthSchool } from '../disinfection/plan'
import { CHLORINE_OF_HYPOCHLORITE, type Strength, strengthNow } from '../disinfection/product'
import { partLitres } from '../disinfection/volume'
import { atLeast } from '../units'
import { contactAsked, plannedContact } from './asked'
import { type DemandPart, demandMgL, demandParts } from './demand'
import { arrivalMinutes, runningOrder } from './outlets'
import { isOwnUnit, isTank, isWell, schoolOf, schoolsFor } from './schools'

export interface JobDose {
  id: 'whole' | 'cold' | 'hot'
  volumeL: number
  /** mL of a liquid, g of a solid. */
  amount: number
  /** How many parts it goes in with the fill, so that it mixes. */
  parts: number
}
export type Thumb = 'one-in-a-thousand' | 'cup-a-tank'
export type Shift = { of: 'age' | 'jug' | 'label' | DemandPart['of']; share: number }
export type JobRefusal =
  | 'nothing-to-wet'
  | 'strength-needs-reason'
  | 'contact-needs-reason'
  | 'hours-too-short'
  | 'no-outlets'
  | 'hot-outlets-missing'
  | 'by-depth-solid'
  | 'stabilised'
  | 'pump-over-two-hours'

export type JobWarning = DoseWarning | 'by-depth-under-50'

export interface JobFigures {
  litres: number[]
  bySide: Record<Side, number>
  totalL: number
  strength: Strength
  unit: 'mL' | 'g'
  demandMgL: number
  doses: JobDose[]
  totalAmount: number
  /** What the amount really gives, mg/L, where a rule of thumb sets it. */
  givesMgL: number
  /** False where the volume is not known: a fixed amount, corrected by the first strips. */
  computed: boolean
  /** Litres of water it is diluted in, water first. */
  bucketL: number
  shifts: Shift[]
  activeShare: number
  thumbs: { id: Thumb; amount: number; givesMgL: number }[]
  warnings: JobWarning[]
  refusals: JobRefusal[]
  /** At least one turnover of the standing water, or ten minutes. Null where nothing is recirculated. */
  recirculateMin: number | null
  arrivals: { outlet: JobOutlet; minutes: number }[]
  flush: Omit<FlushResult, 'parts'> & { parts: (FlushedPart & { id: string; minutes: number })[] }
  flushToMgL: number
  /** What the water is taken to hold when it is flushed: every dose that went in, less the water's own demand; or what strips showed. */
  standsMgL: number
  /** All chlorine of that water, g. */
  chlorineG: number
  neutraliserG: number
}

/** A litre bucket and more where the product alone would fill it: at least ten of water to one of product, never under 10 L. */
const TIMES_WATER = 10
const LEAST_BUCKET_L = 10
const FILL_PARTS = 4
const LEAST_RECIRCULATION_MIN = 10
/** 2 L of 5 %: 100 g of chlorine. */
const FIXED_MG = 100_000
const CUP_ML = 250
/** A dug well's pump is not run longer than this in one go. */
const PUMP_MOST_MIN = 120
const BY_DEPTH_LEAST_MGL = 50
export const CLEAR_MGL = 0.5

/**
 * What the jug holds: by its label and age, or, where a drop of it was thinned and tried with a strip, by that: strip × dilution. The
 * label's percent is scaled along.
 */
export function strengthOf({ product, jug }: Pick<JobPlan, 'product' | 'jug'>): Strength {
  const label = strengthNow(product)
  if (jug === null || product.kind === 'solid') return label
  const available = (jug.mgL * jug.dilution) / 1000
  return { percentNow: (label.percentNow * available) / label.available, available }
}

function dosesOf(plan: JobPlan, bySide: Record<Side, number>, totalL: number): { id: JobDose['id']; volumeL: number }[] {
  if (plan.school === 'well-double')
    return [
      { id: 'cold', volumeL: totalL },
      { id: 'hot', volumeL: totalL },
    ]
  const hotApart = plan.heater === 'include' && bySide.hot > 0
  return hotApart
    ? [
        { id: 'cold', volumeL: totalL - bySide.hot },
        { id: 'hot', volumeL: bySide.hot },
      ]
    : [{ id: 'whole', volumeL: totalL }]
}

/** At least one turnover of the standing water, or ten minutes; null where nothing is recirculated. */
function recirculation(plan: JobPlan, sourceL: number): number | null {
  if (!isWell(plan.targets) || isOwnUnit(plan.targets)) return null
  return Math.max(LEAST_RECIRCULATION_MIN, sourceL / plan.flowLMin)
}

function refusalsOf(plan: JobPlan, totalL: number, recirculateMin: number | null): JobRefusal[] {
  const school = schoolOf(plan.targets, plan.school)
  const found: JobRefusal[] = []
  if (totalL <= 0 && plan.school !== 'volume-unknown') found.push('nothing-to-wet')
  if (plan.targetMgL > STRENGTH_CEILING_MGL && (plan.strengthReason ?? '').trim() === '') found.push('strength-needs-reason')
  if (plannedContact(plan).less && (plan.contactReason ?? '').trim() === '') found.push('contact-needs-reason')
  if (plan.contactHours < school.leastHours) found.push('hours-too-short')
  if (plan.outlets.length === 0) found.push('no-outlets')
  // An excluded heater does not exclude its pipes.
  if (plan.heater !== 'none' && !plan.outlets.some(({ side }) => side === 'hot')) found.push('hot-outlets-missing')
  if (plan.school === 'by-depth' && plan.product.kind === 'solid') found.push('by-depth-solid')
  if (plan.stabilised === true) found.push('stabilised')
  if (plan.targets.includes('dug-well') && (recirculateMin ?? 0) > PUMP_MOST_MIN && plan.secondDay !== true)
    found.push('pump-over-two-hours')
  return found
}

/** What each thing did to the number: shares of the dose it made larger. */
function shiftsOf(plan: JobPlan, strength: Strength, demand: number): Shift[] {
  const shifts: Shift[] = []
  if (plan.product.kind === 'liquid') {
    const lost = 1 - strength.percentNow / plan.product.percent
    if (lost > 0) shifts.push({ of: plan.jug === null ? 'age' : 'jug', share: lost })
    if (plan.product.strengthAs === 'sodium-hypochlorite') shifts.push({ of: 'label', share: 1 - CHLORINE_OF_HYPOCHLORITE })
  }
  for (const { of, mgL } of demandParts(plan.demand)) shifts.push({ of, share: mgL / (plan.targetMgL + demand) })
  return shifts
}

function flushParts(plan: JobPlan, litres: readonly number[]): { id: string; part: FlushPart }[] {
  const q = plan.flowLMin
  return plan.parts.flatMap(({ id, side, part }, index): { id: string; part: FlushPart }[] => {
    const volumeL = litres[index] as number
    if (volumeL <= 0) return []
    if (side === 'tank' && isTank(plan.targets) && volumeL > plan.heelL)
      return [{ id, part: { kind: 'drain-fill', fullL: volumeL, heelL: plan.heelL } }]
    return [{ id, part: { kind: part.kind === 'pipe' ? 'plug' : 'mixed', volumeL, flowLMin: q } }]
  })
}

/**
 * Minutes a part's flush takes. A tank is emptied and filled again at the flow there is, as often as it is flushed.
 */
const flushMinutes = (part: FlushedPart, flowLMin: number): number => ('minutes' in part ? part.minutes : (2 * part.litres) / flowLMin)

/** What a dose leaves free in each litre once the water has had its own: what was meant, or (by depth) what the jug really gives. */
const leftByDose = (plan: JobPlan, { available }: Strength, demand: number): number =>
  plan.school === 'by-depth' ? Math.max(0, available - demand) : plan.targetMgL

/**
 * Everything a job's plan comes to: water, product, what moved the number, rules of thumb beside it, arrival times, flush and
 * neutraliser, unrounded SI. Refusals name what keeps the job from beginning; they never throw. Amounts: V·(target + demand)/available,
 * each dose full; by depth 1 mL a litre; volume unknown 2 L of 5 % in this product's terms. `standsMgL`: what the last strips showed the
 * water to hold; without it every dose is taken to be in it still, since nobody measured what was drawn out.
 */
export function jobFigures(plan: JobPlan, standsMgL: number | null = null): JobFigures {
  const litres = plan.parts.map(({ part }) => partLitres(part))
  const bySide: Record<Side, number> = { source: 0, tank: 0, cold: 0, hot: 0 }
  plan.parts.forEach(({ side }, index) => {
    bySide[side] += litres[index] as number
  })
  const totalL = litres.reduce((sum, one) => sum + one, 0)
  const strength = strengthOf(plan)
  const demand = demandMgL(plan.demand)
  const computed = plan.school !== 'volume-unknown'
  const perLitre = plan.school === 'by-depth' ? 1 : (plan.targetMgL + demand) / strength.available
  const partsOf = (id: JobDose['id']): number => (isTank(plan.targets) && id !== 'hot' ? FILL_PARTS : 1)
  const doses = computed
    ? dosesOf(plan, bySide, totalL).map((one): JobDose => ({ ...one, amount: one.volumeL * perLitre, parts: partsOf(one.id) }))
    : [{ id: 'whole' as const, volumeL: totalL, amount: FIXED_MG / strength.available, parts: partsOf('whole') }]
  const totalAmount = doses.reduce((sum, { amount }) => sum + amount, 0)
  const largest = Math.max(0, ...doses.map(({ amount, parts }) => amount / parts))
  // The warnings and the weak form's share are the core's own, for the label as it is.
  const one = dose({
    volumeL: Math.max(totalL, 1e-9),
    targetMgL: plan.targetMgL,
    demandMgL: demand,
    product: plan.product,
    pH: plan.pH,
    waterC: plan.waterC,
    doses: doses.length === 2 ? 2 : 1,
  })
  const putInMg = computed
    ? doses.reduce((sum, { volumeL }) => sum + volumeL * leftByDose(plan, strength, demand), 0)
    : totalAmount * strength.available
  const stands = standsMgL ?? (totalL > 0 ? putInMg / totalL : plan.targetMgL)
  const chlorineG = (standsMgL !== null && totalL > 0 ? standsMgL * totalL : putInMg) / 1000
  const flushed = flushParts(plan, litres)
  const flushToMgL = plan.supply === 'municipal' ? Math.max(CLEAR_MGL, plan.supplyMgL) : CLEAR_MGL
  const out = flush({ parts: flushed.map(({ part }) => part), fromMgL: Math.max(stands, 1e-9), toMgL: flushToMgL })
  const flushes = out.parts.map((part, index) => ({
    ...part,
    minutes: flushMinutes(part, plan.flowLMin),
    id: (flushed[index] as { id: string }).id,
  }))
  const recirculateMin = recirculation(plan, bySide.source)
  const first = doses[0] as JobDose
  const givesMgL = totalL > 0 ? (first.amount * strength.available) / first.volumeL : 0
  return {
    litres,
    bySide,
    totalL,
    strength,
    unit: plan.product.kind === 'liquid' ? 'mL' : 'g',
    demandMgL: demand,
    doses,
    totalAmount,
    givesMgL,
    computed,
    bucketL: Math.max(LEAST_BUCKET_L, (TIMES_WATER * largest) / 1000),
    shifts: shiftsOf(plan, strength, demand),
    activeShare: one.activeShare,
    thumbs: thumbsOf(plan, strength, totalL),
    warnings: [
      ...one.warnings,
      ...(plan.school === 'by-depth' && !atLeast(givesMgL - demand, BY_DEPTH_LEAST_MGL) ? (['by-depth-under-50'] as const) : []),
    ],
    refusals: refusalsOf(plan, totalL, recirculateMin),
    recirculateMin,
    arrivals: runningOrder(plan.outlets).map((outlet) => ({ outlet, minutes: arrivalMinutes(outlet) })),
    flush: { ...out, parts: flushes, totalMinutes: flushes.reduce((sum, { minutes }) => sum + minutes, 0) },
    flushToMgL,
    standsMgL: stands,
    chlorineG,
    // A gram in each litre of one litre: what all of it asks for.
    neutraliserG: neutralise({ volumeL: 1, chlorineMgL: chlorineG * 1000, agent: plan.neutraliser }).grams,
  }
}

function thumbsOf(plan: JobPlan, { available }: Strength, totalL: number): JobFigures['thumbs'] {
  if (plan.product.kind === 'solid' || totalL <= 0) return []
  const gives = (id: Thumb, amount: number) => ({ id, amount, givesMgL: (amount * available) / totalL })
  return [gives('one-in-a-thousand', totalL), ...(isTank(plan.targets) ? [gives('cup-a-tank', CUP_ML)] : [])]
}

export interface SchoolFigures {
  school: StrengthSchool
  targetMgL: number
  contactHours: number
  amount: number
  doses: number
}

/** The same water by every school that is for it, beside one another: one dose each, how many, how long. */
export function schoolsSideBySide(plan: JobPlan): SchoolFigures[] {
  return schoolsFor(plan.targets).flatMap((school): SchoolFigures[] => {
    if (school === 'by-depth' && plan.product.kind === 'solid') return []
    // A fixed amount is for water that nobody could measure, and for no other.
    if (school === 'volume-unknown' && plan.parts.length > 0) return []
    const { targetMgL, contactHours } = schoolOf(plan.targets, school)
    const { doses } = jobFigures({ ...plan, school, targetMgL, contactHours })
    return [
      {
        school,
        targetMgL,
        contactHours: contactAsked({ ...plan, targetMgL, contactHours }).hours,
        amount: (doses[0] as JobDose).amount,
        doses: doses.length,
      },
    ]
  })
}
